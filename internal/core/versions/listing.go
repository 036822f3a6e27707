package versions

import (
	"encoding/json"
	"regexp"
	"slices"
	"strings"
)

// Listing is what package managers say when they are asked what is out of date and why
// something is not taken.
type Listing struct {
	Listed   []Listed
	Refusals []Need // of one package by another: Package wants Name in Range
}

// Listed is a package with the version that is there and the newest that was seen.
type Listed struct{ Name, Has, Newest string }

// ReadListing reads the listings of npm, pnpm, Yarn, pip, Poetry, uv, Cargo, Go, Bundler,
// Composer, Maven, Gradle, .NET, Mix and Dart, as JSON or as text, known by what their
// columns and keys mean. Lines that are none of a listing are passed over.
func ReadListing(text string) Listing {
	l := &lister{}
	trimmed := strings.TrimSpace(text)
	if strings.HasPrefix(trimmed, "{") || strings.HasPrefix(trimmed, "[{") || strings.HasPrefix(trimmed, "[\n") || strings.HasPrefix(trimmed, "[]") {
		dec := json.NewDecoder(strings.NewReader(trimmed))
		for {
			var v any
			if dec.Decode(&v) != nil {
				break
			}
			l.value("", v)
		}
		return l.Listing
	}
	for line := range strings.SplitSeq(text, "\n") {
		l.line(strings.TrimRight(line, "\r "))
	}
	return l.Listing
}

type lister struct {
	Listing
	name, has, newest int // columns of the table at hand, from 1; 0 for none
}

func (l *lister) add(name, has, newest string) {
	name, has, newest = strings.TrimSpace(name), clean(has), clean(newest)
	if name == "" || newest == "" || newest[0] < '0' || newest[0] > '9' {
		return
	}
	if has == "" || has[0] < '0' || has[0] > '9' {
		has = ""
	}
	if !slices.ContainsFunc(l.Listed, func(o Listed) bool { return o.Name == name }) {
		l.Listed = append(l.Listed, Listed{Name: name, Has: has, Newest: newest})
	}
}

func (l *lister) refuse(by, name, r string) {
	n := Need{Package: strings.TrimSpace(by), Name: strings.TrimSpace(name), Range: strings.Trim(r, `"'() `), Kind: "dependency"}
	if n.Package != "" && n.Name != "" && n.Range != "" && !slices.Contains(l.Refusals, n) {
		l.Refusals = append(l.Refusals, n)
	}
}

// The keys of JSON, and the heads of columns, by what they mean, without case.
var (
	nameKeys   = []string{"name", "package", "path", "id", "packagename", "gem", "dependency", "crate"}
	hasKeys    = []string{"current", "version", "installed", "resolvedversion", "resolved"}
	newestKeys = []string{"latest", "latest_version", "latestversion", "newest", "available", "update"}
)

// value reads a value of JSON; under is the key that it stands under.
func (l *lister) value(under string, v any) {
	switch v := v.(type) {
	case []any:
		for _, e := range v {
			l.value(under, e)
		}
	case map[string]any:
		if head, body, ok := tableOf(v); ok {
			l.head(head)
			for _, cells := range body {
				l.cells(cells)
			}
			return
		}
		name, has, newest := textAt(v, nameKeys), textAt(v, hasKeys), textAt(v, newestKeys)
		if name == "" {
			name = under
		}
		if newest != "" {
			l.add(name, has, newest)
			return
		}
		for _, key := range keys(v) {
			l.value(key, v[key])
		}
	}
}

// textAt is the text under the first of some keys, or the version under it.
func textAt(m map[string]any, wanted []string) string {
	for _, want := range wanted {
		for key, v := range m {
			if !strings.EqualFold(key, want) {
				continue
			}
			switch v := v.(type) {
			case string:
				return v
			case map[string]any:
				if version := textAt(v, []string{"version"}); version != "" {
					return version
				}
			}
		}
	}
	return ""
}

// tableOf is a table as Yarn prints it: {"data": {"head": […], "body": [[…]]}}.
func tableOf(m map[string]any) (head []string, body [][]string, ok bool) {
	data, isMap := m["data"].(map[string]any)
	if !isMap {
		return nil, nil, false
	}
	rows, isList := data["body"].([]any)
	if head = texts(data["head"]); head == nil || !isList {
		return nil, nil, false
	}
	for _, row := range rows {
		body = append(body, texts(row))
	}
	return head, body, true
}

func texts(v any) []string {
	list, ok := v.([]any)
	if !ok {
		return nil
	}
	var out []string
	for _, e := range list {
		text, _ := e.(string)
		out = append(out, text)
	}
	return out
}

// The forms of lines that stand in no table.
var (
	parenthesised = regexp.MustCompile(`^[\s*]*(\S+) \(newest ([^,)]+), installed ([^,)]+)`)                                // Bundler
	arrow         = regexp.MustCompile(`^(?:\[INFO\])?[\s*-]*(?:Updating )?([\w@./:-]+)[ .\[v]+([\w.+-]+) -> v?([\w.+-]+)`) // Maven, Gradle, Cargo
	bracketed     = regexp.MustCompile(`^(\S+) v(\S+) \[v([^\]]+)\]`)                                                       // Go
	unchanged     = regexp.MustCompile(`^\s*\w+ (\S+) v(\S+) \((?:latest|available): v?([^)]+)\)`)                          // Cargo
	headless      = regexp.MustCompile(`^([\w@./-]+) +(?:\(!\) +)?(\d+\.[\w.+-]*) +(\d+\.[\w.+-]*)(?: |$)`)                 // Poetry
	requires      = regexp.MustCompile(`^\s*(?:- )?([\w@./-]+ v?[\d][\w.+-]*) (?:requires|has requirement|depends on) ([\w@./-]+) ?\(?([<>=!~^*\d][^)]*?)\)?(?:,? but .*|;.*|\s*)$`)
	peerFrom      = regexp.MustCompile(`\bpeer ([\w@./-]+)@"([^"]+)" from ([\w@./-]+@[\w.+-]+)`)
)

func (l *lister) line(line string) {
	plain := strings.TrimSpace(line)
	if m := parenthesised.FindStringSubmatch(line); m != nil {
		l.add(m[1], m[3], m[2])
		return
	}
	if m := bracketed.FindStringSubmatch(line); m != nil {
		l.add(m[1], m[2], m[3])
		return
	}
	if m := unchanged.FindStringSubmatch(line); m != nil {
		l.add(m[1], m[2], m[3])
		return
	}
	if m := arrow.FindStringSubmatch(line); m != nil {
		l.add(strings.TrimRight(m[1], ". "), m[2], m[3])
		return
	}
	if m := requires.FindStringSubmatch(line); m != nil {
		l.refuse(m[1], m[2], m[3])
		return
	}
	if m := peerFrom.FindStringSubmatch(line); m != nil {
		i := strings.LastIndexByte(m[3], '@')
		l.refuse(m[3][:i]+" "+m[3][i+1:], m[1], m[2])
		return
	}
	if plain == "" {
		return
	}
	if rest, ok := strings.CutPrefix(plain, "> "); ok { // .NET
		if fields := strings.Fields(rest); len(fields) >= 4 {
			l.add(fields[0], fields[len(fields)-2], fields[len(fields)-1])
		}
		return
	}
	cells := cellsOf(plain)
	if l.head(cells) {
		return
	}
	if m := headless.FindStringSubmatch(plain); m != nil && l.newest == 0 {
		l.add(m[1], m[2], m[3])
		return
	}
	l.cells(cells)
}

// cellsOf are the cells of a line of a table: between bars, else between blanks.
func cellsOf(line string) []string {
	if strings.ContainsAny(line, "│|") {
		var cells []string
		for _, c := range strings.FieldsFunc(line, func(r rune) bool { return r == '│' || r == '|' }) {
			word, _, _ := strings.Cut(strings.TrimSpace(c), " ")
			cells = append(cells, word)
		}
		return cells
	}
	return strings.Fields(line)
}

// head takes a line for the head of a table where its words say so.
func (l *lister) head(cells []string) bool {
	at := func(wanted []string) int {
		for i, c := range cells {
			if slices.Contains(wanted, strings.ToLower(c)) {
				return i + 1
			}
		}
		return 0
	}
	name, has, newest := at(nameKeys), at(hasKeys), at(newestKeys)
	if name == 0 || has == 0 || newest == 0 {
		return false
	}
	l.name, l.has, l.newest = name, has, newest
	return true
}

func (l *lister) cells(cells []string) {
	if l.newest == 0 || len(cells) < max(l.name, l.has, l.newest) {
		return
	}
	l.add(cells[l.name-1], cells[l.has-1], cells[l.newest-1])
}
