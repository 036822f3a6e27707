package notes

import (
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"
)

// brief writes changes on one line each: where, version, kind, title, pairs.
func brief(changes []Change) string {
	var list []string
	for _, c := range changes {
		text := fmt.Sprintf("%d-%d %s %s: %s", c.Line, c.End, orDash(c.Version), c.Kind, c.Title)
		for _, r := range c.Renames {
			text += " [" + r.From + ">" + r.To + "]"
		}
		list = append(list, text)
	}
	return strings.Join(list, "\n")
}

// TestForms reads short documents of every form, as they are met.
func TestForms(t *testing.T) {
	for _, test := range []struct {
		name string
		form Form
		text string
		want []string
	}{
		{
			"a list whose items have paragraphs", FormMarkdown, "# 5.0\n\n- One.\n\n  More of it.\n\n- Two\n",
			[]string{"3-5 5.0 behaviour: One. More of it", "7-7 5.0 behaviour: Two"},
		},
		{
			"setext headings", FormMarkdown, "5.0\n===\n\nBreaking\n---\n\n* **Lid:** `a` is gone\n",
			[]string{"7-7 5.0 removed: a is gone"},
		},
		{
			"kinds set before the entries", FormMarkdown, "## 5.0\n\n- **added:** `a` opens\n- Bugfix [Fuzz]: `b` shuts\n- Removed: `c`\n- **Lid:** `d` turns\n- Improvement: when pressed, `e` hums\n- Build Improvement: wood\n",
			[]string{"3-3 5.0 added: a opens", "4-4 5.0 fixed: b shuts", "5-5 5.0 removed: c", "6-6 5.0 behaviour: d turns", "7-7 5.0 behaviour: when pressed, e hums", "8-8 5.0 behaviour: wood"},
		},
		{
			"a plain change log whose versions are set off by stars", FormText, "jar changelog\n\nRelease 1.5.3 [2032-Aug-24]\n  * Change: removed `a`\n    <https://example.org/7>\n\n*** Release 1.5.2 [2032-Jul-04]\n  * Bugfix: the lid shuts\n",
			[]string{"4-5 1.5.3 removed: removed a", "8-8 1.5.2 fixed: the lid shuts"},
		},
		{"what something does by now", FormMarkdown, "## 5.0\n\n- `dump()` now writes null and removes empty keys\n- `dump()` removes `a`\n", []string{"3-3 5.0 behaviour: dump() now writes null and removes empty keys", "4-4 5.0 removed: dump() removes a"}},
		{"an abbreviation within a sentence", FormMarkdown, "## 5.0\n\n- Extra commas (e.g. `[a,,b]`) are refused. Mind them.\n- `__lid__` is no key any more.\n", []string{"3-3 5.0 behaviour: Extra commas (e.g. [a,,b]) are refused", "4-4 5.0 behaviour: __lid__ is no key any more"}},
		{"a task list", FormMarkdown, "## 5.0\n\n- [x] `a` was removed\n- [ ] `b` was removed\n", []string{"3-3 5.0 removed: [x] a was removed", "4-4 5.0 removed: [ ] b was removed"}},
		{"a link in a heading", FormMarkdown, "## [5.0.1](https://example.org/5.0.1) (2031-01-02)\n\n### Bug Fixes\n\n* **lid:** close ([abc](x))\n", []string{"5-5 5.0.1 fixed: close (abc)"}},
		{"a table whose names stand behind a subject", FormMarkdown, "## 5.0\n\n| What | Before | Now |\n| --- | --- | --- |\n| lids | `Lid` | `Cover` |\n", []string{"5-5 5.0 renamed: Lid → Cover (lids) [Lid>Cover]"}},
		{"a table of what stands in", FormMarkdown, "## 5.0\n\n| Function | Replacement |\n| --- | --- |\n| `openLid` | `open` |\n", []string{"5-5 5.0 renamed: openLid → open [openLid>open]"}},
		{"a table that is no table of names", FormMarkdown, "## 5.0\n\n### Sizes\n\n| jar | lid |\n| --- | --- |\n| 1 | 2 |\n", []string{"3-7 5.0 behaviour: Sizes"}},
		{"versions as columns", FormMarkdown, "# Migrating from 4 to 5\n\n## Names\n\n| 4.x | 5.x |\n| --- | --- |\n| `a` | `b` |\n", []string{"7-7 5 renamed: a → b [a>b]"}},
		{"a quote", FormMarkdown, "## 5.0\n\n> `a` was renamed to `b`\n", []string{"3-3 5.0 renamed: a was renamed to b [a>b]"}},
		{"pre-releases", FormMarkdown, "## 5.0.0-beta.2\n\n- x `a`\n\n## 5.0.0-alpha\n\n- y `b`\n", []string{"3-3 5.0.0-beta.2 behaviour: x a", "7-7 5.0.0-alpha behaviour: y b"}},
		{"a section inside a version", FormMarkdown, "# Notes\n\n## 5.0\n\n### The lid of a jar\n\nIt closes by itself now.\n\n### Node 22 is required\n\nYes.\n", []string{"5-7 5.0 behaviour: The lid of a jar", "9-11 5.0 requirement: Node 22 is required"}},
		{
			"before and after", FormMarkdown, "# Upgrading to 5\n\n## Open\n\n**Before:**\n\n```js\na.open()\n```\n\n**After:**\n\n```js\na.lift()\n```\n",
			[]string{"3-15 5 renamed: Open [a.open>a.lift]"},
		},
		{
			"a module that moved", FormMarkdown, "# Upgrading to 5\n\n## Lids live in `jar/caps`\n\nThe entry `jar/lids` is no longer there.\n",
			[]string{"3-5 5 moved: Lids live in jar/caps [jar/lids>jar/caps]"},
		},
		{"HTML without closing tags", FormHTML, "<html><body><h2>5.0</h2><ul><li><code>a</code> is now <code>b</code><li>c</ul>", []string{"1-1 5.0 renamed: a is now b [a>b]", "1-1 5.0 behaviour: c"}},
		{"HTML with entities", FormHTML, "<div>\n<h3>Version 5.0</h3>\n<p>a &lt; b &amp; <code>x&lt;T&gt;</code> was removed</p></div>", []string{"3-3 5.0 removed: a < b & x<T> was removed"}},
		{"HTML that nests lists", FormHTML, "<h2>5.0</h2>\n<ul>\n<li>Lids:\n<ul>\n<li><code>a_b</code> is gone</li>\n<li><code>c_d</code> is gone</li>\n</ul>\n</li>\n</ul>", []string{"5-5 5.0 removed: a_b is gone", "6-6 5.0 removed: c_d is gone"}},
		{"HTML with a heading in a header", FormHTML, "<html><body><article><header><h1>Version 5.0</h1></header><p><code>a</code> was removed</p></article></body></html>", []string{"1-1 5.0 removed: a was removed"}},
		{"HTML with code in blocks", FormHTML, "<h2>Version 5</h2><h3>Open</h3><p>Before:</p><pre>a.open()\n</pre><p>After:</p><pre>a.lift()</pre>", []string{"1-2 5 renamed: Open [a.open>a.lift]"}},
		{"reStructuredText with roles", FormRST, "5.0\n===\n\n* :meth:`Jar.open` was renamed to :meth:`Jar.lift`.\n", []string{"4-4 5.0 renamed: Jar.open was renamed to Jar.lift [Jar.open>Jar.lift]"}},
		{"reStructuredText in a numbered list", FormRST, "5.0\n~~~\n\n#. ``a`` is gone\n#. ``b``\n   is gone\n", []string{"4-4 5.0 removed: a is gone", "5-6 5.0 removed: b is gone"}},
		{"reStructuredText with a note", FormRST, "5.0\n~~~\n\n.. warning::\n\n   ``a`` was removed.\n", []string{"6-6 5.0 removed: a was removed"}},
		{"reStructuredText with an overline", FormRST, "=====\nLids\n=====\n\n5.0\n---\n\n- ``a`` was removed\n", []string{"8-8 5.0 removed: a was removed"}},
		{"reStructuredText with a field", FormRST, ".. module:: jar\n\n5.0\n---\n\n:Removed: ``a``\n", []string{"6-6 5.0 removed: a"}},
		{"text with dashes", FormText, "Version 5.0 (2031-01-02)\n  - `a` was removed,\n    for good\n  - b\n\nVersion 4.9\n  - c\n", []string{"2-3 5.0 removed: a was removed, for good", "4-4 5.0 behaviour: b", "7-7 4.9 behaviour: c"}},
		{"text as Debian has it", FormText, "jar (5.0-1) unstable; urgency=low\n\n  * Remove lid_open().\n  * New upstream.\n\n -- Ilse <ilse@example.org>  Thu, 02 Jan 2031 10:00:00 +0000\n", []string{"3-3 5.0 removed: Remove lid_open()", "4-4 5.0 added: New upstream"}},
		{"text with labels", FormText, "5.0:\n\nRemoved:\n- jar_open\n- jar_shut\n\nAdded:\n- jar_lift\n", []string{"4-4 5.0 removed: jar_open", "5-5 5.0 removed: jar_shut", "8-8 5.0 added: jar_lift"}},
		{"text in capitals", FormText, "RELEASE 5.0\n\nREMOVED\n\njar_open() is gone.\n", []string{"5-5 5.0 removed: jar_open() is gone"}},
		{"text with an example", FormText, "5.0\n\nThe lid moved. Use it like this:\n\n    jar.lift(lid)\n\nDone.\n", []string{"3-5 5.0 moved: The lid moved", "7-7 5.0 behaviour: Done"}},
		{"versions in paragraphs of their own", FormMarkdown, "v5.0.0 - May 8, 2031\n\n* [`1a2b3c4`](x) `a` is gone\n* [`2a2b3c4`](x) `c` is gone\n\nv4.9.1-beta.1 - April 2, 2031\n\n* `b` is gone\n\n5.1 kilos are too many.\n", []string{"3-3 5.0.0 removed: a is gone", "4-4 5.0.0 removed: c is gone", "8-8 4.9.1-beta.1 removed: b is gone", "10-10 4.9.1-beta.1 behaviour: 5.1 kilos are too many"}},
		{"what is left of a commit", FormMarkdown, "## 5.0\n\n- 1a2b3c4: `a` is gone (#12)\n- `b` is gone, closes #9\n- [`c`](x) is gone ([#3](y)) ([1a2b3c4](z)) thanks @ilse\n- feat(lid)!: drop `d`\n- [docs] spell lid right\n- <!-- 7 --> `e` is gone by @ilse in https://example.org/7\n", []string{"3-3 5.0 removed: a is gone", "4-4 5.0 removed: b is gone", "5-5 5.0 removed: c is gone", "6-6 5.0 removed: drop d", "7-7 5.0 behaviour: spell lid right", "8-8 5.0 removed: e is gone"}},
		{"numbers that belong to the words", FormMarkdown, "## 5.0\n\n- Lids hold up to 12\n- `a` returns 404 (not 200)\n- Exit code is 3\n", []string{"3-3 5.0 behaviour: Lids hold up to 12", "4-4 5.0 behaviour: a returns 404 (not 200)", "5-5 5.0 behaviour: Exit code is 3"}},
		{"what breaks under additions", FormMarkdown, "## 5.0\n\n### Added\n\n- `open` now throws when the jar is shut\n- `lift` opens a jar\n\n### Fixed\n\n- `shut` no longer accepts a string\n- `shut` no longer crashes on an empty jar\n", []string{"5-5 5.0 behaviour: open now throws when the jar is shut", "6-6 5.0 added: lift opens a jar", "10-10 5.0 behaviour: shut no longer accepts a string", "11-11 5.0 fixed: shut no longer crashes on an empty jar"}},
		{"versions in bold", FormMarkdown, "# History\n\n**5.0** (2031-01-02)\n\n- `a` is gone\n\n**4.9**\n\n- `b` is gone\n", []string{"5-5 5.0 removed: a is gone", "9-9 4.9 removed: b is gone"}},
		{"out of a version", FormMarkdown, "# Moving from 4.x\n\n## Lids\n\n`openLid` was renamed to `open`.\n", []string{"3-5 5 renamed: Lids [openLid>open]"}},
		{"between two versions", FormMarkdown, "# Changes between 4.2 and 5.0\n\n- `a` is gone\n", []string{"3-3 5.0 removed: a is gone"}},
		{"a release and those before it", FormMarkdown, "## 5.0.0\n\n- `openLid` was removed from the jar\n\n## 5.0.0-rc.1\n\n- `openLid` was removed from the jar\n- `shutLid` was removed from the jar\n", []string{"3-3 5.0.0 removed: openLid was removed from the jar", "8-8 5.0.0-rc.1 removed: shutLid was removed from the jar"}},
		{"names in order, by other words", FormMarkdown, "## 5.0\n\n- The functions `a_one`, `a_two` and `a_three` have been replaced by `b_one`, `b_two` and `b_three`\n", []string{"3-3 5.0 renamed: The functions a_one, a_two and a_three have been replaced by b_one, b_two and b_three [a_one>b_one] [a_two>b_two] [a_three>b_three]"}},
		{"lists that do not pair", FormMarkdown, "## 5.0\n\n- `a_one`, `a_two` and `a_three` were renamed to `b_one` and `b_two`\n", []string{"3-3 5.0 renamed: a_one, a_two and a_three were renamed to b_one and b_two"}},
		{"names in order", FormMarkdown, "## 5.0\n\n- `openLid` and `shutLid` were renamed to `open` and `shut` respectively\n", []string{"3-3 5.0 renamed: openLid and shutLid were renamed to open and shut respectively [openLid>open] [shutLid>shut]"}},
		{"rows that tell of changes", FormMarkdown, "# History\n\n| Version | Change |\n| --- | --- |\n| 5.0 | `openLid` was removed |\n| 4.9 | `openLid` is deprecated |\n", []string{"5-5 5.0 removed: openLid was removed", "6-6 4.9 deprecated: openLid is deprecated"}},
		{"names with what is said of them", FormMarkdown, "# Deprecated API\n\n## Methods\n\n`Jar.openLid()`\n\nUse `Jar.open()`.\n\n`Jar.shutLid(boolean)`\n\n`Jar.hinge`\n\nThere is none now.\n", []string{"5-7 - deprecated: Jar.openLid()", "9-9 - deprecated: Jar.shutLid(boolean)", "11-13 - deprecated: Jar.hinge: There is none now"}},
		{"a page with its contents", FormHTML, "<nav><a href='#a'>5.0</a></nav><h1>Jar 5.0</h1><h2>Contents</h2><ul><li><a href='#l'>Lids</a></li><li><a href='#h'>Hinges</a></li></ul><h2>Removed</h2>\n<ul><li><code>openLid</code></li></ul><footer>Jar 4.9 was the last</footer>", []string{"2-2 5.0 removed: openLid"}},
		{"character references", FormMarkdown, "## 5.0\n\n- `a` &amp; `b` are gone\n", []string{"3-3 5.0 removed: a & b are gone"}},
		{"a lead-in that tells of all", FormMarkdown, "## 5.0\n\nThe following were removed:\n\n- `a`\n- `b`\n", []string{"5-5 5.0 removed: a", "6-6 5.0 removed: b"}},
		{"a readme with a part about moving", FormMarkdown, "# Jar\n\nA jar.\n\n## Install\n\n`get jar`\n\n## Upgrading from 4 to 5\n\n- `openLid` was renamed to `open`\n\n## Licence\n\nFree.\n", []string{"11-11 5 renamed: openLid was renamed to open [openLid>open]"}},
		{"text in quotes", FormText, "5.0\n\n* 'openLid' was renamed to 'open_lid'\n", []string{"3-3 5.0 renamed: openLid was renamed to open_lid [openLid>open_lid]"}},
		{
			"a commit with a scope", FormCommits, "commit 0123456789abcdef0123456789abcdef01234567 (HEAD -> main, tag: jar/v5.0.0)\nAuthor: I <i@example.org>\n\n    feat(lid)!: drop `Jar.lid`\n",
			[]string{"4-4 5.0.0 removed: drop Jar.lid"},
		},
		{"a commit that is not released", FormCommits, "commit 0123456789abcdef0123456789abcdef01234567\nAuthor: I <i@example.org>\n\n    fix: `a` waits\n\n    BREAKING CHANGE: `b` is gone\n", []string{"6-6 unreleased removed: b is gone"}},
	} {
		t.Run(test.name, func(t *testing.T) {
			if form := FormOf([]byte(test.text)); form != test.form {
				t.Errorf("it is taken for %s", form)
			}
			if got := brief(Read("x", "p", []byte(test.text))); got != strings.Join(test.want, "\n") {
				t.Errorf("got\n%s\nwant\n%s", got, strings.Join(test.want, "\n"))
			}
		})
	}
}

// TestPages reads documents in the shapes in which they are met: pages as they
// are saved, histories of an interface, lists of deprecations, what a machine
// makes of commits. Beside each stands what a person reads in it.
func TestPages(t *testing.T) {
	names, err := filepath.Glob("testdata/pages/*.want")
	if err != nil || len(names) == 0 {
		t.Fatal("no pages", err)
	}
	for _, name := range names {
		want, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		name = strings.TrimSuffix(name, ".want")
		source, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		if got := brief(Read(filepath.Base(name), "p", source)) + "\n"; got != string(want) {
			t.Errorf("%s\ngot\n%s\nwant\n%s", name, got, want)
		}
	}
}

// TestHistoryOfCommits reads a change log of 5,000 lines as tools write it from
// commits, and compares every entry.
func TestHistoryOfCommits(t *testing.T) {
	sections := []struct {
		heading string
		entries []struct{ text, want string }
	}{
		{"### ⚠ BREAKING CHANGES", []struct{ text, want string }{
			{"* **scale:** `read%d` was removed ([#%d](https://example.org/issues/%d))", "removed: read%d was removed"},
			{"* **belt:** `pause%d` now returns a promise", "signature: pause%d now returns a promise"},
		}},
		{"### Features", []struct{ text, want string }{
			{"* **ledger:** add `find%d` ([1a2b3c4](https://example.org/commit/1a2b3c4)), closes [#%d](https://example.org/issues/%d)", "added: add find%d"},
		}},
		{"### Bug Fixes", []struct{ text, want string }{
			{"* round `kilos%d` half up ([#%d](https://example.org/pull/%d)) ([abcdef1](https://example.org/commit/abcdef1))", "fixed: round kilos%d half up"},
			{"* **deps:** update dependency lid%d to v3", "fixed: update dependency lid%d to v3"},
			{"* the belt %d no longer hangs when it is empty", "fixed: the belt %d no longer hangs when it is empty"},
		}},
	}
	number := func(format string, n int) string { return strings.ReplaceAll(format, "%d", strconv.Itoa(n)) }
	log, line := strings.Builder{}, 0
	var want []string
	write := func(text string) {
		log.WriteString(text + "\n")
		line++
	}
	write("# Change log")
	write("")
	for release := 400; line < 5000; release-- {
		version := fmt.Sprintf("%d.0.0", release)
		write(fmt.Sprintf("## [%s](https://example.org/compare/v%d.0.0...v%s) (2026-%02d-11)", version, release-1, version, release%12+1))
		write("")
		for i, s := range sections {
			if (release+i)%4 == 3 {
				continue
			}
			write(s.heading)
			write("")
			for _, e := range s.entries {
				write(number(e.text, release))
				want = append(want, fmt.Sprintf("%d-%d %s %s", line, line, version, number(e.want, release)))
			}
			write("")
		}
	}
	got := strings.Split(brief(Read("CHANGELOG.md", "p", []byte(log.String()))), "\n")
	if len(got) != len(want) {
		t.Errorf("%d lines give %d entries, want %d", line, len(got), len(want))
	}
	wrong := 0
	for i := range min(len(got), len(want)) {
		if got[i] != want[i] && wrong < 5 {
			t.Errorf("got  %s\nwant %s", got[i], want[i])
			wrong++
		}
	}
}

// TestExamples holds which spans of code show how something is written, and that words in a
// span are no names.
func TestExamples(t *testing.T) {
	for entry, want := range map[string]string{
		"Paths are written `/{lid}` instead of `/:lid`, see `Router.route()`": "/{lid} /:lid",
		"`01234` is decimal, `1:23` a text, `42` and `1.2.3` as before":       "01234 1:23",
		"Tags are `!lid` instead of `!<!lid>`; no `:` is quoted":              "!lid !<!lid>",
		"Places are `(X:Y)` instead of `at line X, column Y`":                 "(X:Y) at line X, column Y",
		"`--lid`, `@lid`, `jar/lid`, `Jar::lid` and `lid?` are names":         "",
	} {
		c := Read("x.md", "p", []byte("## 5.0.0\n\n- "+entry+"\n"))[0]
		if got := strings.Join(c.Examples, " "); got != want {
			t.Errorf("%q shows %q, want %q", entry, got, want)
		}
		for _, s := range c.Symbols {
			if s.Name == "line" || s.Name == "column" {
				t.Errorf("%q names %q", entry, s.Name)
			}
		}
	}
}
