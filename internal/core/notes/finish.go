package notes

import (
	"fmt"
	"regexp"
	"runtime"
	"slices"
	"sort"
	"strings"

	"github.com/cespare/xxhash/v2"

	"unicausa/internal/core/versions"
)

// begin starts to make changes of entries while others are still being found.
func (d *document) begin() {
	d.queue = make(chan *entry, 256)
	for range runtime.GOMAXPROCS(0) {
		d.work.Go(func() {
			defer func() {
				for range d.queue { // after a panic too, so that whoever fills it does not wait
				}
			}()
			for e := range d.queue {
				e.change = d.change(e)
			}
		})
	}
}

// finish gives the changes of all entries, in order.
func (d *document) finish() []Change {
	close(d.queue)
	d.work.Wait()
	changes := make([]Change, 0, len(d.entries))
	versioned := slices.ContainsFunc(d.entries, func(e *entry) bool { return e.change.Version != "" })
	for _, e := range d.entries {
		aside := versioned && e.fromSection && e.change.Version == "" && !e.told // a part that is of no version: how to install it, its licence
		if e.change.Title != "" && !aside {
			changes = append(changes, e.change)
		}
	}
	changes = settle(changes)
	identify(changes)
	return changes
}

// longestDate bounds the length of a day as it stands in a title.
const longestDate = 40

// change is what an entry says; one without words, and one that only leads in,
// has no title.
func (d *document) change(e *entry) Change {
	dress := undress(strings.ToValidUTF8(e.raw[:min(len(e.raw), mostWords)], ""))
	text, version := dress.words, e.head.version
	var kind Kind
	told := true
	if m := sinceIn(text); m != nil {
		text, kind, version = text[len(m[0]):], sinceKinds[strings.ToLower(m[1])], m[2]
	}
	words := oneLine(text)
	if kind == "" {
		heading := e.head.kind
		switch {
		case dress.breaking:
			heading = Behaviour
		case heading == "" && commitKinds[dress.category] != "":
			heading = commitKinds[dress.category]
		}
		kind, told = classify(words, heading)
		told = told || dress.category != ""
	}
	e.told = told
	title := undress(strings.ToValidUTF8(e.title[:min(len(e.title), mostWords)], "")).words
	if title == "" {
		title = firstSentence(unsigned(plainStart(words)))
	}
	title = unsigned(plain(title))
	if len(title) < longestDate && strings.ContainsAny(title, "0123456789") && strings.Trim(dateToken.ReplaceAllString(title, ""), " .,()–-") == "" { // the day of a release
		title = ""
	}
	renames := renamesIn(words)
	pairs := e.pairs
	if len(renames) == 0 && !(told && kind == Signature) { // code shows more than the words are about
		pairs = append(pairs, blockPairs(e.old, e.new)...)
	}
	for _, p := range pairs[:min(len(pairs), mostPairs)] {
		if !slices.ContainsFunc(renames, func(r Rename) bool { return r == p || LastPart(r.From) == LastPart(p.From) }) {
			renames = append(renames, p)
		}
	}
	if len(renames) > 0 && (kind == Behaviour || kind == Added && len(e.pairs) > 0) {
		kind = Renamed
	}
	pkg := d.pkg
	if e.head.pkg != "" {
		pkg = e.head.pkg
	}
	symbols := symbolsIn(text, renames, e.old, e.new, e.code)
	if kind == Removed || kind == Deprecated || kind == Renamed {
		for i := range symbols {
			if symbols[i].Name == e.subject {
				symbols[i].Side = Old
			}
		}
	}
	if p, ok := movedModule(symbols); ok && len(renames) == 0 {
		renames = append(renames, p)
		if kind == Removed || kind == Behaviour {
			kind = Moved
		}
	}
	c := Change{
		Notes: d.name, Package: pkg, Version: version, Line: e.line, End: max(e.end, e.line),
		Kind: kind, Impact: impactOf(append([]string{words}, e.context...)...), Title: title, Text: plain(words), Context: e.context,
		Symbols: symbols, Renames: renames, Requires: requirementsIn(words), Before: e.old, After: e.new, Examples: examplesIn(words),
	}
	if c.Scope = dress.scope; c.Scope != "" {
		c.Context = append(slices.Clone(c.Context), c.Scope)
	}
	c.Breaking = dress.breaking
	c.Minor = (housekeeping[dress.category] || housekeeping[strings.ToLower(strings.Trim(e.head.plain, " :*"))]) && !dress.breaking && !breaks(strings.ToLower(words))
	if c.Impact == "unknown" && e.head.impact != "" {
		c.Impact = e.head.impact
	}
	if (e.first || ofItself.MatchString(e.title)) && len(c.Symbols) == 0 && len(c.Requires) == 0 && (!told || kind == Behaviour || ofItself.MatchString(c.Text)) {
		c.Title = "" // the document's own introduction
	}
	if kind == Behaviour && len(c.Symbols) == 0 && releaseItself.MatchString(c.Title) {
		c.Title = ""
	}
	return c
}

// ofItself is what a document says of itself.
var ofItself = regexp.MustCompile(`(?i)\bthis (?:page|guide|document|section|file|list)\b|\bestimated (?:\w+ )?time\b`)

// releaseItself is what a release says of itself.
var releaseItself = regexp.MustCompile(`(?i)^this is (?:the|a|an) .*\b(?:release|version)\b`)

// blockPairs are the names in which lines of old code differ from their
// counterparts in new code, where that is one name a line and nothing else.
func blockPairs(before, after []string) []Rename {
	if len(before) != len(after) {
		return nil
	}
	var list []Rename
	for i := range before {
		old, new := nameToken.FindAllStringIndex(before[i], -1), nameToken.FindAllStringIndex(after[i], -1)
		if len(old) != len(new) {
			continue
		}
		var r Rename
		rest := before[i]
		for n := range old {
			from, to := before[i][old[n][0]:old[n][1]], after[i][new[n][0]:new[n][1]]
			if from == to {
				continue
			}
			if r.From != "" {
				r = Rename{}
				break
			}
			if old[n][0] > 0 && before[i][old[n][0]-1] == '/' { // of a path
				break
			}
			r = Rename{From: from, To: to}
			rest = before[i][:old[n][0]] + to + before[i][old[n][1]:]
		}
		if r.From != "" && rest == after[i] && telling(r.From) && telling(r.To) && !slices.Contains(list, r) {
			list = append(list, r)
		}
	}
	return list
}

// telling reports whether a name in an example is more than a word of code.
func telling(name string) bool {
	last := LastPart(name)
	return len(last) > 2 && !common[strings.ToLower(last)] && !keywords[last] && sideWord(last) == Either
}

// movedModule is the pair of the one module that an entry says is gone and the
// one where it says something is now.
func movedModule(symbols []Symbol) (Rename, bool) {
	var r Rename
	for _, s := range symbols {
		if !strings.Contains(s.Name, "/") || s.Role == File {
			continue
		}
		switch {
		case s.Side == Old && r.From == "":
			r.From = s.Name
		case s.Side == NewOne && r.To == "":
			r.To = s.Name
		case s.Side != Either:
			return Rename{}, false
		}
	}
	return r, r.From != "" && r.To != ""
}

// settle puts changes in the order of the document, gives those under a version
// that is out of the document's order the version above it, and keeps one of an
// entry that a pre-release and its release both have.
func settle(changes []Change) []Change {
	sort.SliceStable(changes, func(i, j int) bool { return changes[i].Line < changes[j].Line })
	reorder(changes)
	last := map[string]int{} // of a package and words, the change that says so
	drop := map[int]bool{}
	for i := range changes {
		c := &changes[i]
		key := c.Package + "\x00" + c.Text
		j, seen := last[key]
		switch {
		case !seen || len(c.Text) < 20:
		case leadsTo(changes[j].Version, c.Version):
			drop[j] = true
		case leadsTo(c.Version, changes[j].Version):
			drop[i] = true
			continue
		}
		last[key] = i
	}
	if len(drop) == 0 {
		return changes
	}
	kept := changes[:0]
	for i := range changes {
		if !drop[i] {
			kept = append(kept, changes[i])
		}
	}
	return kept
}

// preRelease is the release that a pre-release leads to.
var preRelease = regexp.MustCompile(`^(\d+(?:\.\d+)*)[-.]?(?i:alpha|beta|rc|pre|preview|next|dev|snapshot|canary|m)[-.]?\d*(?:\.\d+)*$`)

// leadsTo reports whether a version is a pre-release of a release, or of a later
// pre-release of the same.
func leadsTo(early, late string) bool {
	var m []string
	if strings.Trim(early, "0123456789.") != "" {
		m = preRelease.FindStringSubmatch(early)
	}
	if m == nil {
		return false
	}
	if late == m[1] {
		return true
	}
	n := preRelease.FindStringSubmatch(late)
	return n != nil && n[1] == m[1] && versions.Order(early, late) < 0
}

// reorder gives the changes under a version that stands between two others, and
// is beyond both, the higher of the two: a document goes from new to old, and
// what stands between 5.0.0 and 4.1.2 came with 5.0.0 whatever its heading counts.
func reorder(changes []Change) {
	type stretch struct {
		version   string
		from, end int
	}
	var list []stretch
	for i := range changes {
		v := changes[i].Version
		if v == "" || v == Unreleased {
			return
		}
		if n := len(list); n == 0 || list[n-1].version != v {
			list = append(list, stretch{v, i, i})
		}
		list[len(list)-1].end = i
	}
	for n := 1; n+1 < len(list); n++ {
		above, here, below := list[n-1], list[n], list[n+1]
		if versions.Order(above.version, below.version) <= 0 || changes[here.from].Package != changes[above.from].Package {
			continue
		}
		if major(here.version) != major(above.version) && major(here.version) != major(below.version) && (versions.Order(here.version, above.version) > 0 || versions.Order(here.version, below.version) < 0) {
			for i := here.from; i <= here.end; i++ {
				changes[i].Version = above.version
			}
			list[n].version = above.version
		}
	}
}

// since begins an entry that tells the version by itself: "Changed in version 3.2: …".
var since = regexp.MustCompile(`^(?i:\W{0,2}(added|new|changed|deprecated|removed) in (?:version |release )?v?(\d[\w.]*\w)\W{0,2}:\s*)`)

// sinceIn is what such a text tells: all of it, the word and the version; nil
// for another text.
func sinceIn(text string) []string {
	head := text[:min(len(text), 60)]
	if !strings.Contains(head, " in ") {
		return nil
	}
	return since.FindStringSubmatch(head)
}

var sinceKinds = map[string]Kind{"added": Added, "new": Added, "changed": Behaviour, "deprecated": Deprecated, "removed": Removed}

// signs are labels before an entry's words.
var signs = regexp.MustCompile(`^(?:(?i:breaking( change)?s?|deprecat(ed|ion)|removed|added|fixed|changed)\b!?|[0-9a-f]{7,40}):\s*`)

func unsigned(text string) string {
	if colon := strings.IndexByte(text[:min(len(text), 50)], ':'); colon < 0 || strings.Count(text[:colon], " ") > 1 {
		return text
	}
	return signs.ReplaceAllString(text, "")
}

// identify gives each change an ID that survives edits
// elsewhere in the document: the hash of its version and words, and its number
// among equals.
func identify(changes []Change) {
	seen := map[string]int{}
	for i := range changes {
		c := &changes[i]
		key := strings.Join([]string{c.Package, c.Notes, c.Version, c.Text}, "\x00")
		seen[key]++
		c.ID = fmt.Sprintf("%016x", xxhash.Sum64String(fmt.Sprintf("%s\x00%d", key, seen[key])))
	}
}
