package cli

import (
	"encoding/json"
	"fmt"
	"io"
)

// inFormat writes a value as text, or as the JSON that the service's contract describes.
func inFormat(w io.Writer, format string, value any, text func() error) error {
	switch format {
	case "", "text":
		return text()
	case "json":
		return writeJSON(w, value)
	}
	return fmt.Errorf("--format is %q: give text or json", format)
}

func writeJSON(w io.Writer, value any) error {
	enc := json.NewEncoder(w)
	enc.SetIndent("", "  ")
	enc.SetEscapeHTML(false)
	return enc.Encode(value)
}
