package link

import (
	"math"
	"regexp"
	"slices"
	"sort"
	"strings"

	"unicausa/internal/core/cluster"
	"unicausa/internal/core/symptom"
)

// query is what a cause asks of the notes.
type query struct {
	cause     *cluster.Cause
	pkg       string                  // the cause's, or ""
	told      bool                    // it is known from what is broken
	facts     map[string]cluster.Fact // by name, the strongest
	share     map[string]float64      // of the cause's symptoms that have the name
	words     map[string]float64
	said      map[string]float64         // words of the messages
	arguments map[string]map[string]bool // function to the types with which messages name or call it
	phrases   []phrase                   // of the messages, each once
	tests     map[string]float64         // words of the failed tests' names
	testWords []string
	owners    map[string]bool // what the names are asked of, in small letters
	parts     map[string]bool // names of the package on the way to others, in small letters
	shapes    []string        // what stands before a number in a value that no plain text is, each once
	values    [][2]string     // expected and actual values that are numbers or words
	differs   map[string]bool // words for what expected and actual values differ in
	best      []bestName      // what the cause is about, strongest first
	lines     []string        // source lines
	lineNames []map[string]bool
	families  map[string]bool // package of changes: is it the cause's
	compared  []compared      // the values of failed comparisons
	quotes    []seen          // messages and the texts on source lines
	proposed  []written       // how what messages show is written
	further   []seen          // texts further away
}

type bestName struct {
	name   string
	weight float64
	words  map[string]float64
}

// shape are the words of runtimes and compilers for a module that exports
// otherwise than it is imported, and shapeWords those of notes about it.
var (
	shape      = regexp.MustCompile(`(?i)\bdefault export\b|\.default\b.{0,3} is not |ERR_REQUIRE_ESM|require\(\) of ES|does not provide an export|can only be (default-)?imported`)
	shapeWords = wordsOf("default export named import require module exports")
)

// literals are values that notes name when their meaning changes.
var literals = regexp.MustCompile(`\b(null|undefined|None|nil|NaN)\b`)

// framework is what test frameworks write around a comparison: the classes of their
// errors and their own words.
var framework = regexp.MustCompile(`\b(?:[\w$]+\.)*\w*(?:Assert|Comparison|Expectation)\w*(?: \[\w+\])?:?|\bassert\w*|Expected values to be [a-z -]*equal`)

// thrownClass is the class of an error in front of what it says: many errors are of
// one class.
var thrownClass = regexp.MustCompile(`^[\w.$]*(?:Error|Exception)\b(?: \[\w+\])?:? `)

// value is a value that is one number of several digits, or begins with one: 300,
// "404 Not Found".
var value = regexp.MustCompile(`^\W*\d\d+(\.\d+)?\b`)

// shapeOf is what stands around a number in a value that is written like code:
// "np.float64(" before one, "<Lid ".
var shapeOf = regexp.MustCompile(`[A-Za-z_][\w.]*[.\d_]\w*\(|<[A-Z]\w+[ :(]`)

// texts are the quoted texts on a line: queries, patterns, settings.
var texts = regexp.MustCompile("\"[^\"]+\"|'[^']+'|`[^`]+`")

// How much of a large cause is read.
const (
	mostLines   = 40
	mostPhrases = 200
)

// What a word of a query weighs by where it stands, against one that a test expects and does
// not get. Set by hand; the features that they go into have fitted weights.
const (
	messageWord = 0.8 // in the message, or the test's name
	factWord    = 0.3 // in a name that is a fact,
	sureWord    = 0.4 // and so much more the surer the fact is
	classWord   = 0.3 // in the class of what was thrown
	valueWord   = 0.5 // in the values that a test compares
	lineWord    = 0.5 // on the source line,
	bodyWord    = 0.2 // or further away
	textWord    = 0.5 // in a quoted text
	partOfName  = 0.4 // in a name of several parts, each against the whole
)

func newQuery(c *cluster.Cause) *query {
	q := &query{cause: c, pkg: c.Package(), told: c.PackageKnown(), facts: map[string]cluster.Fact{}, words: map[string]float64{}, share: map[string]float64{}, tests: map[string]float64{}, families: map[string]bool{}, owners: map[string]bool{}, differs: map[string]bool{}, said: map[string]float64{}, arguments: map[string]map[string]bool{}, parts: map[string]bool{}}
	seen := map[string]bool{}
	independent, speaks := 0, c.Speaks()
	for i := range c.Members {
		m := &c.Members[i]
		if m.Follower {
			continue
		}
		if independent++; independent > 5*mostLines {
			break
		}
		facts := m.Facts
		if speaks && m.Silent() {
			facts = nil
		}
		for _, f := range facts {
			name := LastPart(f.Name)
			switch f.What {
			case cluster.FactModule, cluster.FactShape:
				name = f.Name
			case cluster.FactRule: // of a plug-in, which its own notes do not name
				name = f.Name[strings.LastIndexByte(f.Name, '/')+1:]
			}
			q.share[name]++
			if f.What == cluster.FactOwner {
				q.owners[strings.ToLower(f.Name)] = true
			} else if f.Owner != "" {
				q.owners[strings.ToLower(LastPart(f.Owner))] = true
			}
			if old, ok := q.facts[name]; !ok || f.Weight > old.Weight {
				q.facts[name] = f
			}
			weight := factWord + sureWord*f.Weight
			weigh(q.words, f.Name, weight)
			if part := inner(f.Name); f.What == cluster.FactModule && part != "" { // the rest of the path is in every import
				for _, w := range wordsOf(f.Name[:len(f.Name)-len(part)]) {
					delete(q.words, w)
				}
			}
		}
		message := m.Symptom.Message
		if m.Symptom.Kind == symptom.TestFailure {
			message = framework.ReplaceAllString(message, " ")
		}
		if class := thrownClass.FindString(message); class != "" {
			weigh(q.words, class, classWord)
			message = message[len(class):]
		}
		weigh(q.words, message, messageWord)
		weigh(q.said, message, 1)
		q.called(m)
		for _, w := range signWords(m.Symptom.Message) {
			q.words[w], q.said[w] = math.Max(q.words[w], messageWord), 1
		}
		for _, p := range phrasesOf(message) {
			if !slices.Contains(q.phrases, p) && len(q.phrases) < mostPhrases {
				q.phrases = append(q.phrases, p)
			}
		}
		if m.Fact(cluster.FactShape) != nil || shape.MatchString(m.Symptom.Message) {
			for _, w := range shapeWords {
				q.words[w] = math.Max(q.words[w], messageWord)
			}
		}
		if m.Says() { // the test's name says what is tested, not what is wrong
			weigh(q.words, m.Symptom.Test, valueWord)
		} else {
			weigh(q.words, m.Symptom.Test, messageWord)
		}
		weigh(q.tests, m.Symptom.Test, 1)
		if m.Symptom.Phase.Order() > symptom.PhaseCompile.Order() && c.Misses() == "" {
			expected, actual := cluster.Values(m.Symptom)
			q.observe(m, expected, actual)
			if e, a := value.FindString(expected), value.FindString(actual); e != a && e != "" && a != "" {
				q.values = append(q.values, [2]string{e, a})
			}
			for _, v := range []string{expected, actual} {
				for _, shape := range shapeOf.FindAllString(v, 4) {
					if !slices.Contains(q.shapes, shape) {
						q.shapes = append(q.shapes, shape)
					}
				}
			}
			weigh(q.words, expected+" "+actual, valueWord)
			for _, w := range onlyIn(expected, actual) {
				q.words[w] = math.Max(q.words[w], 1)
			}
			for _, w := range append(cluster.Differs(expected, actual), literals.FindAllString(m.Source, -1)...) {
				q.differs[stemWord(w)] = true
			}
		}
		if m.Source != "" && !seen[m.Source] && len(q.lines) < mostLines {
			seen[m.Source] = true
			q.lines = append(q.lines, m.Source)
			weight := lineWord
			if m.Fact(cluster.FactMissing) != nil {
				weight = bodyWord
			}
			weigh(q.words, code(m.Source, m.Ours), weight)
		}
	}
	for name, f := range q.facts {
		if f.What == cluster.FactFunction || f.What == cluster.FactAbout || f.What == cluster.FactLine {
			q.parts[strings.ToLower(name)] = true
		}
	}
	for name := range q.share {
		q.share[name] /= float64(independent)
	}
	q.quoted()
	for _, line := range c.Body() {
		weigh(q.words, code(line, c.Ours), bodyWord)
		if c.Misses() == "" {
			for _, text := range texts.FindAllString(line, -1) {
				if len(q.further) < mostSeen {
					q.further = append(q.further, seenAs(text))
				}
				for _, w := range wordsOf(text) {
					q.words[w] = math.Max(q.words[w], textWord)
				}
			}
		}
	}
	q.strongest()
	for w := range q.tests {
		q.testWords = append(q.testWords, w)
	}
	sort.Strings(q.testWords)
	if len(q.testWords) > 4 {
		q.testWords = q.testWords[:4]
	}
	return q
}

// called takes the types with which a message names a function, as javac and Scala
// write it, and those it says were found.
func (q *query) called(m *cluster.Member) {
	add := func(name, types string) {
		if q.arguments[name] == nil {
			q.arguments[name] = map[string]bool{}
		}
		q.arguments[name][typesOf(types)] = true
	}
	if strings.Contains(m.Symptom.Message, ") in ") {
		for _, s := range signature.FindAllStringSubmatch(m.Symptom.Message, 2) {
			add(s[1], s[2])
		}
	}
	if found := foundTypes.FindStringSubmatch(m.Symptom.Detail); found != nil {
		if f := m.Fact(cluster.FactCallee); f != nil {
			add(f.Name, found[1])
		}
	}
}

var (
	signature  = regexp.MustCompile(`\b([A-Za-z_]\w*)\(((?:[\w.<>\[\]]+(?:, ?)?)+)\) in \w`)
	foundTypes = regexp.MustCompile(`(?m)^\s*found:\s+([\w.<>\[\], ]+)$`)
)

// signs are what a message says of a sign, in quotes or as what was not expected.
var (
	signs     = regexp.MustCompile("['\"`‘“](_|[^\\w\\s'\"`‘“’”]{1,3})['\"`’”]|(?i:unexpected (?:token )?)([^\\w\\s'\"`]{1,3})(?:\\s|$)")
	signNames = map[string][]string{
		"_": wordsOf("underscore"), "...": wordsOf("spread rest ellipsis"), "..": wordsOf("spread rest range"), ".": wordsOf("dot"), "*": wordsOf("asterisk star wildcard"), "?": wordsOf("optional question mark"),
		";": wordsOf("semicolon"), ":": wordsOf("colon"), ",": wordsOf("comma"), "=>": wordsOf("arrow"), "->": wordsOf("arrow"), "?.": wordsOf("optional chaining"), "??": wordsOf("nullish coalescing"), "#": wordsOf("hash private"), "@": wordsOf("decorator annotation"),
		"==": wordsOf("equality"), "===": wordsOf("equality"), "!": wordsOf("exclamation"), "&": wordsOf("ampersand"), "|": wordsOf("pipe bar union"), "<": wordsOf("angle bracket"), ">": wordsOf("angle bracket"), "(": wordsOf("parenthesis parentheses group"), ")": wordsOf("parenthesis parentheses"),
		"[": wordsOf("square bracket"), "]": wordsOf("square bracket"), "{": wordsOf("brace curly"), "}": wordsOf("brace curly"), "%": wordsOf("percent"), "$": wordsOf("dollar"), "/": wordsOf("slash"), "\\": wordsOf("backslash"), "~": wordsOf("tilde"), "^": wordsOf("caret"),
	}
)

// signWords are the names of the signs that a message is about.
func signWords(message string) []string {
	if !strings.ContainsAny(message, "'\"`‘“") && !strings.Contains(message, "nexpected ") {
		return nil
	}
	var list []string
	for _, s := range signs.FindAllStringSubmatch(message, 4) {
		list = append(list, signNames[s[1]+s[2]]...)
	}
	return list
}

// weigh takes the words of a text into those of a query: of a name that is made of several,
// the whole counts, and its parts less, since an entry that has it has them too.
func weigh(words map[string]float64, text string, weight float64) {
	text = spelledOut.Replace(text)
	for from, end := range eachWord(text) {
		w := text[from:end]
		parts, each := humps(w), weight
		if len(parts) > 1 {
			words[strings.ToLower(w)] = math.Max(words[strings.ToLower(w)], weight)
			each *= partOfName
		}
		for _, p := range parts {
			if p = stemWord(strings.ToLower(p)); len(p) > 2 && !stopWords[p] {
				words[p] = math.Max(words[p], each)
			}
		}
	}
}

// onlyIn are the words that one of two values has and the other has not, the first
// few of them.
func onlyIn(expected, actual string) []string {
	a, b := wordsOf(expected), wordsOf(actual)
	var list []string
	for _, w := range append(slices.Clone(a), b...) {
		if slices.Contains(a, w) != slices.Contains(b, w) && len(list) < 12 {
			list = append(list, w)
		}
	}
	return list
}

// quoted lowers the function that threw where the message quotes a name that the
// notes have: it says by itself what it is about.
func (q *query) quoted() {
	for _, f := range q.facts {
		if f.What == cluster.FactQuoted {
			for name, f := range q.facts {
				if f.What == cluster.FactFrame {
					f.Weight /= 2
					q.facts[name] = f
				}
			}
			return
		}
	}
}

// code is a line without the words that say nothing of what it is about, and without names
// of the project's own.
func code(line string, own func(string) bool) string {
	var kept []string
	for from, end := range eachWord(line) {
		if w := line[from:end]; !cluster.Common(w) && !own(w) {
			kept = append(kept, w)
		}
	}
	return strings.Join(kept, " ")
}

// module is the unresolved module of the cause that a name of the notes is, or
// that is a part of it: javax.jar.lid of javax.jar and of "javax.jar.*".
func (q *query) module(name string) (cluster.Fact, bool) {
	name = strings.TrimRight(name, ".*")
	dotted := strings.Contains(name, ".")
	for of, f := range q.facts {
		if f.What == cluster.FactModule && (dotted && (of == name || strings.HasPrefix(of, name+".")) || inner(of) != "" && inner(of) == strings.SplitN(name, ".", 2)[0]) {
			return f, true
		}
	}
	return cluster.Fact{}, false
}

// inner is the last part of the path of a module inside a package: en of
// jar/locale/en.
func inner(module string) string {
	path := strings.TrimPrefix(module, "@")
	if strings.HasPrefix(path, ".") || strings.HasPrefix(path, "/") || strings.Count(path, "/") < 2 {
		return ""
	}
	return path[strings.LastIndexByte(path, '/')+1:]
}

// rule reports whether the rule that the cause breaks is among the names of a change.
func (q *query) rule(tokens map[string]bool) bool {
	for name, f := range q.facts {
		if f.What == cluster.FactRule && tokens[name] {
			return true
		}
	}
	return false
}

// strongest picks the names that the cause is about.
func (q *query) strongest() {
	for name, f := range q.facts {
		switch f.What {
		case cluster.FactLine, cluster.FactFunction, cluster.FactOwner:
			continue
		case cluster.FactQuoted, cluster.FactAbout:
			if q.cause.Misses() != "" {
				continue
			}
		}
		share := q.share[name]
		if part := inner(name); f.What == cluster.FactModule && part != "" {
			name = part
		}
		b := bestName{name: name, weight: f.Weight * math.Sqrt(share), words: map[string]float64{}}
		for _, w := range wordsOf(name) {
			b.words[w] = 1
		}
		q.best = append(q.best, b)
	}
	sort.Slice(q.best, func(i, j int) bool {
		a, b := q.best[i], q.best[j]
		return a.weight > b.weight || a.weight == b.weight && a.name < b.name
	})
	if len(q.best) > 4 {
		q.best = q.best[:4]
	}
}
