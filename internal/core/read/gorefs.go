package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// goRefs finds the names in a message of the Go type checker and the part
// each plays. Wordings: internal/types/errors and go/types of Go 1.26.
func goRefs(message string) []symptom.Ref {
	for _, rule := range goRules {
		if refs := rule(message); refs != nil {
			return refs
		}
	}
	return nil
}

type refs = []symptom.Ref

var goRules = []func(string) refs{
	func(m string) refs { // undefined: jar.OpenLid
		if name, ok := strings.CutPrefix(m, "undefined: "); ok {
			return append(owned(symptom.Missing, name), suggestion(m)...)
		}
		return nil
	},
	func(m string) refs { // x.Lid undefined (type *jar.Jar has no field or method Lid, but does have method Open)
		i := strings.Index(m, " undefined (type ")
		if i < 0 {
			return nil
		}
		owner := between(m[i:], "type ", " has no ")
		if pointer := between(m[i:], "type ", " is pointer to interface"); pointer != m[i+len(" undefined (type "):] { // whatever is asked of it
			return refs{{Role: symptom.Owner, Name: baseType(pointer)}}
		}
		found := refs{{Role: symptom.Missing, Name: lastDot(m[:i])}, {Role: symptom.Owner, Name: baseType(owner)}}
		return append(found, suggestion(m)...)
	},
	func(m string) refs { // unknown field Lid in struct literal of type jar.Jar
		if rest, ok := strings.CutPrefix(m, "unknown field "); ok {
			return append(refs{{Role: symptom.Missing, Name: firstWord(rest)}, {Role: symptom.Owner, Name: baseType(behind(m, " of type "))}}, suggestion(m)...)
		}
		return nil
	},
	func(m string) refs { // cannot use x (…) as jar.Lid value in …: jar.Cap does not implement jar.Lid (missing method Shut)
		if !strings.HasPrefix(m, "cannot use ") {
			return nil
		}
		found := refs{{Role: symptom.Expected, Name: typeName(before(behind(m, " as "), " value in "))}, {Role: symptom.Actual, Name: typeName(goType(m))}}
		if strings.Contains(m, " does not implement ") {
			found = append(found, symptom.Ref{Role: symptom.Owner, Name: typeName(before(behind(m, " does not implement "), " ("))})
			if method := firstWord(strings.TrimRight(between(m, "(missing method ", ")"), ")")); method != "" {
				found = append(found, symptom.Ref{Role: symptom.Missing, Name: method})
			}
		}
		if i := strings.Index(m, " value in argument to "); i > 0 {
			found = append(found, symptom.Ref{Role: symptom.Callee, Name: strings.TrimRight(firstWord(m[i+len(" value in argument to "):]), ":")})
		}
		return found
	},
	func(m string) refs { // not enough arguments in call to jar.Open
		for _, form := range []string{"not enough arguments in call to ", "too many arguments in call to "} {
			if rest, ok := strings.CutPrefix(m, form); ok {
				return owned(symptom.Callee, firstWord(rest))
			}
		}
		return nil
	},
	func(m string) refs { // assignment mismatch: 1 variable but jar.Open returns 2 values
		if !strings.HasPrefix(m, "assignment mismatch: ") {
			return nil
		}
		return owned(symptom.Callee, before(before(behind(m, " but "), " return"), "("))
	},
	func(m string) refs { // cannot call pointer method Shut on jar.Jar
		if rest, ok := strings.CutPrefix(m, "cannot call pointer method "); ok {
			return refs{{Role: symptom.Callee, Name: firstWord(rest)}, {Role: symptom.Owner, Name: baseType(behind(rest, " on "))}}
		}
		return nil
	},
	func(m string) refs { // implicit assignment to unexported field lid in struct literal of type jar.Jar
		if owner := behind(m, "struct literal of type "); owner != "" {
			return refs{{Role: symptom.Owner, Name: baseType(owner)}}
		}
		return nil
	},
	func(m string) refs { // impossible type assertion, x.(*jar.Lid): …; "jar.Old is deprecated: use jar.New"
		if i := strings.Index(m, " is deprecated"); i > 0 {
			return owned(symptom.Old, lastWord(m[:i]))
		}
		return nil
	},
}

// owned splits a qualified name: "jar.OpenLid" is OpenLid, owned by jar.
func owned(role symptom.Role, name string) refs {
	name = strings.TrimSpace(before(name, " ("))
	if i := strings.LastIndexByte(name, '.'); i > 0 {
		return refs{{Role: role, Name: name}, {Role: symptom.Owner, Name: name[:i]}}
	}
	return refs{{Role: role, Name: name}}
}

// suggestion reads "(…, but does have method Open)".
func suggestion(m string) refs {
	for _, form := range []string{"but does have method ", "but does have field ", "but does have "} {
		if name := strings.Trim(firstWord(behind(m, form)), "),"); name != "" {
			return refs{{Role: symptom.Suggested, Name: name}}
		}
	}
	return nil
}

// goType is the type of the value in "cannot use x (value of type T) as …".
func goType(m string) string {
	head := before(m, ") as ")
	for _, form := range []string{" of struct type ", " of interface type ", " of type ", " type "} {
		if t := behind(head, form); t != "" {
			return t
		}
	}
	return ""
}

// typeName is a type without its type arguments: "jar.Lid[int]" is "jar.Lid".
func typeName(t string) string {
	t = before(t, " is ") // "*jar.Lid is pointer to interface, not interface"
	if i := strings.IndexByte(t, '['); i > 0 && !strings.HasPrefix(t, "map[") {
		t = t[:i]
	}
	return strings.TrimSpace(t)
}

// baseType is a type without pointer and type arguments.
func baseType(t string) string {
	return before(typeName(strings.TrimLeft(strings.TrimSpace(t), "*&")), ",")
}

func lastDot(s string) string { return s[strings.LastIndexByte(s, '.')+1:] }

func lastWord(s string) string { return s[strings.LastIndexByte(s, ' ')+1:] }

// behind is what follows the first mark in s, or "".
func behind(s, mark string) string {
	_, rest, _ := strings.Cut(s, mark)
	return rest
}

// before is s up to the first mark, or all of it.
func before(s, mark string) string {
	head, _, _ := strings.Cut(s, mark)
	return head
}

func between(s, open, shut string) string { return before(behind(s, open), shut) }
