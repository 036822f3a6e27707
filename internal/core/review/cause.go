package review

import (
	"regexp"
	"strings"

	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// Cause is a cause of the upgrade as far as a review asks: the names that its symptoms
// miss or complain of, the lines that they stand on, by file, and the changes that may
// explain it.
type Cause struct {
	ID      string
	Title   string
	Names   []string
	Missing []string // of these, what is not there
	Places  map[string][]int
	Changes []string
}

// quoted is a name that a message puts in quotes.
var quoted = regexp.MustCompile("[`'\"‘]([A-Za-z_]\\w{3,})['\"`’]")

// Add takes a symptom into the cause; its file is that of the tree which it means.
func (c *Cause) Add(tree *source.Tree, s *symptom.Symptom) {
	if file, exact := tree.Find(s.File, s.Unit); file != "" && exact && s.Line > 0 {
		if c.Places == nil {
			c.Places = map[string][]int{}
		}
		c.Places[file] = append(c.Places[file], s.Line)
	}
	named := false
	for _, ref := range s.Refs {
		switch ref.Role {
		case symptom.Missing, symptom.Old, symptom.Option, symptom.Callee:
			name := ref.Name[strings.LastIndexAny(ref.Name, ".:#>")+1:]
			c.Names = append(c.Names, name)
			if named = true; ref.Role == symptom.Missing {
				c.Missing = append(c.Missing, name)
			}
		}
	}
	if named {
		return
	}
	for _, m := range quoted.FindAllStringSubmatch(s.Message, -1) {
		c.Names = append(c.Names, m[1])
	}
}
