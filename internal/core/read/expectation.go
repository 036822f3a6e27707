package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// expectation finds the expected and the actual value in an assertion's
// message, in the wordings that test authors and assertion libraries use.
func expectation(message string) refs {
	for _, form := range []struct {
		open, middle  string
		expectedFirst bool
	}{
		{"expected: ", "actual: ", true},
		{"expected ", " but got ", true},
		{"expected ", " to equal ", false},
		{"expected ", ", got ", true},
		{"got ", ", want ", false},
		{"got ", " want ", false},
		{" = ", ", want ", false},
		{": ", ", want ", false},
		{"want ", ", got ", true},
	} {
		rest := behind(message, form.open)
		first, second, ok := strings.Cut(rest, form.middle)
		if !ok || first == "" || second == "" {
			continue
		}
		expected, actual := first, second
		if !form.expectedFirst {
			expected, actual = second, first
		}
		return refs{{Role: symptom.Expected, Name: clip(expected)}, {Role: symptom.Actual, Name: clip(actual)}}
	}
	return nil
}

// longestValue bounds, in bytes, what is kept of a value.
const longestValue = 240

func clip(value string) string {
	value = strings.TrimSpace(before(value, "\n"))
	if len(value) > longestValue {
		value = strings.ToValidUTF8(value[:longestValue], "")
	}
	return strings.Trim(value, `,;`)
}
