package read

import "unicausa/internal/core/symptom"

// sarif reads SARIF 2.1.0 (OASIS Standard): runs, each with results. Levels
// are of section 3.27.10, baselineState of 3.27.24; a result that is
// suppressed (3.27.23) is left out.
var sarifDocument = jsonDocument(func(line, ahead []byte) bool {
	return opens(line, '{', ahead, `"runs"`) && (opens(line, '{', ahead, "sarif") || opens(line, '{', ahead, `"2.1.0"`))
}, readSARIF)

func readSARIF(doc *jsonValue, out *sink) {
	out.result.Format = "sarif"
	for _, run := range doc.at("runs").List {
		tool := run.at("tool", "driver", "name").Text
		rules := map[string]*jsonValue{}
		for _, r := range run.at("tool", "driver", "rules").List {
			rules[r.at("id").Text] = r
		}
		for _, r := range run.at("results").List {
			if kind := r.at("kind").Text; kind != "" && kind != "fail" || r.at("baselineState").Text == "absent" || len(r.at("suppressions").List) > 0 {
				continue
			}
			code := r.at("ruleId").Text
			level := r.at("level").Text
			if level == "" {
				level = rules[code].at("defaultConfiguration", "level").Text
			}
			s := symptom.Symptom{Kind: symptom.Lint, Level: "warning", Phase: symptom.PhaseCompile, Tool: tool, Code: code, Message: r.at("message", "text").Text}
			switch level {
			case "error", "note":
				s.Level = level
			case "none":
				continue
			}
			line := r.at("message", "text").Line
			if s.Message == "" {
				s.Message, line = r.at("message", "markdown").Text, r.Line
			}
			if s.Message == "" {
				s.Message, line = rules[code].at("shortDescription", "text").Text, r.Line
			}
			if list := r.at("locations").List; len(list) > 0 {
				where := list[0].at("physicalLocation")
				s.File = fileURI(where.at("artifactLocation", "uri").Text)
				s.Line, s.Column = int(where.at("region", "startLine").Number), int(where.at("region", "startColumn").Number)
			}
			if deprecates(s.Message) || deprecates(code) {
				s.Kind, s.Refs = symptom.Deprecation, deprecatedName(s.Message)
			} else {
				s.Refs = quotedRefs(s.Message)
			}
			if line == 0 {
				line = r.Line
			}
			if s.Level == "note" && (tool == "clang" || tool == "gcc" || tool == "cc") { // it belongs to the result before it
				continue
			}
			out.claim(line, line)
			out.add(s, line, line)
		}
	}
}
