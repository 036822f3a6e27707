package read

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// The resolvers that tell in prose which package wants which version of what.
//
// pip:
//
//	ERROR: Could not find a version that satisfies the requirement jar==5 (from versions: 4.2)
//	ERROR: No matching distribution found for jar==5               a verdict over it
//	ERROR: Cannot install shelf and lid because these package versions have conflicting dependencies.
//	ERROR: lid 2.1 has requirement jar<5, but you have jar 5.0.    (also "requires … which is incompatible")
//
// Bundler and pub:
//
//	Could not find compatible versions
//	Because every version of lid depends on jar < 5 …
//	Bundler could not find compatible versions for gem "jar":
//	Could not find gem 'jar (~> 5.0)' in …
//
// Composer:
//
//	Problem 1
//	  - lid 2.1 requires jar/jar ^4.0 -> found jar/jar[4.3.0] but it conflicts with your root composer.json require (^5.0).
//
// Mix: see elixir; Cargo: see rustc; NuGet: see msbuild.
type resolver struct {
	problem  bool // in Composer's list of problems
	requires bool // this problem told who requires what
	held     *symptom.Symptom
	heldAt   int
	open     *symptom.Symptom // prose that goes on
	from     int
	end      int
}

var resolversReader = stream{name: "resolver", marks: []string{"^ERROR: ", "^Problem ", "^- ", "^Could not find ", "^Because ", "could not find compatible", "has requirement ", "which is incompatible", "requires a different Python", "^Failed to use \"", "^Hex dependency resolution"}, open: func() lineReader { return &resolver{} }}

func (r *resolver) listening() bool { return r.problem }

func (r *resolver) line(l Line, out *sink) verdict {
	text := l.Text
	if r.open != nil {
		if r.continues(text) {
			addDetail(r.open, strings.TrimSpace(text))
			r.end = l.Number
			return more
		}
		r.close(out)
	}
	if strings.HasPrefix(text, "  Problem ") {
		r.closeProblem(out)
		r.problem, r.requires = true, false
		return noise
	}
	if r.problem {
		if item, ok := strings.CutPrefix(text, "    - "); ok {
			return r.item(l, item, out)
		}
		if strings.HasPrefix(text, "      ") {
			return noise
		}
		r.closeProblem(out)
	}
	s, prose, ok := resolverHead(text)
	switch {
	case !ok:
		return pass
	case s.Message == "":
		return noise
	case prose:
		r.open, r.from, r.end = &s, l.Number, l.Number
		return more
	}
	out.add(s, l.Number, l.Number)
	return took
}

// item takes one line of a problem of Composer's. Those that say who requires
// what are the diagnostics; the others are shown only where there is no such.
func (r *resolver) item(l Line, item string, out *sink) verdict {
	s := symptom.Symptom{Kind: symptom.Resolve, Level: "error", Phase: symptom.PhaseResolve, Tool: "composer", Message: item}
	head, wanted, ok := strings.Cut(item, " requires ")
	if !ok || strings.Contains(item, "-> satisfiable by") {
		if r.held == nil && !r.requires {
			r.held, r.heldAt = &s, l.Number
		}
		return noise
	}
	r.requires = true
	s.Refs = refs{ref(symptom.Module, firstWord(wanted)), ref(symptom.Owner, firstWord(head))}
	out.add(s, l.Number, l.Number)
	return took
}

func (r *resolver) closeProblem(out *sink) {
	if r.problem && !r.requires && r.held != nil {
		out.add(*r.held, r.heldAt, r.heldAt)
	}
	r.problem, r.held = false, nil
}

func (r *resolver) continues(text string) bool {
	switch {
	case strings.HasPrefix(text, "Because "), strings.HasPrefix(text, "And because "), strings.HasPrefix(text, "So, because "), strings.HasPrefix(text, "So because "), strings.HasPrefix(text, "  "), strings.HasPrefix(text, "Thus, "), strings.HasPrefix(text, "Hence"):
		return true
	case strings.HasPrefix(text, "To fix this you could try"), strings.HasPrefix(text, "The conflict is caused by:"), strings.HasPrefix(text, "Current Bundle"):
		return true
	case text == "":
		return strings.Count(r.open.Detail, "\n") < 40 && !strings.HasSuffix(r.open.Detail, "\n")
	case strings.Contains(text, "version solving failed"), strings.Contains(text, "version solving has failed"), strings.HasPrefix(text, "depends on"), strings.HasPrefix(text, "resolution failed"):
		return true
	}
	return false
}

func resolverHead(text string) (s symptom.Symptom, prose, ok bool) {
	s = symptom.Symptom{Kind: symptom.Resolve, Level: "error", Phase: symptom.PhaseResolve, Tool: "resolver", Message: text}
	message, pip := strings.CutPrefix(text, "ERROR: ")
	switch {
	case pip && strings.HasPrefix(message, "Could not find a version that satisfies the requirement "):
		s.Tool, s.Message = "pip", message
		s.Refs = refs{ref(symptom.Module, requirement(message[len("Could not find a version that satisfies the requirement "):]))}
		return s, false, true
	case pip && strings.HasPrefix(message, "No matching distribution found for "), pip && strings.HasPrefix(message, "ResolutionImpossible"):
		s.Message = ""
		return s, false, true
	case pip && strings.HasPrefix(message, "Cannot install "):
		s.Tool, s.Message = "pip", message
		return s, true, true
	case pip && strings.HasPrefix(message, "pip's dependency resolver does not"):
		s.Message = ""
		return s, false, true
	case pip && (strings.Contains(message, " has requirement ") || strings.Contains(message, " requires a different Python")):
		s.Tool, s.Message = "pip", message
		s.Refs = refs{ref(symptom.Module, requirement(behind(message, " has requirement "))), ref(symptom.Owner, firstWord(message))}
		return s, false, true
	case strings.Contains(text, " which is incompatible.") && strings.Contains(text, " requires "):
		s.Tool, s.Message = "pip", strings.TrimPrefix(text, "ERROR: ")
		s.Refs = refs{ref(symptom.Module, requirement(behind(text, " requires "))), ref(symptom.Owner, firstWord(s.Message))}
		return s, false, true
	case strings.HasPrefix(text, "Could not find compatible versions"), strings.HasPrefix(text, "Bundler could not find compatible versions for gem "):
		s.Tool = "bundler"
		if name := between(text, `"`, `"`); name != "" {
			s.Refs = refs{ref(symptom.Module, name)}
		}
		return s, true, true
	case strings.HasPrefix(text, "Could not find gem '"):
		s.Tool = "bundler"
		s.Refs = refs{ref(symptom.Module, firstWord(between(text, "'", "'")))}
		return s, true, true
	case strings.HasPrefix(text, "Because ") && (strings.Contains(text, " depends on ") || strings.Contains(text, " requires ")):
		s.Tool = "pub"
		for _, mark := range []string{" depends on ", " requires "} {
			if i := strings.Index(text, mark); i > 0 {
				s.Refs = refs{ref(symptom.Module, strings.Trim(firstWord(text[i+len(mark):]), `"`)), ref(symptom.Owner, lastWord(before(text[:i], " which")))}
			}
		}
		return s, true, true
	case strings.HasPrefix(text, "Failed to use \""), strings.HasPrefix(text, "Hex dependency resolution failed"):
		s.Tool = "mix"
		if name := between(text, `"`, `"`); name != "" {
			s.Refs = refs{ref(symptom.Module, name)}
		}
		return s, true, true
	}
	return s, false, false
}

// requirement is the package of "jar<5,>=4".
func requirement(text string) string {
	text = strings.TrimSpace(text)
	for i := range len(text) {
		if !isLetter(text[i]) && !isDigit(text[i]) && text[i] != '-' && text[i] != '_' && text[i] != '.' {
			return text[:i]
		}
	}
	return text
}

func (r *resolver) close(out *sink) {
	r.closeProblem(out)
	s := r.open
	r.open = nil
	if s == nil {
		return
	}
	if _, wanted, ok := strings.Cut(s.Detail, " depends on "); ok && len(s.Refs) == 0 {
		s.Refs = refs{ref(symptom.Module, requirement(wanted))}
	}
	s.Detail = strings.TrimSpace(s.Detail)
	out.add(*s, r.from, r.end)
}
