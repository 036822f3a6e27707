package read

import "strings"

// verdictOver reports whether a message only says that something failed, which
// other diagnostics have told already.
func verdictOver(message string) bool {
	lower := strings.ToLower(message)
	for _, words := range []string{"exit code ", "exit status ", "exited with ", "non-zero exit", "command failed", "build failed", "compilation failed", "process completed with", "due to previous error", "recipe for target"} {
		if strings.Contains(lower, words) {
			return true
		}
	}
	return false
}
