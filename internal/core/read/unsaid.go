package read

import (
	"fmt"
	"strings"

	"unicausa/internal/core/symptom"
)

// tailLines is how many of an input's last lines are kept.
const tailLines = 8

// tail keeps the last lines that are not blank of what ends in a chunk.
func (o *sink) tail(c *chunk) {
	o.result.Tail, o.result.TailEnd = nil, 0
	for back := 0; back < 200 && len(o.result.Tail) < tailLines; back++ {
		text := strings.TrimSpace(c.line(len(c.lines) - 1 - back))
		if text == "" {
			continue
		}
		if o.result.TailEnd == 0 {
			o.result.TailEnd = max(1, o.base-back)
		}
		o.result.Tail = append([]string{shorten(text)}, o.result.Tail...)
	}
}

// Unsaid adds to the outputs of a check that failed what they do not say. Where
// nothing was read of any of them the failure is a symptom of its own, which
// stands at the last line of the first output that has one; an output that
// nothing at all was made of is said to be unread.
func Unsaid(results []Result, check string, exit int) {
	if exit == 0 || len(results) == 0 {
		return
	}
	read, last := false, 0
	for i := range results {
		r := &results[i]
		read = read || len(r.Symptoms) > 0
		if len(results[last].Tail) == 0 {
			last = i
		}
		if r.Lines > 0 && r.Problem == "" && len(r.Symptoms)+len(r.Tests)+r.Account.Noise == 0 {
			r.Problem = "the check failed, and nothing in this output was understood: it is unread as a whole"
		}
	}
	if read {
		return
	}
	r := &results[last]
	at := max(1, r.TailEnd)
	r.Symptoms = append(r.Symptoms, symptom.Symptom{
		Kind: symptom.Error, Level: "error", Message: fmt.Sprintf("%s fails, and nothing in its output says why", check),
		Detail: strings.Join(r.Tail, "\n"), Count: 1, At: []symptom.At{{Input: r.Name, Line: at, End: at}}, Basis: symptom.ByVerdict,
	})
}
