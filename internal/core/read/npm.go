package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// npm reads the resolver of npm and its kin:
//
//	npm error code ERESOLVE                 a block; ERR! in older versions
//	npm error ERESOLVE could not resolve
//	npm error While resolving: shelf@1.0.0
//	npm error Found: jar@5.0.0
//	npm error peer jar@"^4.0.0" from lid@2.1.0
//	npm warn deprecated jar@4.2.0: use jar 5
//	npm warn EBADENGINE Unsupported engine { …
//	npm error Lifecycle script `build` failed with error:      a wrapper's trailer
//	 WARN  Issues with peer dependencies found                 pnpm
//
// Format: npm's lib/utils/explain-eresolve.js and error-message.js.
type npm struct {
	open *symptom.Symptom
	from int
	end  int
	done bool // the block's last line was read
}

var npmReader = stream{name: "npm", marks: []string{"^npm error", "^npm ERR!", "^npm warn", "^npm WARN", "^npm notice", "ERR_PNPM", "^ELIFECYCLE", "^error Command failed"}, open: func() lineReader { return &npm{} }}

func (n *npm) line(l Line, out *sink) verdict {
	text := l.Text
	for _, mark := range []string{"npm error", "npm ERR!", "npm warn", "npm WARN", "npm notice"} {
		if rest, ok := strings.CutPrefix(text, mark); ok {
			return n.said(l, strings.TrimPrefix(rest, " "), strings.ToLower(mark), out)
		}
	}
	n.close(out)
	if i := strings.Index(text, "ERR_PNPM_"); i >= 0 && i < 8 {
		code, message, _ := strings.Cut(text[i:], " ")
		s := symptom.Symptom{Kind: symptom.Resolve, Level: "error", Phase: symptom.PhaseResolve, Tool: "pnpm", Code: code, Message: strings.TrimSpace(message)}
		out.add(s, l.Number, l.Number)
		return took
	}
	if strings.HasPrefix(strings.TrimLeft(text, " "), "ELIFECYCLE") || strings.HasPrefix(text, "error Command failed with exit code") {
		return noise
	}
	return pass
}

// said takes a line of npm's own. An error is one block, whose code and first
// sentence say what it is; a warning is one line, but for peers.
func (n *npm) said(l Line, rest, mark string, out *sink) verdict {
	if mark == "npm notice" {
		return noise
	}
	if mark == "npm warn" {
		return n.warning(l, rest, out)
	}
	if n.open == nil || n.open.Level != "error" || n.done {
		n.close(out)
		n.open, n.from = &symptom.Symptom{Kind: symptom.Error, Level: "error", Phase: symptom.PhaseResolve, Tool: "npm"}, l.Number
	}
	n.end, n.done = l.Number, strings.HasPrefix(rest, "A complete log of this run")
	s := n.open
	if code, ok := strings.CutPrefix(rest, "code "); ok && s.Code == "" {
		s.Code = code
		return more
	}
	trimmed := strings.TrimSpace(rest)
	if s.Message == "" && trimmed != "" && !strings.HasPrefix(rest, "errno") && !strings.HasPrefix(rest, "syscall") && !strings.HasPrefix(rest, "path ") && !strings.HasPrefix(rest, "A complete log") {
		s.Message, n.from = trimmed, l.Number
		if i := strings.Index(trimmed, s.Code+" "); s.Code != "" && i == 0 {
			s.Message = trimmed[len(s.Code)+1:]
		}
	}
	addDetail(s, rest)
	return more
}

func (n *npm) warning(l Line, rest string, out *sink) verdict {
	if n.open != nil && n.open.Code == "ERESOLVE" && n.open.Level == "warning" && !npmCode(firstWord(rest)) && !strings.HasPrefix(rest, "ERESOLVE overriding") {
		addDetail(n.open, strings.TrimSpace(rest))
		n.end = l.Number
		return more
	}
	if n.open != nil && n.open.Level == "warning" && (strings.HasPrefix(rest, n.open.Code+" ") || strings.HasPrefix(rest, n.open.Code+"\t")) && n.open.Code != "deprecated" && !strings.HasPrefix(rest, n.open.Code+" overriding") && !strings.HasPrefix(rest, n.open.Code+" Unsupported") {
		addDetail(n.open, strings.TrimSpace(rest[len(n.open.Code):]))
		n.end = l.Number
		return more
	}
	n.close(out)
	code, message, _ := strings.Cut(rest, " ")
	s := symptom.Symptom{Kind: symptom.Warning, Level: "warning", Phase: symptom.PhaseResolve, Tool: "npm", Code: code, Message: strings.TrimSpace(message)}
	switch {
	case code == "deprecated":
		s.Kind = symptom.Deprecation
		spec, _, _ := strings.Cut(s.Message, ": ")
		s.Refs = refs{ref(symptom.Module, specName(spec))}
	case code == "ERESOLVE":
		s.Kind = symptom.Resolve
	case code == "EBADENGINE", code == "EPEERINVALID":
	case strings.Contains(rest, "requires a peer of "):
		s.Kind, s.Code, s.Message = symptom.Resolve, "", rest
		s.Refs = refs{ref(symptom.Module, specName(firstWord(behind(rest, "requires a peer of ")))), ref(symptom.Owner, specName(firstWord(rest)))}
	default:
		s.Message, s.Code = rest, ""
		if strings.HasPrefix(rest, "config ") || strings.HasPrefix(rest, "Unknown ") {
			return noise
		}
	}
	n.open, n.from, n.end = &s, l.Number, l.Number
	return more
}

// npmCode reports whether a warning begins with a code of its own.
func npmCode(word string) bool {
	return word == "deprecated" || word != "ERESOLVE" && len(word) > 3 && word[0] == 'E' && strings.ToUpper(word) == word || word == "config" || word == "using"
}

// specName is the package of "jar@^4.0.0" or "@scope/jar@4".
func specName(spec string) string {
	if i := strings.LastIndexByte(spec, '@'); i > 0 {
		return spec[:i]
	}
	return spec
}

func (n *npm) close(out *sink) {
	s := n.open
	n.open = nil
	if s == nil {
		return
	}
	s.Detail = strings.TrimSpace(s.Detail)
	if s.Code == "ERESOLVE" && s.Level == "warning" {
		npmPeer(s)
	}
	if s.Level == "error" {
		switch {
		case s.Message == "":
			return
		case s.Code == "ERESOLVE", s.Code == "ETARGET", s.Code == "E404", s.Code == "EPEERINVALID", s.Code == "EBADENGINE", s.Code == "ENOVERSIONS":
			s.Kind = symptom.Resolve
			npmPeer(s)
		case s.Code == "ELIFECYCLE", strings.HasPrefix(s.Message, "Lifecycle script"), strings.HasPrefix(s.Message, "Missing script"), strings.HasPrefix(s.Message, "workspace "), s.Code == "" || leadingDigits(s.Code), strings.HasPrefix(s.Message, "command failed"):
			if !strings.HasPrefix(s.Message, "Missing script") && len(out.result.Symptoms) > 0 {
				return // a wrapper's trailer
			}
			s.Phase = symptom.PhaseRun
		}
	}
	out.add(*s, n.from, n.end)
}

// peer is what a peer conflict is about: who is not ready, for that one has to move, and
// what it wants.
func peer(by, wanted string) refs {
	return refs{ref(symptom.Module, specName(by)), ref(symptom.Expected, wanted)}
}

// npmPeer names the peer that is wanted and who wants it.
func npmPeer(s *symptom.Symptom) {
	unresolved := s.Detail
	if _, behind, ok := strings.Cut(s.Detail, "Could not resolve dependency:"); ok {
		unresolved = behind
	}
	for line := range strings.SplitSeq(unresolved, "\n") {
		line = strings.TrimSpace(line)
		i := strings.Index(line, "peer ")
		if i < 0 || i > 10 {
			continue
		}
		wanted, by, ok := strings.Cut(line[i+5:], " from ")
		if ok {
			s.Refs = peer(firstWord(by), strings.ReplaceAll(wanted, `"`, ""))
			s.Message += ": " + by + " wants peer " + wanted
			return
		}
	}
	if i := strings.Index(s.Message, "No matching version found for "); i >= 0 {
		s.Refs = refs{ref(symptom.Module, specName(strings.TrimRight(firstWord(s.Message[i+len("No matching version found for "):]), ".")))}
	}
}
