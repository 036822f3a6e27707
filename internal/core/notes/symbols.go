package notes

import (
	"regexp"
	"strings"
)

var (
	pathLike  = regexp.MustCompile(`^@?[\w.-]+(/[\w.-]+)+$|^[.#]?[A-Za-z][\w.]*(-[\w.]+)+$`)
	nameToken = regexp.MustCompile(`--?[a-z][\w-]{2,}|[A-Za-z_$@][\w$]*(?:(?:\.|::|->|#)[A-Za-z_$][\w$]*)*`)
	proseName = regexp.MustCompile(`\b(?:[a-z]+[A-Z]\w*|[A-Z][a-z0-9]+[A-Z]\w*|[A-Za-z]\w*_\w+|[A-Za-z_]\w*(?:::[A-Za-z_]\w*)+|[A-Za-z_]\w*(?:\.[A-Za-z_]\w*)+\(\)|[A-Za-z_]\w*\(\))|(?:^|\s)(--[a-z][\w-]+)`)
)

// wrapped is a field of a template: "{net}", "%net%", "<net>".
var wrapped = regexp.MustCompile(`^(?:\$?\{{1,2}\s?[\w.-]+\s?\}{1,2}|%[\w.-]+%|<[\w.-]+>)$`)

const span = "`([^`\\n]+?)`"

// inExample is what a name weighs in a span of code: less among the arguments of a
// call, where it is called to make one, or is a plain name for one.
func inExample(code string, at []int) float64 {
	head := code[:at[0]]
	switch inside := strings.Count(head, "(") > strings.Count(head, ")"); {
	case inside && strings.HasPrefix(code[at[1]:], "("):
		return 0.4
	case inside && !strings.ContainsAny(code, "{}=:<>") && strings.Trim(code[at[0]:at[1]], "abcdefghijklmnopqrstuvwxyz") == "":
		return 0.5
	}
	return 1
}

// literal is a text in quotes in a line of code.
var literal = regexp.MustCompile(`"[^"]*"|'[^']*'`)

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

// proseSpan is a span of words that follow one another as no code does.
var proseSpan = regexp.MustCompile(`^[a-z]+(?:,? [A-Za-z]+){2,}$`)

// beginning stands for all names that begin so: safe*, jar.open*.
var beginning = regexp.MustCompile(`^(?:\w+\.)*\w{3,}\*$`)

// symbolsIn lists the names in an entry: in code spans, in rename pairs and,
// with less weight, in prose and blocks of code.
func symbolsIn(text string, renames []Rename, oldCode, newCode, code []string) []Symbol {
	best := map[string]Symbol{}
	called := map[string]bool{} // export() is a function, whatever export is elsewhere
	var order []string
	add := func(name string, side Side, weight float64) {
		if name = strings.TrimRight(name, "."); strings.HasPrefix(name, ".") && !fileName.MatchString(name) {
			name = strings.TrimLeft(name, ".")
		}
		if len(name) < 2 || common[strings.ToLower(name)] && (weight < 1 || keywords[name] && !called[name]) {
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
			best[name] = Symbol{Name: name, Side: side, Role: roleOf(name, text), Owner: ownerOf(name), Weight: max(weight, old.Weight)}
		}
	}
	for _, r := range renames {
		add(r.From, Old, 1)
		add(r.To, NewOne, 1)
	}
	sides := clauseSides(text)
	for _, name := range proposed(text) {
		add(name, NewOne, 1)
	}
	for _, code := range spansOf(text) {
		side := sides[code]
		if side == "" {
			side = Either
		}
		if m := commandFlag.FindStringSubmatch(code); m != nil {
			if warning := warningFlag.FindStringSubmatch(code); warning != nil {
				add("-W"+warning[1], side, 1)
			}
			add(m[1], side, 1)
			continue
		}
		if strings.ContainsAny(code, "/-") && pathLike.MatchString(code) || strings.Contains(code, ".") && fileName.MatchString(code) {
			add(code, side, 1)
			continue
		}
		if strings.ContainsAny(code, "{%<") && wrapped.MatchString(code) {
			add(code, side, 1)
		}
		if strings.Contains(code, " ") && proseSpan.MatchString(code) {
			continue
		}
		if strings.HasSuffix(code, "*") && beginning.MatchString(code) {
			add(code, side, 1)
			continue
		}
		if strings.Contains(code, "(") { // what an example passes names nothing
			code = literal.ReplaceAllString(code, "")
		}
		for _, at := range nameToken.FindAllStringIndex(code, -1) {
			name := code[at[0]:at[1]]
			called[name] = called[name] || strings.HasPrefix(code, name+"(")
			add(name, side, inExample(code, at))
		}
	}
	for _, name := range proseNames(withoutSpans(text)) {
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

var (
	clauseEnd = regexp.MustCompile(`[.;:]\s+|\n`)
	isGone    = regexp.MustCompile("(?i)`[^`]*`[^`]{0,30}\\b(?:(?:is|are|was|were|has|have)\\s+(?:been\\s+)?(?:now\\s+)?(?:removed|gone|dropped|deleted|withdrawn)|no longer (?:there|exists?|available|exported|supported|shipped|read))\\b|\\b(?:removed?|dropped?|deleted?)\\s+(?:the\\s+)?(?:\\w+\\s+)?`")
	isNew     = regexp.MustCompile("(?i)\\b(?:lives? in|moved to|found in|available (?:in|from|as)|import(?:ed)? (?:it |them )?from)\\s+(?:the\\s+)?(?:\\w+\\s+)?`")
)

// clauseSides tells the side of names whose clause says that they are gone, or
// where something is now; the others are on either.
func clauseSides(text string) map[string]Side {
	sides := map[string]Side{}
	lower := strings.ToLower(text)
	gone, new := holdsAny(lower, "remov", "gone", "drop", "delet", "withdrawn", "no longer"), holdsAny(lower, "live", "moved to", "found in", "available", "import")
	if !gone && !new || strings.IndexByte(text, '`') < 0 {
		return nil
	}
	for _, clause := range clauseEnd.Split(text, -1) {
		side := Either
		switch {
		case strings.IndexByte(clause, '`') < 0:
			continue
		case gone && isGone.MatchString(clause):
			side = Old
		case new && isNew.MatchString(clause):
			side = NewOne
		}
		for _, code := range spansOf(clause) {
			if sides[code] == "" || sides[code] == Either {
				sides[code] = side
			}
		}
	}
	return sides
}

// instead leads to the names that an entry says to use, becoming to code that takes
// the place of other code. "To use", "no longer use" and the like lead to none.
var (
	instead  = regexp.MustCompile(`(?i)(\w+)?\W{1,3}(?:use|in favou?r of|replaced (?:by|with)|switch to|migrate to)\s+(?:the\s+)?(?:\w+\s+)?(` + span + `(?:\s*(?:,|and|or|,\s*and)\s*` + span + `)*)`)
	becoming = regexp.MustCompile(span + `\s+(?:becomes?|became|turns into)\s+` + span)
	using    = map[string]bool{"to": true, "longer": true, "you": true, "who": true, "not": true, "can": true, "could": true, "that": true, "we": true, "they": true, "will": true, "the": true, "which": true, "of": true, "now": true, "and": true, "users": true, "still": true}
)

// proposed lists the names that an entry says to use in place of others.
func proposed(text string) []string {
	lower := strings.ToLower(text)
	var list []string
	if holdsAny(lower, "use ", "favor", "favour", "replaced", "switch to", "migrate to") {
		for _, m := range instead.FindAllStringSubmatch(text, -1) {
			if using[strings.ToLower(m[1])] {
				continue
			}
			for _, code := range spansOf(m[2]) {
				if name := bareName(code); name != "" && nameToken.FindString(name) == name {
					list = append(list, name)
				}
			}
		}
	}
	if holdsAny(lower, "becom", "became", "turns into") {
		for _, m := range becoming.FindAllStringSubmatch(text, -1) {
			for _, name := range nameToken.FindAllString(m[2], -1) {
				if !strings.Contains(m[1], name) {
					list = append(list, name)
				}
			}
		}
	}
	return list
}

// spansOf lists what stands in backticks, single or double, on one line.
func spansOf(text string) (spans []string) {
	eachSpan(text, func(from, end int) { spans = append(spans, text[from:end]) })
	return spans
}

// withoutSpans is a text with a blank in place of each span of code.
func withoutSpans(text string) string {
	if strings.IndexByte(text, '`') < 0 {
		return text
	}
	var b strings.Builder
	last := 0
	eachSpan(text, func(from, end int) {
		b.WriteString(strings.TrimSuffix(text[last:from], "`"))
		b.WriteByte(' ')
		last = end
		for last < len(text) && text[last] == '`' {
			last++
		}
	})
	b.WriteString(text[last:])
	return b.String()
}

func eachSpan(text string, take func(from, end int)) {
	for i := strings.IndexByte(text, '`'); i >= 0 && i < len(text); {
		from := i
		for from < len(text) && from < i+2 && text[from] == '`' {
			from++
		}
		n := strings.IndexAny(text[from:], "`\n")
		if n < 0 {
			return
		}
		next := from + n
		if n > 0 && text[next] == '`' {
			take(from, next)
			for stop := next + 2; next < stop && next < len(text) && text[next] == '`'; {
				next++
			}
		}
		n = strings.IndexByte(text[next:], '`')
		if n < 0 {
			return
		}
		i = next + n
	}
}

// proseNames lists the words of a text that look like names in a program.
func proseNames(text string) (names []string) {
	for word := range strings.FieldsSeq(text) {
		if unlikeProse(word) {
			names = append(names, proseName.FindAllString(word, -1)...)
		}
	}
	return names
}

// unlikeProse is a cheap test that most words of prose fail.
func unlikeProse(word string) bool {
	if strings.HasPrefix(word, "--") {
		return true
	}
	for i := 1; i < len(word); i++ {
		switch c := word[i]; {
		case c == '_' || c == '(' || c == ':' && strings.HasPrefix(word[i:], "::") && i+2 < len(word):
			return true
		case 'A' <= c && c <= 'Z' && (word[i-1] < 'A' || word[i-1] > 'Z'):
			return true
		}
	}
	return false
}

// ownerOf is what a name with parts belongs to, or "".
func ownerOf(name string) string {
	if i := strings.LastIndexAny(name, ".#:>"); i > 0 && !strings.Contains(name, "/") && !fileName.MatchString(name) {
		return strings.Trim(name[:i], "$-:.#")
	}
	return ""
}

// warningFlag is a flag of GNU compilers that turns the warning behind it off, or
// makes an error of it or none.
var warningFlag = regexp.MustCompile(`^-W(?:no-error=|error=|no-)([a-z][\w+-]*)(?:=\S*)?$`)

// commandFlag is an option of a command, whose value is no name: "--lid=loose",
// "-Wlid-open", "/W4".
var commandFlag = regexp.MustCompile(`^(--?[A-Za-z][\w-]+|/[A-Z][\w-]*)(?:[=:\s]\S*)?$`)

// fileName is a path or a name with the extension of a file that people edit.
var fileName = regexp.MustCompile(`^[\w@./*-]*\.(?:json5?|ya?ml|toml|ini|cfg|conf|config|env|xml|properties|lock|txt|md|rc|gradle|kts|props|csproj)$|^\.\w+rc$|^[\w@./-]*\.(?:config|conf|setup)\.[cm]?[jt]sx?$`)

// roleOf tells what a name is by its form and by the word beside it.
func roleOf(name, text string) Role {
	switch {
	case strings.HasPrefix(name, "-"), len(name) > 1 && name[0] == '/' && commandFlag.MatchString(name):
		return Flag
	case strings.Contains(name, ".") && fileName.MatchString(name):
		return File
	case name == strings.ToUpper(name) && holdsAny(text, "nvironment", "env ") && beside(name, text, environmentWords):
		return Environment
	case holdsAny(text, "ption", "etting", "key", "Set ", "set ") && beside(name, text, optionWords):
		return Option
	}
	return ""
}

var (
	optionWords      = []string{"option", "setting", "config key", "configuration key", "key", "set"}
	environmentWords = []string{"environment variable", "env variable", "env var", "environment"}
)

// beside reports whether one of the words stands right before or behind a name's
// code span: "the option `lid`", "the `lid` and `cap` options".
func beside(name, text string, words []string) bool {
	at := strings.Index(text, "`"+name)
	if at < 0 {
		return false
	}
	before, behind := strings.ToLower(text[max(0, at-30):at]), ""
	if end := strings.IndexByte(text[at+1:], '`'); end >= 0 {
		behind = strings.ToLower(text[at+end+2:])
		for { // over further names: "`lid`, `cap` and `rim` options"
			rest := strings.TrimLeft(behind, " ,(")
			rest = strings.TrimPrefix(strings.TrimPrefix(rest, "and "), "or ")
			if !strings.HasPrefix(rest, "`") {
				break
			}
			_, after, ok := strings.Cut(rest[1:], "`")
			if !ok {
				break
			}
			behind = after
		}
	}
	behind = strings.TrimLeft(behind, " (")
	behind = strings.TrimPrefix(strings.TrimPrefix(behind, "a "), "an ")
	for _, w := range words {
		if rest, ok := strings.CutPrefix(behind, w); w != "set" && ok && !startsWithLetter(strings.TrimPrefix(rest, "s")) {
			return true
		}
		if head := strings.TrimRight(before, " "); strings.HasSuffix(head, w) || strings.HasSuffix(head, w+"s") {
			return true
		}
	}
	return false
}

func startsWithLetter(s string) bool { return s != "" && (s[0] >= 'a' && s[0] <= 'z') }

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

// common are words of code and of prose that name nothing of a package, unless
// they are set as code by themselves; keywords never do.
var common, keywords = map[string]bool{}, map[string]bool{}

func init() {
	for _, word := range strings.Fields(`if else for while return func function var let const import from export package type struct interface class new nil null
		undefined none true false string int bool float void async await public private static def self this go any object number boolean require module`) {
		keywords[word] = true
	}
	for _, word := range strings.Fields(`if else for while return func function var let const import from export package type struct interface class new nil null
		undefined none true false string int bool float error void async await public private static def self this err ok main the a an and or in of to is it as
		number any object array boolean map list set go js ts npm github com https http www console log print printf println fmt require module i x y e`) {
		common[word] = true
	}
}
