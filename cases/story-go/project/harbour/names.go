package harbour

import (
	"fmt"

	"example.org/tidewheel"
)

// Calls are the ports of a week's boats, each once, by name.
func Calls(week []string) []string { return tidewheel.Ports(week) }

// Label names a quay.
func Label(quay int) string {
	return fmt.Sprintf("quay %s", quay)
}
