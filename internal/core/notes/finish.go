package notes

import (
	"fmt"
	"regexp"
	"runtime"
	"slices"
	"sort"
	"strings"

	"github.com/cespare/xxhash/v2"
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
	for _, e := range d.entries {
		if e.change.Title != "" {
			changes = append(changes, e.change)
		}
	}
	identify(changes)
	return changes
}

// change is what an entry says; one without words, and one that only leads in,
// has no title.
func (d *document) change(e *entry) Change {
	text, version := e.raw, e.head.version
	var kind Kind
	told := true
	if m := since.FindStringSubmatch(text[:min(len(text), 60)]); m != nil {
		text, kind, version = text[len(m[0]):], sinceKinds[strings.ToLower(m[1])], m[2]
	}
	words := oneLine(text)
	if kind == "" {
		kind, told = classify(words, e.head.kind)
	}
	title := e.title
	if title == "" {
		title = firstSentence(unsigned(plainStart(words)))
	}
	title = unsigned(plain(title))
	renames := renamesIn(words)
	for _, p := range append(e.pairs, blockPairs(e.old, e.new)...) {
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
	if p, ok := movedModule(symbols); ok && len(renames) == 0 {
		renames = append(renames, p)
		if kind == Removed || kind == Behaviour {
			kind = Moved
		}
	}
	c := Change{
		Notes: d.name, Package: pkg, Version: version, Line: e.line, End: max(e.end, e.line),
		Kind: kind, Impact: impactOf(append([]string{words}, e.context...)...), Title: title, Text: plain(words), Context: e.context,
		Symbols: symbols, Renames: renames, Requires: requirementsIn(words), Before: e.old, After: e.new,
	}
	if c.Impact == "unknown" && e.head.impact != "" {
		c.Impact = e.head.impact
	}
	if e.first && len(c.Symbols) == 0 && len(c.Requires) == 0 && (!told || kind == Behaviour) {
		c.Title = "" // the document's own introduction
	}
	return c
}

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

// telling tells whether a name in an example is more than a word of code.
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

// since begins an entry that tells the version by itself: "Changed in version 3.2: …".
var since = regexp.MustCompile(`^(?i:\W{0,2}(added|new|changed|deprecated|removed) in (?:version |release )?v?(\d[\w.]*\w)\W{0,2}:\s*)`)

var sinceKinds = map[string]Kind{"added": Added, "new": Added, "changed": Behaviour, "deprecated": Deprecated, "removed": Removed}

// signs are labels before an entry's words.
var signs = regexp.MustCompile(`^(?:(?i:breaking( change)?s?|deprecat(ed|ion)|removed|added|fixed|changed)\b!?|[0-9a-f]{7,40}):\s*`)

func unsigned(text string) string {
	if strings.IndexByte(text[:min(len(text), 50)], ':') < 0 {
		return text
	}
	return signs.ReplaceAllString(text, "")
}

// identify puts changes in order and gives each an ID that survives edits
// elsewhere in the document: the hash of its version and words, and its number
// among equals.
func identify(changes []Change) {
	sort.SliceStable(changes, func(i, j int) bool { return changes[i].Line < changes[j].Line })
	seen := map[string]int{}
	for i := range changes {
		c := &changes[i]
		key := strings.Join([]string{c.Package, c.Notes, c.Version, c.Text}, "\x00")
		seen[key]++
		c.ID = fmt.Sprintf("%016x", xxhash.Sum64String(fmt.Sprintf("%s\x00%d", key, seen[key])))
	}
}
