package cluster

import "unicausa/internal/core/source"

// key is the fact that decides where a symptom belongs: equal keys are one cause.
type key struct {
	kind        keyKind
	scope, name string
	how         string // the words in which it fails, where those decide too
}

// keyKind is a kind of key, as signatures have it, which are recorded: they do not change.
type keyKind string

const (
	keySpoiled   keyKind = "spoiled"   // a file that cannot be parsed: its name
	keyMissing   keyKind = "missing"   // tests that did not run: their suite
	keyFlaky     keyKind = "flaky"     // a test that passes and fails: suite, test
	keyRule      keyKind = "rule"      // a rule of a tool
	keyModule    keyKind = "module"    // a module that is not found
	keyShape     keyKind = "shape"     // a module that exports otherwise
	keySymbol    keyKind = "symbol"    // a name that is missing: package or owner, name
	keyOption    keyKind = "option"    // an option that is refused: of what, name
	keyInterface keyKind = "interface" // a type that does not fit: why, name
	keyAbout     keyKind = "about"     // a name that is concerned: package, name
	keyThrows    keyKind = "throws"    // and what a call of it throws
	keySaid      keyKind = "said"      // the specific text of a failure
	keySays      keyKind = "says"      // a message: code, words
	keyPlace     keyKind = "place"     // a name on the line beside a message: name, words
	keyTest      keyKind = "test"      // a test by itself: suite, test
)

// about is the key of what concerns a name of a package.
func about(pkg, name string) key { return key{kind: keyAbout, scope: source.Family(pkg), name: name} }

// String writes a key as signatures have it.
func (k key) String() string {
	text := string(k.kind)
	switch k.kind {
	case keySpoiled, keyMissing, keyRule, keyModule, keyShape, keySaid:
		text += "|" + k.name
	case keyOption, keyInterface:
		text += "|" + k.name + "|" + k.scope
	default:
		text += "|" + k.scope + "|" + k.name
	}
	if k.how != "" {
		text += "|" + k.how
	}
	return text
}
