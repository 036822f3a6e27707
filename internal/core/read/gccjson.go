package read

// gccJSON reads gcc -fdiagnostics-format=json: an array of diagnostics with
// their notes as children. Format: GCC manual, "Diagnostic Message Formatting
// Options".
var gccJSONDocument = jsonDocument(func(line, ahead []byte) bool {
	return opens(line, '[', ahead, `"kind"`, `"locations"`, `"message"`)
}, readGCC)

func readGCC(doc *jsonValue, out *sink) {
	for _, d := range doc.List {
		caret := &jsonValue{}
		if list := d.at("locations").List; len(list) > 0 {
			caret = list[0].at("caret")
		}
		p := place{file: caret.at("file").Text, line: int(caret.at("line").Number), column: int(caret.at("column").Number)}
		level := "error"
		if d.at("kind").Text == "warning" {
			level = "warning"
		} else if d.at("kind").Text == "note" {
			continue
		}
		s := compileSymptom("cc", p, level, d.at("message").Text)
		s.Code = d.at("option").Text
		asDeprecation(&s)
		s.Refs = quotedRefs(s.Message)
		for _, child := range d.at("children").List {
			s.Detail += child.at("message").Text + "\n"
		}
		line := d.at("message").Line
		out.claim(line, line)
		out.add(s, line, line)
	}
}
