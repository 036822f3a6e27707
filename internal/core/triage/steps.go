package triage

import (
	"fmt"
	"regexp"
	"sort"
	"strings"

	"unicausa/internal/core/link"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/symptom"
)

// The kinds of a step.
const (
	StepRename      = "rename"      // a pair of names; there may be a patch
	StepNote        = "note"        // what the notes say to do
	StepPlaces      = "places"      // where to edit
	StepExpectation = "expectation" // the test's expectation may have to move, not the code
	StepLook        = "look"        // where to look, for the notes are silent
)

// steps suggests what to do about a cause.
func steps(e *explained) []Step {
	list := []Step{}
	var change *notes.Change
	if l := link.Explanation(e.links); l != nil {
		change = l.Change
	}
	files := places(e)
	for _, r := range renames(e) {
		list = append(list, Step{Kind: StepRename, Change: change.ID, Text: fmt.Sprintf("Write %s where %s stands.", r.To, r.From)})
	}
	if change != nil {
		if words := instruction(change); words != "" {
			list = append(list, Step{Kind: StepNote, Change: change.ID, Text: words})
		}
	}
	if s := compared(e); s != nil {
		text := "Read whether the new result is right: then the expectation moves, not the code."
		if expected, actual := s.Named(symptom.Expected), s.Named(symptom.Actual); expected != "" && actual != "" {
			text = fmt.Sprintf("%s was expected and is now %s. If that is right, the expectation moves, not the code.", short(expected), short(actual))
		}
		list = append(list, Step{Kind: StepExpectation, Text: text})
	}
	if len(files) > 0 {
		text := fmt.Sprintf("Edit %s.", files[0])
		if len(files) > 1 {
			text = fmt.Sprintf("Edit %s, %s first.", plural(len(files), "file"), files[0])
		}
		list = append(list, Step{Kind: StepPlaces, Text: text, Places: files})
	}
	if change == nil && !e.Known {
		text := unexplained(e)
		if about := e.About(); about != "" {
			text += fmt.Sprintf(" Look at what %s does in the new version.", about)
		}
		list = append(list, Step{Kind: StepLook, Text: text})
	}
	return list
}

// unexplained says why no entry is shown as the explanation: of the possible ones,
// best first, none is near enough.
func unexplained(e *explained) string {
	links := e.links
	switch {
	case e.after != "":
		return fmt.Sprintf("%s: look there first, this misses what it may not have made or started.", e.after)
	case len(links) == 0:
		return "Cannot tell: nothing in the notes names this."
	case len(links) > 1 && links[1].Score > rival*links[0].Score:
		return fmt.Sprintf("No entry of the notes is likely; %s and %s are as near: read both.", at(links[0].Change), at(links[1].Change))
	}
	return fmt.Sprintf("No entry of the notes is likely; the nearest is %s.", at(links[0].Change))
}

// rival is how near the second entry's score comes to the first's, as a part
// of it, for the two to be called equal.
const rival = 0.7

func at(c *notes.Change) string { return fmt.Sprintf("%s:%d", c.Notes, c.Line) }

// compared is the failed comparison that stands for a cause which is about a
// changed result, or nil.
func compared(e *explained) *symptom.Symptom {
	if e.Misses() != "" || e.Root().Kind != symptom.TestFailure {
		return nil
	}
	for _, m := range e.Members {
		if s := m.Symptom; s.Named(symptom.Expected) != "" || s.Named(symptom.Actual) != "" || strings.Contains(strings.ToLower(s.Message), "assert") {
			return s
		}
	}
	return nil
}

// places are the files in which a cause's own symptoms stand, those with most
// of them first.
func places(e *explained) []string {
	count := map[string]int{}
	for _, m := range e.Members {
		if m.Symptom.File != "" && !m.Follower {
			count[m.Symptom.File]++
		}
	}
	files := make([]string, 0, len(count))
	for f := range count {
		files = append(files, f)
	}
	sort.Slice(files, func(i, j int) bool {
		return count[files[i]] > count[files[j]] || count[files[i]] == count[files[j]] && files[i] < files[j]
	})
	return files
}

// doing are the words with which notes tell what to do.
var doing = regexp.MustCompile(`(?i)\b(use|call|calls|instead|pass|write|replace|enable|add|set|assign|make|wrap|import|switch|take its place|takes its place|in favou?r of|rename)\b`)

// ordering is the beginning of a sentence that tells what to do.
var ordering = regexp.MustCompile(`^\W*(?:(?i:please|instead),? |You (?:can|must|should|have to|need to) )?(?i:use|call|pass|write|replace|enable|add|set|assign|make|wrap|import|switch|rename|include|declare|define|say|take|remove|change|move|update|run|install|give|convert|cast|drop|delete|choose)\b`)

// instruction is the sentence of an entry that tells what to do, or "".
func instruction(c *notes.Change) string {
	text := strings.Join(strings.Fields(strings.ReplaceAll(c.Text, "\n", " ")), " ")
	list := sentences(text)
	for _, tells := range []*regexp.Regexp{ordering, doing} {
		for n, sentence := range list {
			if tells.MatchString(sentence) && len(sentence) < 300 && (n > 0 || tells == doing) { // the first says what was done
				return sentence
			}
		}
	}
	switch c.Kind { // what such an entry says is what to do
	case notes.Signature, notes.Requirement, notes.Moved, notes.Removed:
		if c.Title != "" {
			return c.Title
		}
	}
	return ""
}

// sentences takes a text apart where a full stop is followed by a capital or
// by code.
func sentences(text string) []string {
	var list []string
	from := 0
	for i := 0; i+2 < len(text); i++ {
		if (text[i] == '.' || text[i] == '!' || text[i] == ';') && text[i+1] == ' ' && (text[i+2] >= 'A' && text[i+2] <= 'Z' || text[i+2] == '`') {
			list = append(list, strings.TrimSpace(text[from:i+1]))
			from = i + 2
		}
	}
	if rest := strings.TrimSpace(text[from:]); rest != "" {
		list = append(list, rest)
	}
	return list
}

func short(text string) string {
	if r := []rune(text); len(r) > 60 {
		return string(r[:57]) + "…"
	}
	return text
}
