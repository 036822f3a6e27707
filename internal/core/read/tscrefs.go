package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// tscRefs finds the names in a message of the TypeScript compiler. The part
// each quoted name plays is known by the message's number (diagnosticMessages.json).
func tscRefs(code int, message string) refs {
	q := quotes(message)
	role := func(roles ...symptom.Role) refs {
		var found refs
		for i, r := range roles {
			if i < len(q) && r != "" {
				found = append(found, symptom.Ref{Role: r, Name: strings.Trim(q[i], `"`)})
			}
		}
		return found
	}
	switch code {
	case 2305, 2614, 2724, 2694, 2459: // Module 'm' has no exported member 'x'. (Did you mean 'y'?)
		return role(symptom.Owner, symptom.Missing, symptom.Suggested)
	case 2307, 7016, 2792: // Cannot find module 'm'
		return role(symptom.Module)
	case 2339, 2551, 2550, 2576: // Property 'x' does not exist on type 'T'. (Did you mean 'y'?)
		return role(symptom.Missing, symptom.Owner, symptom.Suggested)
	case 2304, 2552, 2503, 2318: // Cannot find name 'x'. (Did you mean 'y'?)
		return role(symptom.Missing, symptom.Suggested)
	case 2322, 2345, 2352, 2416, 2769, 2719: // Type 'A' is not assignable to type 'B'.
		return role(symptom.Actual, symptom.Expected)
	case 2353, 2561, 2562: // … 'x' does not exist in type 'T'.
		return role(symptom.Missing, symptom.Owner, symptom.Suggested)
	case 2741, 1360: // Property 'x' is missing in type 'A' but required in type 'B'.
		return role(symptom.Option, symptom.Actual, symptom.Expected)
	case 2739, 2740: // Type 'A' is missing the following properties from type 'B': x, y
		found := role(symptom.Actual, symptom.Expected)
		if i := strings.LastIndex(message, "': "); i >= 0 && len(q) > 1 && !strings.HasPrefix(q[0], "typeof ") {
			name, _, _ := strings.Cut(message[i+3:], ",")
			found = append(found, symptom.Ref{Role: symptom.Option, Name: name})
		}
		return found
	case 5023, 5025, 5102, 5101, 5095, 5107: // Unknown compiler option 'x'.
		return role(symptom.Option)
	case 6385, 6387: // 'x' is deprecated.
		return role(symptom.Old)
	case 7006, 7031, 7034: // Parameter 'x' implicitly has an 'any' type.
		return nil
	}
	return nil
}

// quotes lists what stands between single quotes in a message; a quote inside
// a word (doesn't) opens nothing.
func quotes(message string) []string {
	var list []string
	for i := 0; i < len(message); i++ {
		if message[i] != '\'' || i > 0 && message[i-1] != ' ' && message[i-1] != '(' {
			continue
		}
		end := closing(message[i+1:])
		if end < 0 {
			break
		}
		list = append(list, message[i+1:i+1+end])
		i += end + 1
	}
	return list
}

// closing is the position of the quote that closes a quoted name: the first
// that is followed by no name character.
func closing(s string) int {
	for i := 0; i < len(s); i++ {
		if s[i] == '\'' && (i+1 == len(s) || strings.IndexByte(" .,;:?)", s[i+1]) >= 0) {
			return i
		}
	}
	return -1
}
