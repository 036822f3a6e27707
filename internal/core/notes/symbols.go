package notes

import (
	"regexp"
	"strings"
)

var (
	codeSpan  = regexp.MustCompile("``?([^`\n]+?)``?")
	pathLike  = regexp.MustCompile(`^@?[\w.-]+(/[\w.-]+)+$`)
	nameToken = regexp.MustCompile(`--?[a-z][\w-]{2,}|[A-Za-z_$@][\w$]*(?:(?:\.|::|->|#)[A-Za-z_$][\w$]*)*`)
	proseName = regexp.MustCompile(`\b(?:[a-z]+[A-Z]\w*|[A-Z][a-z0-9]+[A-Z]\w*|[A-Za-z]\w*_\w+|[A-Za-z_]\w*(?:\.[A-Za-z_]\w*)+\(\)|[A-Za-z_]\w*\(\))|(?:^|\s)(--[a-z][\w-]+)`)
)

const span = "`([^`\\n]+?)`"

// renamePatterns find pairs of names in an entry's own words. The flag says
// that the new name comes first.
var renamePatterns = []struct {
	re       *regexp.Regexp
	newFirst bool
}{
	{regexp.MustCompile(span + `\s*(?:→|->|=>|⇒|➡️?|⟶)\s*` + span), false},
	{regexp.MustCompile(`(?i)\brenam(?:e|ed|ing)\s+(?:the\s+)?(?:\w+\s+)?(?:from\s+)?` + span + `\s+(?:\w+\s+)?(?:to|as|into|in)\s+` + span), false},
	{regexp.MustCompile(`(?i)` + span + `[^.;` + "`" + `]{0,40}\b(?:renamed|moved)\s+(?:in)?to\s+` + span), false},
	{regexp.MustCompile(`(?i)` + span + `\s+(?:\w+\s+)?(?:is|are)\s+now\s+(?:called\s+|named\s+|spelled\s+|known as\s+)?` + span), false},
	{regexp.MustCompile(`(?i)` + span + `\s+(?:\w+\s+)?(?:is|are)\s+(?:called|named)\s+` + span), false},
	{regexp.MustCompile(`(?i)` + span + `\s+(?:\w+\s+)?(?:became|becomes|goes by|now goes by)\s+` + span), false},
	{regexp.MustCompile(`(?i)` + span + `[^.;` + "`" + `]{0,40}\breplaced?\s+(?:by|with)\s+` + span), false},
	{regexp.MustCompile(`(?i)\breplace\s+(?:\w+\s+)?` + span + `\s+(?:with|by)\s+` + span), false},
	{regexp.MustCompile(`(?i)\buse\s+(?:\w+\s+)?` + span + `\s+(?:\w+\s+)?(?:instead of|rather than|in place of)\s+` + span), true},
	{regexp.MustCompile(`(?i)` + span + `[^` + "`" + `]{0,60}?[.;,:(—-]\s*(?:please\s+)?(?:use|call|prefer|try|see)\s+(?:\w+\s+)?` + span), false},
	{regexp.MustCompile(`(?i)` + span + `[^.;` + "`" + `]{0,40}\bin favou?r of\s+(?:\w+\s+)?` + span), false},
	{regexp.MustCompile(`(?i)\bchange\s+(?:\w+\s+)?` + span + `\s+to\s+` + span), false},
}

// renamesIn lists the pairs of names that a text (with its code spans) tells.
func renamesIn(text string) []Rename {
	text = strings.Join(strings.Fields(text), " ")
	var list []Rename
	seen := map[Rename]bool{}
	for _, p := range renamePatterns {
		for _, m := range p.re.FindAllStringSubmatch(text, -1) {
			from, to := bareName(m[1]), bareName(m[2])
			if p.newFirst {
				from, to = to, from
			}
			r := Rename{From: from, To: to}
			if from != "" && to != "" && from != to && !seen[r] && !seen[Rename{From: to, To: from}] {
				seen[r] = true
				list = append(list, r)
			}
		}
	}
	return list
}

// bareName is the name in a code span: without call, address and arguments; ""
// where the span is more than a name.
func bareName(code string) string {
	code = strings.TrimSpace(code)
	if i := strings.IndexAny(code, "(:="); i > 0 && !strings.HasPrefix(code[i:], "::") {
		code = code[:i]
	}
	code = strings.TrimSpace(strings.TrimLeft(code, "&*."))
	if code == "" || strings.ContainsAny(code, " {}<>\"'") {
		return ""
	}
	return code
}

// symbolsIn lists the names in an entry: in code spans, in rename pairs and,
// with less weight, in prose and blocks of code.
func symbolsIn(text string, renames []Rename, oldCode, newCode, code []string) []Symbol {
	best := map[string]Symbol{}
	var order []string
	add := func(name string, side Side, weight float64) {
		name = strings.Trim(name, ".")
		if len(name) < 2 || common[strings.ToLower(name)] {
			return
		}
		old, known := best[name]
		if !known {
			order = append(order, name)
		}
		if !known || old.Side == Either && side != Either && weight >= 0.5 || weight > old.Weight {
			if known && side == Either {
				side = old.Side
			}
			best[name] = Symbol{Name: name, Side: side, Weight: max(weight, old.Weight)}
		}
	}
	for _, r := range renames {
		add(r.From, Old, 1)
		add(r.To, NewOne, 1)
	}
	for _, m := range codeSpan.FindAllStringSubmatch(text, -1) {
		if strings.Contains(m[1], "/") && pathLike.MatchString(m[1]) {
			add(m[1], Either, 1)
			continue
		}
		for _, name := range nameToken.FindAllString(m[1], -1) {
			add(name, Either, 1)
		}
	}
	for _, name := range proseName.FindAllString(codeSpan.ReplaceAllString(text, " "), -1) {
		add(strings.TrimSuffix(strings.TrimSpace(name), "()"), Either, 0.7)
	}
	blocks := []struct {
		lines  []string
		side   Side
		weight float64
	}{{oldCode, Old, 0.6}, {newCode, NewOne, 0.6}, {code, Either, 0.4}}
	for _, b := range blocks {
		for _, line := range b.lines {
			for _, name := range nameToken.FindAllString(line, -1) {
				add(name, b.side, b.weight)
			}
		}
	}
	list := make([]Symbol, 0, len(order))
	for _, name := range order {
		list = append(list, best[name])
	}
	return sideless(list, oldCode, newCode)
}

// sideless takes the side from names that stand in old and in new code alike.
func sideless(list []Symbol, oldCode, newCode []string) []Symbol {
	if len(oldCode) == 0 || len(newCode) == 0 {
		return list
	}
	inOld, inNew := tokens(oldCode), tokens(newCode)
	for i, s := range list {
		switch {
		case inOld[s.Name] && inNew[s.Name] && s.Weight < 1:
			list[i].Side = Either
		case inOld[s.Name] && !inNew[s.Name] && s.Side == Either:
			list[i].Side = Old
		case inNew[s.Name] && !inOld[s.Name] && s.Side == Either:
			list[i].Side = NewOne
		}
	}
	return list
}

func tokens(lines []string) map[string]bool {
	set := map[string]bool{}
	for _, line := range lines {
		for _, name := range nameToken.FindAllString(line, -1) {
			set[name] = true
		}
	}
	return set
}

// common are words of code and of prose that name nothing of a package.
var common = map[string]bool{}

func init() {
	for _, word := range strings.Fields(`if else for while return func function var let const import from export package type struct interface class new nil null
		undefined none true false string int bool float error void async await public private static def self this err ok main the a an and or in of to is it as
		number any object array boolean map list set go js ts npm github com https http www console log print printf println fmt require module i x y e`) {
		common[word] = true
	}
}
