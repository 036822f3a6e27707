package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// maven reads what Maven itself says. The compiler's lines are javac's, the
// tests' are surefire's; what Maven repeats behind "Failed to execute goal" is
// no second place, but where nothing else told of trouble it is the diagnostic.
//
//	[ERROR] Failed to execute goal org…:compile (default-compile) on project jar: Compilation failure: …
//	[ERROR] Could not resolve dependencies for project …: Could not find artifact example:jar:jar:5.0 in …
//	[WARNING] The requested profile "x" could not be activated
//
// Format: maven-embedder's MavenCli and Slf4jMavenTransferListener.
type maven struct {
	closing bool // in the list behind "Failed to execute goal"
	at      int  // how many symptoms there were
}

// mavenMarks are the levels as Maven writes them before a line.
var mavenMarks = []struct{ mark, level string }{{"[INFO]", "info"}, {"[ERROR]", "error"}, {"[WARNING]", "warning"}, {"[WARN]", "warning"}}

var mavenReader = stream{name: "maven", marks: []string{"^[ERROR]", "^[WARNING]", "^[WARN]", "^[INFO] BUILD", "^[INFO] ----", "^[INFO] Scanning", "^[INFO] Building", ". FAILURE ["}, open: func() lineReader { return &maven{} }}

func (m *maven) line(l Line, out *sink) verdict {
	text, level := l.Text, ""
	for _, m := range mavenMarks {
		if rest, ok := strings.CutPrefix(text, m.mark); ok {
			text, level = strings.TrimSpace(rest), m.level
			break
		}
	}
	if level == "info" && (strings.HasPrefix(text, "Scanning for projects") || strings.HasPrefix(text, "Building ")) || strings.Contains(text, " <<< ") {
		m.closing = false
	}
	_, compiler := mavenJavac(l.Text)
	switch {
	case level == "", compiler && !m.closing:
		return pass
	case level == "info":
		if strings.HasPrefix(text, "----") && !m.closing {
			return pass
		}
		return noise
	case m.closing && level == "error":
		return noise
	case text == "", strings.HasPrefix(text, "COMPILATION "), strings.HasPrefix(text, "Re-run Maven"), strings.HasPrefix(text, "To see the full stack trace"), strings.HasPrefix(text, "-> [Help"), strings.HasPrefix(text, "For more information about the errors"), strings.HasPrefix(text, "[Help "), strings.HasPrefix(text, "After correcting the problems"), strings.HasPrefix(text, "  mvn "), strings.HasPrefix(text, "mvn "):
		return noise
	case level == "error" && strings.HasPrefix(text, "Failed to execute goal"):
		m.closing = true
		if len(out.result.Symptoms) > m.at && !unresolved(text) {
			return noise
		}
		out.add(mavenFailure(text), l.Number, l.Number)
		return took
	case level == "error" && unresolved(text):
		out.add(mavenFailure(text), l.Number, l.Number)
		return took
	case level == "error" && (strings.HasPrefix(text, "The build could not read") || strings.HasPrefix(text, "The project ") || strings.HasPrefix(text, "Non-resolvable") || strings.HasPrefix(text, "'dependencies") || strings.HasPrefix(text, "Some problems were encountered")):
		if !strings.HasPrefix(text, "Non-resolvable") && !strings.HasPrefix(text, "'dependencies") {
			return noise
		}
		s := mavenFailure(text)
		s.Phase = symptom.PhaseResolve
		out.add(s, l.Number, l.Number)
		return took
	case level == "warning" && !strings.Contains(text, "Tests run"):
		s := symptom.Symptom{Kind: symptom.Warning, Level: level, Phase: symptom.PhaseConfigure, Tool: "maven", Message: text}
		asDeprecation(&s)
		out.add(s, l.Number, l.Number)
		return took
	}
	return pass
}

func unresolved(text string) bool {
	return strings.Contains(text, "Could not resolve") || strings.Contains(text, "Could not find artifact") || strings.Contains(text, "could not be resolved")
}

func mavenFailure(text string) symptom.Symptom {
	message := before(text, " -> [Help")
	if i := strings.Index(message, " on project "); i >= 0 {
		if _, why, ok := strings.Cut(message[i+len(" on project "):], ": "); ok {
			message = why
		}
	}
	s := symptom.Symptom{Kind: symptom.Error, Level: "error", Phase: symptom.PhaseConfigure, Tool: "maven", Message: message}
	if unresolved(text) {
		s.Kind, s.Phase = symptom.Resolve, symptom.PhaseResolve
		for _, mark := range []string{"Could not find artifact ", "Failure to find ", "Could not transfer artifact "} {
			if artifact := firstWord(behind(text, mark)); artifact != "" {
				parts := strings.Split(artifact, ":")
				if len(parts) > 1 {
					artifact = parts[0] + ":" + parts[1]
				}
				s.Refs = refs{ref(symptom.Module, artifact)}
				break
			}
		}
	}
	return s
}

func (m *maven) close(out *sink) {}
