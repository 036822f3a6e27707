package read

import (
	"regexp"

	"unicausa/internal/core/symptom"
)

// anyForm is a wording that several tools share. Each named group of its
// expression is a role.
type anyForm struct {
	words *regexp.Regexp
	roles []symptom.Role // of its groups, in order
}

const (
	openQuote  = "[`'\"‘“]"
	closeQuote = "[`'\"’”]"
	inQuotes   = openQuote + "([^`'\"‘’“”]+)" + closeQuote
)

func anyWords(words string, roles ...symptom.Role) anyForm {
	return anyForm{regexp.MustCompile(words), roles}
}

// anyForms are tried in order; the first that fits gives its names.
var anyForms = []anyForm{
	anyWords(`(?i)^module `+inQuotes+` has no attribute `+inQuotes, symptom.Owner, symptom.Missing),
	anyWords(inQuotes+` has no attribute `+inQuotes, symptom.Owner, symptom.Missing),
	anyWords(`module named `+inQuotes, symptom.Module),
	anyWords(`(?i)unexpected keyword argument `+inQuotes+` for `+inQuotes, symptom.Option, symptom.Callee),
	anyWords(`(?i)(?:arguments?|parameters?) (?:\S+ )?(?:for|to|in call to) (?:function |method |constructor )?`+inQuotes, symptom.Callee),
	anyWords(`(?i)(?:arguments|parameters) (?:for|to|in call to) (?:function |method |constructor )?([A-Za-z_][\w.:]*)`, symptom.Callee),
	anyWords(`(?i)^(?:method|function) `+inQuotes+` has \d+ parameters?`, symptom.Callee),
	anyWords(`(?i)^unresolved imports? `+inQuotes, symptom.Missing),
	anyWords(`(?i)no (?:method|function(?: or associated item)?|associated item|variant(?: or associated item)?|field) (?:named )?`+inQuotes+` (?:found for|on) (?:\S+ )*?(?:type )?`+inQuotes, symptom.Missing, symptom.Owner),
	anyWords(`(?i)(?:struct|variant|union|class|type) `+inQuotes+` has no (?:field|member|property|method)(?: named)? `+inQuotes, symptom.Owner, symptom.Missing),
	anyWords(`(?i)cannot find (?:\S+ )*?`+inQuotes+` in (?:\S+ )?`+inQuotes, symptom.Missing, symptom.Owner),
	anyWords(`(?i)cannot find (?:\S+ )*?`+inQuotes, symptom.Missing),
	anyWords(`(?i)implicit declaration of function `+inQuotes, symptom.Missing),
	anyWords(`(?i)(?:unresolved|undefined|unknown) (?:reference|identifier|symbol|name|variable|function|method|type|class|constant|member|property)s?:? (?:to )?`+inQuotes, symptom.Missing),
	anyWords(`(?i)(?:unresolved|undefined) (?:reference|identifier|symbol|name|variable|function|method|type|class|constant|member|property)s?:? ([A-Za-z_][\w.:]*)$`, symptom.Missing),
	anyWords(`(?i)cannot inherit from final ([A-Za-z_][\w.]*)`, symptom.Callee),
	anyWords(`(?i)^([A-Za-z_][\w.]*)\([^)]*\) has (?:private|protected) access in `, symptom.Callee),
}

// anyRefs finds the names in a message whose own reader found none, by
// wordings that several compilers and checkers share.
func anyRefs(message string) refs {
	if list := runtimeRefs(message); list != nil {
		return list
	}
	for _, form := range anyForms {
		m := form.words.FindStringSubmatch(message)
		if m == nil {
			continue
		}
		var list refs
		for i, role := range form.roles {
			if (role == symptom.Missing || role == symptom.Callee) && len(form.roles) == 1 {
				list = append(list, owned(role, m[i+1])...)
				continue
			}
			list = append(list, ref(role, m[i+1]))
		}
		return list
	}
	return nil
}
