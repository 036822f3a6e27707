package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// runtimeRefs finds the names in what a JavaScript, Python or Go runtime says
// of a member that is not there or not callable.
func runtimeRefs(message string) refs {
	message = before(message, "\n")
	if i := strings.Index(message, "Error: "); i >= 0 {
		message = message[i+7:]
	}
	switch {
	case strings.HasSuffix(message, " is not a function"), strings.HasSuffix(message, " is not a constructor"):
		name := message[:strings.LastIndex(message, " is not a ")]
		name = strings.Trim(strings.TrimPrefix(name, "(0 , "), "()")
		return owned(symptom.Missing, name)
	case strings.HasSuffix(message, " is not defined"):
		return refs{{Role: symptom.Missing, Name: strings.TrimSuffix(message, " is not defined")}}
	case strings.HasPrefix(message, "Cannot find module '"):
		return refs{{Role: symptom.Module, Name: between(message, "'", "'")}}
	case strings.HasPrefix(message, "module '") && strings.Contains(message, "' has no attribute '"):
		return refs{{Role: symptom.Missing, Name: between(message, "has no attribute '", "'")}, {Role: symptom.Owner, Name: between(message, "'", "'")}}
	case strings.HasPrefix(message, "No module named '"):
		return refs{{Role: symptom.Module, Name: between(message, "'", "'")}}
	}
	return nil
}
