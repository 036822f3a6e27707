package harbour

import (
	"fmt"
	"sort"

	"example.org/tidewheel"
)

// Calls are the ports of a week's boats, each once, by name.
func Calls(week []string) []string {
	calls := tidewheel.Ports(week)
	sort.Strings(calls)
	return calls
}

// Label names a quay.
func Label(quay int) string {
	return fmt.Sprintf("quay %s", quay)
}
