package read

import (
	"regexp"
	"strings"

	"unicausa/internal/core/symptom"
)

// runtimeRefs finds the names in what a runtime says of something that is not
// there, cannot be called, or is called with the wrong arguments: the messages
// of JavaScript, Python, Ruby, PHP, Go, the JVM and Elixir.
func runtimeRefs(message string) refs {
	message = strings.TrimPrefix(before(message, "\n"), "Uncaught ")
	if class, rest, ok := strings.Cut(message, ": "); ok && dotted(strings.ReplaceAll(before(class, " ["), "\\", ".")) && (strings.HasSuffix(before(class, " ["), "Error") || strings.HasSuffix(class, "Exception")) {
		message = rest
		if strings.Contains(class, ".") && strings.HasPrefix(class, "java.") {
			if list := jvmLinkage(lastSegment(class), rest); list != nil {
				return list
			}
		}
	}
	if rest, ok := strings.CutPrefix(message, "** ("); ok { // Elixir
		_, message, _ = strings.Cut(rest, ") ")
		if rest := behind(message, "(module "); strings.Contains(rest, " is not available") {
			return qualifiedRef(symptom.Missing, firstWord(rest))
		}
	}
	for _, form := range runtimeForms {
		if list := form(message); list != nil {
			return list
		}
	}
	return nil
}

// quoted is what stands in the n-th pair of quotes of any kind, or "".
func quoted(m string, n int) string {
	names := anyQuotes(m)
	if n < len(names) {
		return names[n]
	}
	return ""
}

// anyQuotes lists what stands between quotes: 'a', "a", `a` and Ruby's `a'.
func anyQuotes(m string) []string {
	var list []string
	for i := 0; i < len(m); i++ {
		c := m[i]
		if c != '\'' && c != '"' && c != '`' || i > 0 && (isLetter(m[i-1]) || isDigit(m[i-1])) {
			continue
		}
		end := -1
		for j := i + 1; j < len(m); j++ {
			if (m[j] == c || c == '`' && m[j] == '\'') && (j+1 == len(m) || !isLetter(m[j+1])) {
				end = j
				break
			}
		}
		if end < 0 {
			break
		}
		list = append(list, m[i+1:end])
		i = end
	}
	return list
}

var runtimeForms = []func(m string) refs{
	func(m string) refs { // JavaScript: jar.openLid is not a function
		for _, end := range []string{" is not a function", " is not a constructor"} {
			if name, ok := strings.CutSuffix(m, end); ok {
				name = strings.TrimPrefix(name[strings.LastIndex(name, ": ")+1:], " ") // behind the words of whoever caught it
				name = strings.TrimPrefix(name, "(0 , ")
				if i := strings.LastIndexByte(name, '.'); i > 0 && strings.HasSuffix(name[:i], ")") { // of a value, not of a name
					return refs{ref(symptom.Missing, name[i+1:])}
				}
				return owned(symptom.Missing, strings.Trim(name, "()"))
			}
		}
		if name, ok := strings.CutSuffix(m, " is not defined"); ok {
			return refs{ref(symptom.Missing, strings.Trim(strings.TrimPrefix(strings.TrimPrefix(name, "Name "), "name "), "'\""))}
		}
		return nil
	},
	func(m string) refs { // modules that are not there
		for _, head := range []string{"Cannot find module ", "Cannot find package ", "No module named ", "cannot load such file -- ", "Could not resolve ", "Failed to resolve import "} {
			if rest, ok := strings.CutPrefix(m, head); ok {
				name := quoted(rest, 0)
				if name == "" {
					name = strings.Trim(firstWord(rest), "'\"")
				}
				return refs{ref(symptom.Module, name)}
			}
		}
		return nil
	},
	func(m string) refs { // exports that are not there
		if strings.Contains(m, "does not provide an export named ") || strings.HasPrefix(m, "Named export ") {
			if strings.HasPrefix(m, "Named export ") {
				return refs{ref(symptom.Missing, quoted(m, 0)), ref(symptom.Owner, quoted(m[strings.Index(m, "module"):], 0))}
			}
			return refs{ref(symptom.Missing, quoted(behind(m, "export named "), 0)), ref(symptom.Owner, quoted(m, 0))}
		}
		if rest, ok := strings.CutPrefix(m, "cannot import name "); ok { // Python
			return refs{ref(symptom.Missing, quoted(rest, 0)), ref(symptom.Owner, quoted(rest, 1))}
		}
		if strings.HasPrefix(m, "Package subpath ") {
			return refs{ref(symptom.Missing, quoted(m, 0))}
		}
		return nil
	},
	func(m string) refs { // Python: 'Jar' object has no attribute 'open_lid'
		head, rest, ok := strings.Cut(m, " has no attribute ")
		if !ok {
			return nil
		}
		owner := strings.TrimPrefix(strings.TrimPrefix(strings.TrimPrefix(strings.TrimSuffix(head, " object"), "module "), "Module "), "type object ")
		name := quoted(rest, 0)
		if name == "" {
			name = strings.TrimRight(firstWord(rest), ".;")
		}
		return refs{ref(symptom.Missing, name), ref(symptom.Owner, strings.Trim(owner, "'\""))}
	},
	func(m string) refs { // Python: open() got an unexpected keyword argument 'lid'
		call, rest, ok := strings.Cut(m, "() got an unexpected keyword argument ")
		if ok {
			return append(refs{ref(symptom.Option, quoted(rest, 0))}, owned(symptom.Callee, call)...)
		}
		for _, mark := range []string{"() missing ", "() takes "} {
			if call, _, ok := strings.Cut(m, mark); ok && !strings.Contains(call, " ") {
				return owned(symptom.Callee, call)
			}
		}
		return nil
	},
	func(m string) refs { // Ruby: undefined method `open_lid' for an instance of Jar
		for _, head := range []string{"undefined method ", "undefined local variable or method ", "private method "} {
			rest, ok := strings.CutPrefix(m, head)
			if !ok {
				continue
			}
			list := refs{ref(symptom.Missing, quoted(rest, 0))}
			owner := before(behind(rest, " for "), " (")
			for _, lead := range []string{"an instance of ", "class ", "module ", "#<"} {
				owner = strings.TrimPrefix(owner, lead)
			}
			if owner = before(before(owner, ":0x"), ">"); owner != "" && !strings.HasPrefix(owner, "nil") {
				list = append(list, ref(symptom.Owner, owner))
			}
			return list
		}
		if name, ok := strings.CutPrefix(m, "uninitialized constant "); ok {
			name = firstWord(name)
			if i := strings.LastIndex(name, "::"); i > 0 {
				return refs{ref(symptom.Missing, name[i+2:]), ref(symptom.Owner, name[:i])}
			}
			return refs{ref(symptom.Missing, name)}
		}
		if rest, ok := strings.CutPrefix(m, "unknown keyword: "); ok {
			return refs{ref(symptom.Option, strings.TrimPrefix(firstWord(rest), ":"))}
		}
		return nil
	},
	func(m string) refs { // PHP: Call to undefined method Jar::openLid(), Class "Lid" not found
		for _, head := range []string{"Call to undefined method ", "Call to undefined function ", "Undefined constant ", "Access to undeclared static property ", "Undefined property: ", "Call to private method ", "Call to protected method ", "Undefined class constant "} {
			if rest, ok := strings.CutPrefix(m, head); ok {
				return phpMember(symptom.Missing, strings.Trim(firstWord(rest), `"'`))
			}
		}
		for _, kind := range []string{"Class ", "Interface ", "Trait ", "Enum "} {
			if rest, ok := strings.CutPrefix(m, kind); ok && strings.Contains(rest, "not found") {
				return refs{ref(symptom.Missing, strings.Trim(firstWord(rest), `"'`))}
			}
		}
		if rest, ok := strings.CutPrefix(m, "Unknown named parameter "); ok {
			return refs{ref(symptom.Option, strings.TrimPrefix(rest, "$"))}
		}
		if rest, ok := strings.CutPrefix(m, "Too few arguments to function "); ok {
			return phpMember(symptom.Callee, strings.TrimSuffix(firstWord(rest), ","))
		}
		if i := strings.Index(m, "(): Argument #"); i > 0 && !strings.Contains(m[:i], " ") {
			return phpMember(symptom.Callee, m[:i+2])
		}
		return nil
	},
	func(m string) refs { // options and keys that are refused
		for _, head := range []string{"Unknown key ", "unknown key ", "Unknown option ", "unknown option ", "Unrecognized option ", "unrecognized option ", "Invalid option ", "invalid option ", "Unknown argument ", "unrecognized arguments: ", "unknown flag: ", "Unknown property ", "unexpected key ", "Unexpected key ", "unknown field ", "Unrecognized field ", "Unrecognized key ", "unknown setting ", "Unknown setting ", "unknown keys [", "Unknown keys ["} {
			i := strings.Index(m, head)
			if i < 0 {
				continue
			}
			rest := m[i+len(head):]
			name := quoted(rest, 0)
			if name == "" {
				name = strings.Trim(firstWord(rest), "'\"`.,:[]")
			}
			return refs{ref(symptom.Option, name)}
		}
		return nil
	},
	func(m string) refs { // Elixir: no function clause matching in Jar.open/2
		if rest, ok := strings.CutPrefix(m, "no function clause matching in "); ok {
			return qualifiedRef(symptom.Callee, before(firstWord(rest), "/"))
		}
		return nil
	},
	func(m string) refs { // Elixir: function Jar.open_lid/1 is undefined
		if rest, ok := strings.CutPrefix(m, "function "); ok && strings.Contains(rest, " is undefined") {
			return qualifiedRef(symptom.Missing, before(firstWord(rest), "/"))
		}
		return nil
	},
	func(m string) refs { // what a package says of names that it took away
		found := tookAway.FindStringSubmatch(m)
		if found == nil {
			return nil
		}
		list := qualifiedRef(symptom.Missing, strings.TrimSuffix(found[1], "()"))
		if found[2] != "" && len(list) == 1 {
			list = append(list, ref(symptom.Owner, found[2]))
		}
		if instead := useInstead.FindStringSubmatch(m); instead != nil {
			list = append(list, ref(symptom.Suggested, instead[1]))
		}
		return list
	},
}

// A package's own words for a name that it has no more: "`jar.Lid` was removed in
// the 2.0 release. Use `jar.lid` instead."
var (
	tookAway   = regexp.MustCompile("^(?:The )?[`'\"]([A-Za-z_][\\w.:]*(?:\\(\\))?)[`'\"] (?:\\w+ )?(?:was|is|has been) (?:now )?removed\\b(?: from (?:the )?[`'\"]?([A-Za-z_][\\w.]*)[`'\"]? (?:class|module|namespace|type|package))?")
	useInstead = regexp.MustCompile("\\b[Uu]se [`'\"]([A-Za-z_][\\w.:]*)[`'\"(]")
)
