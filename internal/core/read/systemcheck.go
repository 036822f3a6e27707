package read

import (
	"regexp"
	"strings"

	"unicausa/internal/core/symptom"
)

// systemCheck reads what Django's check framework says of settings and models,
// by level:
//
//	ERRORS:
//	?: (shelves.E001) The setting LIDS must name a lid.
//	shelf.Jar.lid: (fields.E903) LidField is removed except for support in historical migrations.
//		HINT: Use CapField(null=True) instead.
//
//	System check identified 2 issues (0 silenced).
//
// Format: django.core.checks.messages and BaseCommand.check.
type systemCheck struct {
	level   symptom.Kind // of the heading above
	open    *symptom.Symptom
	at, end int
}

var (
	checkLevels = map[string]symptom.Kind{"CRITICALS:": symptom.Error, "ERRORS:": symptom.Error, "WARNINGS:": symptom.Warning, "INFOS:": symptom.Lint}
	checkLine   = regexp.MustCompile(`^(\?|[A-Za-z_][\w.]*): (?:\((\w+\.[A-Z]\d+)\) )?(.+)$`)
	checkGone   = regexp.MustCompile(`^(\w+) (?:is|has been) (removed|deprecated)\b`)
	checkName   = regexp.MustCompile(`\b[A-Z][A-Z0-9]*(?:_[A-Z0-9]+)+\b`) // a setting
)

var systemCheckReader = stream{name: "system check", marks: []string{"^CRITICALS:", "^ERRORS:", "^WARNINGS:", "^INFOS:", ".E0", ".W0", ".E9", ".W9"}, open: func() lineReader { return &systemCheck{} }}

func (c *systemCheck) line(l Line, out *sink) verdict {
	if level, ok := checkLevels[l.Text]; ok && checkLine.MatchString(l.below(1)) {
		c.close(out)
		c.level = level
		return noise
	}
	if c.open != nil && strings.HasPrefix(l.Text, "\t") {
		addDetail(c.open, strings.TrimSpace(l.Text))
		c.end = l.Number
		return more
	}
	c.close(out)
	m := checkLine.FindStringSubmatch(l.Text)
	if c.level == "" || m == nil {
		c.level = ""
		return pass
	}
	s := symptom.Symptom{Kind: c.level, Level: "warning", Phase: symptom.PhaseStart, Tool: "django", Code: m[2], Message: m[3], Unit: strings.Trim(m[1], "?")}
	if c.level == symptom.Error {
		s.Level = "error"
	}
	if gone := checkGone.FindStringSubmatch(s.Message); gone != nil {
		s.Refs = refs{ref(symptom.Missing, gone[1])}
		if gone[2] == "deprecated" {
			s.Kind, s.Refs = symptom.Deprecation, refs{ref(symptom.Old, gone[1])}
		}
	} else if name := checkName.FindString(s.Message); name != "" {
		s.Refs = refs{ref(symptom.Option, name)}
	}
	c.open, c.at, c.end = &s, l.Number, l.Number
	return more
}

func (c *systemCheck) close(out *sink) {
	if c.open != nil {
		out.add(*c.open, c.at, c.end)
		c.open = nil
	}
}
