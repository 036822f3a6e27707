package read

import (
	"regexp"
	"slices"
	"strings"

	"unicausa/internal/core/symptom"
)

// facts adds to a symptom what its message and its detail say in words that
// many tools share, and takes off what names nothing. A reader's own facts come
// first: they know which name plays which part.
func facts(s *symptom.Symptom) {
	s.Refs = slices.DeleteFunc(slices.Clone(s.Refs), func(r symptom.Ref) bool {
		return r.Name == "" || (r.Role == symptom.Callee || r.Role == symptom.Missing) && strings.ContainsAny(r.Name, "*&") // a type, not a name
	})
	whole := s.Message
	if s.Detail != "" {
		whole += "\n" + s.Detail
	}
	if s.Named(symptom.Suggested) == "" && containsAny(whole, " mean ", " meant ", "similar name") {
		if m := proposal.FindStringSubmatch(whole); m != nil {
			s.Refs = slices.DeleteFunc(s.Refs, func(r symptom.Ref) bool { return r.Name == m[1] })
			s.Refs = append(s.Refs, ref(symptom.Suggested, m[1]))
		}
	}
	if s.Named(symptom.Missing) == "" {
		innermost(s)
	}
	if s.Named(symptom.Module) == "" && s.Named(symptom.Missing) == "" && containsAny(whole, "o such file or directory", "annot open", "an't open", "ailed to open") {
		if m := opened.FindStringSubmatch(whole); m != nil {
			s.Refs = append(s.Refs, ref(symptom.Missing, m[1]))
		}
	}
	if s.Named(symptom.Option) == "" && s.Named(symptom.Missing) == "" && containsAny(whole, "ption", "etting", "key", "ropert", "lag") {
		if m := refused.FindStringSubmatch(whole); m != nil {
			s.Refs = append(s.Refs, ref(symptom.Option, m[1]+m[2]))
		}
	}
	if rule := ruleOf(s.Code); rule != "" && s.Test == "" && s.Kind != symptom.Crash && s.Tool != "cmake" { // whose codes are commands
		s.Refs = append(s.Refs, ref(symptom.Rule, rule))
	}
	if containsAny(whole, "/") {
		if m := request.FindStringSubmatch(whole); m != nil {
			s.Refs = append(s.Refs, ref(symptom.Route, m[1]))
		}
	}
	if s.Named(symptom.Actual) == "" && containsAny(whole, "tatus") {
		if m := answered.FindStringSubmatch(whole); m != nil {
			s.Refs = append(s.Refs, ref(symptom.Actual, m[1]))
		}
	}
	if containsAny(whole, "ERR_") && (s.Code == "" || strings.HasPrefix(s.Code, "ERR_")) {
		if m := errorCode.FindStringSubmatch(whole); m != nil && m[1]+m[2] != "ERR_ASSERTION" && m[1]+m[2] != "ERR_TEST_FAILURE" {
			s.Code = m[1] + m[2]
		}
	}
}

// ruleOf is the rule or the flag in a diagnostic's code, "" for the number of a
// message: "-Wlid-open", also as "-Werror=lid-open", "lid-open", "jars/lid".
func ruleOf(code string) string {
	if flag, ok := strings.CutPrefix(code, "-Werror="); ok {
		return "-W" + flag
	}
	if strings.HasPrefix(code, "-") || kebab(code) || strings.Count(code, "/") > 0 && !strings.ContainsAny(code, " :") {
		return code
	}
	return ""
}

func containsAny(text string, parts ...string) bool {
	return slices.ContainsFunc(parts, func(p string) bool { return strings.Contains(text, p) })
}

var (
	// proposal is what a tool proposes: "did you mean 'lid'?", "maybe you
	// meant `lid`", "a similar name exists: 'lid'".
	proposal = regexp.MustCompile("(?i)(?:did you mean(?: to (?:use|call|write))?|perhaps you meant|maybe you meant|you might have meant|you may have meant|a similar name exists:?|with a similar name exists:)[ :]*(?:(?:the|a|an|instead)? ?)[‘'\"`“]([^‘’'\"`“”\\s]{2,80})[’'\"`”]")

	// opened is the file that could not be: "ENOENT: no such file or directory,
	// open 'x'", "cannot open file 'x'".
	opened = regexp.MustCompile("(?i)(?:no such file or directory,? (?:open|scandir|stat|lstat|access|rename|unlink|mkdir|@ rb_sysopen -)|can(?:no|')t open (?:the )?(?:file )?|failed to open (?:stream: )?)[ :]*[‘'\"`“]([^‘’'\"`“”\\n]{2,200})[’'\"`”]")

	// refused is the option that a configuration must not have: "Unknown option
	// 'lid'", "unrecognized property \"lid\"", "invalid option --lid".
	refused = regexp.MustCompile("(?i)(?:unknown|unrecogni[sz]ed|unsupported|invalid|unexpected|additional|removed) (?:\\w+ )?(?:option|setting|key|propert(?:y|ies)|flag)s?:? +(?:[‘'\"`“]([\\w.$/-]{2,80})[’'\"`”]|(--?[a-zA-Z][\\w-]+))")

	// request is what a failing test asked for: "GET /jars/12", and answered the
	// status it got.
	request  = regexp.MustCompile(`\b(?:GET|POST|PUT|PATCH|DELETE|HEAD|OPTIONS)\s+(?:https?://[^/\s"']+)?(/[^\s"'<>|),]*)`)
	answered = regexp.MustCompile(`(?i)\bstatus(?: code)?(?: of| was| is|:|=)? ?([1-5]\d\d)\b`)

	// errorCode is the code of an error of Node.js, where its own words give it.
	errorCode = regexp.MustCompile(`\bcode: '(ERR_\w+)'|\[(ERR_\w+)\]`)

	// gone is what an inner line says of a name that is not there.
	gone = regexp.MustCompile("(?:(?:Property|Method|Field|Member|Object literal may only specify known properties, and|Attribute|Type|Class|Function|Option|Key) )?[‘'\"`“]([^‘’'\"`“”\\s]{1,120})[’'\"`”] (?:does not exist|is not defined|is not exported|was not found|has been removed)(?: (?:in|on|from) (?:type |module |object |class )?[‘'\"`“]([^‘’'\"`“”]{1,200})[’'\"`”])?")
)

// innermost takes the names of the innermost line of a message and its detail
// that tells of a name that is not there: the lines around it say only where
// that led.
func innermost(s *symptom.Symptom) {
	lines := strings.Split(s.Message+"\n"+s.Detail, "\n")
	for i := len(lines) - 1; i >= 0; i-- {
		if !containsAny(lines[i], " does not exist", " is not defined", " is not exported", " was not found", " has been removed") {
			continue
		}
		m := gone.FindStringSubmatch(lines[i])
		if m == nil {
			continue
		}
		s.Refs = append(s.Refs, ref(symptom.Missing, m[1]))
		if m[2] != "" && s.Named(symptom.Owner) == "" {
			s.Refs = append(s.Refs, ref(symptom.Owner, m[2]))
		}
		return
	}
}
