package symptom

import (
	"fmt"
	"path"
	"regexp"
	"slices"
	"sort"
	"strings"

	"github.com/cespare/xxhash/v2"
)

// Key is what makes two diagnostics from two runs the same: the kind, the
// code, the file or test, and the words of the message without what changes
// by itself. Lines are left out on purpose: they move.
func (s *Symptom) Key() string {
	if s.Kind == TestFailure && s.Test != "" {
		return strings.Join([]string{string(s.Kind), s.Unit, s.Test}, "\x00")
	}
	where := s.File
	if where == "" {
		where = s.Unit
	}
	return strings.Join([]string{where, s.Saying()}, "\x00")
}

// Saying is what a diagnostic says, wherever it stands: kind, code, test, the
// words of the message without what changes by itself, and the missing name
// where only the detail tells it.
func (s *Symptom) Saying() string {
	parts := []string{string(s.Kind), s.Code, s.Test, Normalize(s.Message)}
	if name := s.Named(Missing); name != "" && !strings.Contains(s.Message, name) {
		parts = append(parts, name)
	}
	return strings.Join(parts, "\x00")
}

// errorClass is the class of an error before its message: "TypeError: ",
// "java.lang.IllegalStateException: ", "PathError [TypeError]: ".
var errorClass = regexp.MustCompile(`\b(?:[\w$]+(?:[.\\]|::))*[A-Z]\w*(?:Error|Exception|Failure)\b`)

// raised is a class with its owner at the head of a message, whatever it is called:
// "Jar::Nested: ", "jar.Loose: ".
var raised = regexp.MustCompile(`^(?:[A-Za-z_$][\w$]*(?:\.|\\|::))+[A-Z]\w*: `)

// assertion is a class of errors that tests themselves raise.
var assertion = regexp.MustCompile(`(?i)assert|expectation|comparisonfail|testfail`)

// Reason is why a test is red, as far as it tells one problem of a test from
// another: the name that it missed, or else the class of the error that ended
// it. It is "" where the test itself found a difference.
func (s *Symptom) Reason() string {
	if s.Test == "" {
		return ""
	}
	head, _, _ := strings.Cut(s.Message, "\n")
	class := ""
	if strings.Contains(head, "Error") || strings.Contains(head, "Exception") || strings.Contains(head, "Failure") { // much faster than the expression
		class = errorClass.FindString(head)
	} else if strings.Contains(head, ": ") {
		class = strings.TrimSuffix(raised.FindString(head), ": ")
	}
	if assertion.MatchString(class) {
		return ""
	}
	for _, role := range []Role{Missing, Module} {
		if name := s.Named(role); name != "" {
			return name[strings.LastIndexAny(name, ".:#")+1:]
		}
	}
	return class[strings.LastIndexAny(class, ".:\\")+1:]
}

// About lists the names that a diagnostic is about, each by its last part: what
// is missing, called wrongly or going away, or the rule or option that speaks.
func (s *Symptom) About() []string {
	var names []string
	for _, r := range s.Refs {
		switch r.Role {
		case Missing, Callee, Old, Option, Rule:
			name := r.Name[strings.LastIndexAny(r.Name, ".:#/")+1:]
			if name != "" && !slices.Contains(names, name) {
				names = append(names, name)
			}
		}
	}
	return names
}

// placeKey is what makes two diagnostics in one run the same problem seen
// twice: the key and the source line, or the test, in one unit.
func (s *Symptom) placeKey() string {
	return fmt.Sprintf("%s\x00%s\x00%d\x00%d", s.Key(), s.Unit, s.Line, s.Column)
}

// mostFrames bounds the frames of a symptom that was seen at many places.
const mostFrames = 60

// AddFrames adds the project's own frames of another stack of the same symptom,
// behind those of the first.
func (s *Symptom) AddFrames(more []Frame) {
	for _, f := range more {
		if f.Own && len(s.Frames) < mostFrames && !slices.Contains(s.Frames, f) {
			s.Frames = append(s.Frames[:len(s.Frames):len(s.Frames)], f)
		}
	}
}

// Merge folds the diagnostics of one side: the same problem at the same source
// line or the same test is one symptom with several places. Each gets its
// identity, which is stable from run to run: the hash of its key and its
// number among equal keys, counted down the file. The order of the input does
// not matter.
func Merge(list []Symptom) []Symptom {
	byPlace := map[string]int{}
	merged := make([]Symptom, 0, len(list))
	for _, s := range list {
		s.File = clean(s.File)
		key := s.placeKey()
		if i, ok := byPlace[key]; ok {
			merged[i].At = append(merged[i].At, s.At...)
			merged[i].Count += s.places()
			merged[i].AddFrames(s.Frames)
			if len(s.Detail) > len(merged[i].Detail) || len(s.Detail) == len(merged[i].Detail) && s.Detail > merged[i].Detail {
				merged[i].Detail = s.Detail
			}
			if s.Tool < merged[i].Tool {
				merged[i].Tool = s.Tool
			}
			merged[i].reason = max(merged[i].reason, s.Reason())
			continue
		}
		s.reason = s.Reason()
		byPlace[key] = len(merged)
		s.At, s.Count = append([]At{}, s.At...), s.places()
		merged = append(merged, s)
	}
	sort.Slice(merged, func(i, j int) bool { return less(&merged[i], &merged[j]) })
	ordinal := map[string]int{}
	for i := range merged {
		s := &merged[i]
		key := s.Key()
		if s.reason != "" {
			key += "\x00" + s.reason
		}
		ordinal[key]++
		s.ID = fmt.Sprintf("%016x", xxhash.Sum64String(fmt.Sprintf("%s\x00%d", key, ordinal[key])))
		s.Template = Template(s.Message, s.Refs)
		sort.Slice(s.At, func(a, b int) bool {
			x, y := s.At[a], s.At[b]
			return x.Input < y.Input || x.Input == y.Input && x.Line < y.Line
		})
	}
	return merged
}

// places is in how many places a symptom was seen, of which At may hold a part.
func (s *Symptom) places() int { return max(s.Count, len(s.At)) }

// less orders symptoms by place in the source, then by what they say.
func less(a, b *Symptom) bool {
	switch {
	case a.File != b.File:
		return a.File < b.File
	case a.Line != b.Line:
		return a.Line < b.Line
	case a.Column != b.Column:
		return a.Column < b.Column
	case a.Unit != b.Unit:
		return a.Unit < b.Unit
	case a.Test != b.Test:
		return a.Test < b.Test
	case a.Message != b.Message:
		return a.Message < b.Message
	case a.Kind != b.Kind:
		return a.Kind < b.Kind
	}
	return a.Code < b.Code
}

// clean gives a source path one spelling: forward slashes, no "./".
func clean(file string) string {
	if file == "" {
		return ""
	}
	return path.Clean(strings.ReplaceAll(file, `\`, "/"))
}
