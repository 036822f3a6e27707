package read

import (
	"io"
	"strings"

	"unicausa/internal/core/symptom"
)

// checkstyle reads the XML that linters of many languages write: checkstyle
// with file elements, each with error elements.
var checkstyleDocument = xmlDocument(readCheckstyle, "checkstyle")

func readCheckstyle(x *xmlScanner, out *sink) error {
	file := ""
	for {
		t, err := x.next()
		if err == io.EOF {
			return nil
		}
		if err != nil {
			return err
		}
		switch {
		case t.End:
		case t.Name == "file":
			file = t.attr("name")
		case t.Name == "error":
			s := symptom.Symptom{Kind: symptom.Lint, Level: "error", Phase: symptom.PhaseCompile, Tool: "checkstyle", File: file, Message: t.attr("message"), Code: lastSegment(t.attr("source"))}
			if strings.Contains(t.attr("source"), "/") {
				s.Code = t.attr("source")
			}
			s.Line, _ = leadingNumber(t.attr("line"))
			s.Column, _ = leadingNumber(t.attr("column"))
			switch t.attr("severity") {
			case "warning":
				s.Level = "warning"
			case "info", "ignore":
				s.Level = "note"
			}
			if deprecates(s.Message) {
				s.Kind, s.Refs = symptom.Deprecation, deprecatedName(s.Message)
			}
			out.claim(t.Line, t.Line)
			out.add(s, t.Line, t.Line)
		}
	}
}
