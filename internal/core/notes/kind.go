package notes

import (
	"regexp"
	"strings"
)

// kindRules are tried in order on an entry's words, in lower case. The first
// that matches decides; a heading ("Removed", "Added") decides what they leave.
// A rule matches by a phrase, or by its expression where the words around one
// of its hints have to be looked at. A phrase stands for whole words; one that
// ends with "…" for their beginning.
var kindRules = []struct {
	kind    Kind
	phrases []string
	hints   []string
	re      *regexp.Regexp
}{
	{
		Renamed, phrases("rename|renamed|renaming|is called|are called|is now called|are now called|is named|are named|is now named|are now named|now goes by|became|has become|have become|is spelt|are spelt|is now spelt|is replaced by|are replaced by|was replaced by|replaced with"),
		[]string{"→", "->", "=>"}, regexp.MustCompile("`[^`]+`" + `\s*(→|->|=>)\s*` + "`"),
	},
	{
		Requirement, nil,
		[]string{"requir", "need", "minimum", "support"}, regexp.MustCompile(`\b(requires?|required|needs?)\b[^.]{0,40}\b(\d+(\.\d+)*|or (newer|later|higher))\b|\d(\.\d+)*( or (newer|later|higher))? (is|are) (now )?(required|needed)\b|\bminimum\b[^.]{0,40}\bversion\b|\bdrop(s|ped)?\b[^.]{0,20}\bsupport for\b`),
	},
	{
		Removed, phrases("remove|removed|removes|removal|removing|dropped|delete|deleted|is gone|are gone|was gone|were gone|no longer exist|no longer exists|no longer available|" +
			"no longer exported|no longer exports|no longer supported|no longer supports|no longer provide|no longer provided|no longer shipped|no longer part of|no longer there|" +
			"does not exist anymore|does not exist any more|withdrawn|taken out|took out|is no more|are no more"),
		[]string{"drop"}, regexp.MustCompile(`^\W{0,4}drops?\b`),
	},
	{Moved, phrases("moved|live in|lives in|relocated|split out|split off|split into"), nil, nil},
	{Deprecated, phrases("deprecat…"), nil, nil},
	{
		Default, phrases("by default"),
		[]string{"default"}, regexp.MustCompile(`\bdefaults?\b[^.]{0,60}\b(now|changed|is|was|to)\b|\b(now|changed)\b[^.]{0,60}\bdefaults?\b`),
	},
	{
		Signature, phrases("argument|arguments|parameter|parameters|signature|pointer|pointers|callback|now take|now takes|now accept|now accepts|now expect|now expects|now return|now returns|" +
			"must be passed|must be given|must be a|must be an|returns an error|returns a error|returns a promise|returns an promise|instead of a"), nil, nil,
	},
	{Added, nil, []string{"add", "new", "introduc"}, regexp.MustCompile(`^(add|added|adds|new|introduc\w+)\b|^[^.]{0,60}\b(was|were|has been|have been) (added|introduced)\b|^\W*[\w.:()#]+: new\b`)},
	{Fixed, nil, []string{"correct"}, regexp.MustCompile(`^correct\w*\b`)},
	{Behaviour, phrases("now|no longer|instead|change|changes|changed|must|strict…"), nil, nil},
}

func phrases(list string) []string { return strings.Split(list, "|") }

// holdsPhrase reports whether one of the phrases stands in a text in lower case.
func holdsPhrase(lower string, phrases []string) bool {
	for _, p := range phrases {
		p, open := strings.CutSuffix(p, "…")
		for from := 0; ; {
			i := strings.Index(lower[from:], p)
			if i < 0 {
				break
			}
			at, end := from+i, from+i+len(p)
			if (at == 0 || !wordByte(lower[at-1])) && (open || end == len(lower) || !wordByte(lower[end])) {
				return true
			}
			from = end
		}
	}
	return false
}

func wordByte(c byte) bool {
	return c == '_' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z' || '0' <= c && c <= '9'
}

// headingKinds maps a heading's words to the kind of the entries under it.
var headingKinds = []struct {
	word string
	kind Kind
}{
	{"remov", Removed}, {"renam", Renamed}, {"deprecat", Deprecated}, {"moved", Moved},
	{"added", Added}, {"new feature", Added}, {"features", Added}, {"enhancement", Added}, {"new ", Added},
	{"fixed", Fixed}, {"bug fix", Fixed}, {"bugfix", Fixed}, {"fixes", Fixed}, {"patch", Fixed},
	{"changed", Behaviour}, {"breaking", Behaviour}, {"changes", Behaviour}, {"migrat", Behaviour}, {"upgrad", Behaviour},
	{"require", Requirement}, {"security", Fixed},
}

// headingKind is what a heading that sorts entries by kind says, or "".
func headingKind(text string) Kind {
	lower := strings.ToLower(strings.Trim(text, " *:!#"))
	if len(strings.Fields(lower)) > 4 || len(proseNames(text)) > 0 || strings.Contains(text, ".") {
		return ""
	}
	for _, h := range headingKinds {
		if strings.HasPrefix(lower, h.word) || h.kind == Behaviour && strings.Contains(lower, h.word) {
			return h.kind
		}
	}
	return ""
}

// classify decides a change's kind from its words and the heading's. Told is
// false where neither says anything.
func classify(text string, heading Kind) (kind Kind, told bool) {
	lower := strings.ToLower(text)
	if strings.Contains(lower, "now ") {
		lower = nowRemoves.ReplaceAllString(lower, "now $1")
	}
	if (heading == Added || heading == Fixed) && !breaks(lower) && (heading == Fixed || !takesAway.MatchString(lower)) {
		return heading, true
	}
	if strings.Contains(lower[:min(len(lower), 8)], "fix") && repair.MatchString(lower) && !breaks(lower) { // whatever it repairs
		return Fixed, true
	}
	for _, rule := range kindRules {
		if !holdsPhrase(lower, rule.phrases) && !(holdsAny(lower, rule.hints...) && rule.re.MatchString(lower)) {
			continue
		}
		if rule.kind == Removed && holdsPhrase(lower, announced) && !holdsPhrase(lower, gone) {
			return Deprecated, true
		}
		if rule.kind == Behaviour && heading != "" && heading != Added && heading != Fixed || rule.kind == Deprecated && heading == Removed {
			return heading, true
		}
		return rule.kind, true
	}
	if heading != "" {
		return heading, true
	}
	return Behaviour, false
}

// repair is the beginning of an entry that tells of a repair.
var repair = regexp.MustCompile(`^\W{0,4}(?:fix|fixed|fixes)\b`)

// nowRemoves is what something does by now: "dump() now writes null and removes empty keys".
var nowRemoves = regexp.MustCompile(`\bnow ([^.]{1,80}\b)(?:removes|deletes|drops)\b`)

// takesAway is the beginning of an entry that orders a removal or a new name, in
// whatever section it stands.
var takesAway = regexp.MustCompile(`^\W{0,4}(remove[ds]?|removing|delete[ds]?|drop(s|ped)?|rename[ds]?|deprecate[ds]?)\b`)

// announced tells of a removal that is still to come, gone of one that is done.
var (
	announced = phrases("will be removed|to be removed|is going to be removed|are going to be removed|may be removed|scheduled for removal")
	gone      = phrases("was removed|were removed|has been removed|have been removed|is removed|are removed|removes|is gone|are gone")
)

// breakingWords say that something changes for users, whatever section they
// stand in.
var breakingWords = phrases("breaking|no longer|now defaults|now default|by default now|now requires|now require|now throws|now throw|now rejects|now raises|now fails|now an error|is now required|are now required|must now|dropped support|drop support|drops support|has been removed|have been removed|was removed|were removed|is removed|are removed|has been renamed|have been renamed|was renamed|were renamed|is renamed|are renamed|is now deprecated|are now deprecated|now returns|now return|now takes|now take|now expects|now expect|now deprecated|deprecated in favor of|deprecated in favour of")

// breaks reports whether words in lower case say that something breaks.
func breaks(lower string) bool {
	if strings.Contains(lower, "no longer") {
		lower = mended.ReplaceAllString(lower, "")
	}
	return holdsPhrase(lower, breakingWords)
}

// mended says that a fault is gone, or was of what is gone: a repair.
var mended = regexp.MustCompile(`\bno longer\s+(?:\w+ly\s+)?(?:be\s+)?(?:crash|fail|throw|hang|leak|panic|break|error|block|lose|los|freez|deadlock|loop|corrupt|segfault|abort|miss|ignor|drop|overwrit|duplicat|flicker|raise|report|warn|emit|caus|trigger|creat|incorrect|wrong)\w*`)

var impactWord = regexp.MustCompile(`(?i)\b(high|medium|low)[ -](impact|risk|likelihood)|\b(?:impact|likelihood of impact|risk):?\s*\**\s*(very )?(high|medium|low)\b`)

// impactAlone reports whether a paragraph only states an impact.
func impactAlone(text string) bool {
	return len(text) < 60 && len(strings.Fields(text)) <= 5 && impactOf(text) != "unknown"
}

// impactOf is the impact that a text states, or "unknown".
func impactOf(texts ...string) string {
	for _, text := range texts {
		if lower := strings.ToLower(text); !holdsAny(lower, "impact", "risk", "likelihood") {
			continue
		}
		if m := impactWord.FindStringSubmatch(text); m != nil {
			return strings.ToLower(m[1] + m[4])
		}
	}
	return "unknown"
}
