package read

import (
	"sort"
	"strings"
)

// keyOrder is a list of keys, the most telling first.
type keyOrder map[string]int

func keysOf(words string) keyOrder {
	m := keyOrder{}
	for i, w := range strings.Fields(words) {
		m[w] = i + 1
	}
	return m
}

// plainKey is a key without case, dashes, underscores and prefix.
func plainKey(key string) string {
	key = key[strings.LastIndexAny(key, ":.@#")+1:]
	b := make([]byte, 0, len(key))
	for i := range len(key) {
		if c := lower(key[i]); c != '-' && c != '_' && c != ' ' {
			b = append(b, c)
		}
	}
	return string(b)
}

// each calls take with the fields that have a role, the most telling first; it
// ends where take returns true.
func (v *jsonValue) each(keys keyOrder, take func(key string, f *jsonValue) bool) {
	type field struct {
		rank int
		name string
	}
	var found []field
	for name := range v.Fields {
		if rank := keys[plainKey(name)]; rank > 0 {
			found = append(found, field{rank, name})
		}
	}
	sort.Slice(found, func(i, j int) bool {
		return found[i].rank < found[j].rank || found[i].rank == found[j].rank && found[i].name < found[j].name
	})
	for _, f := range found {
		if take(f.name, v.Fields[f.name]) {
			return
		}
	}
}

// text is the most telling text under keys, with its value.
func (v *jsonValue) text(keys keyOrder, fits func(string) bool) (string, *jsonValue) {
	var s string
	var at *jsonValue
	v.each(keys, func(_ string, f *jsonValue) bool {
		if f.Text != "" && f.Fields == nil && (fits == nil || fits(f.Text)) {
			s, at = f.Text, f
			return true
		}
		return false
	})
	return s, at
}

// field is the field of a plain key, or nil.
func (v *jsonValue) field(key string) *jsonValue {
	for name, f := range v.Fields {
		if plainKey(name) == key {
			return f
		}
	}
	return nil
}
