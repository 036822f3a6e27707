// Package secret masks what must not travel: tokens, keys and passwords, by their shape,
// and by a name beside them that tells what they are. A mask keeps lines as they are, and
// equal secrets equal.
package secret

import (
	"bytes"
	"crypto/sha256"
	"fmt"
	"math"
	"regexp"
	"strings"
)

// Masker masks the lines of one text, one after the other. The zero value knows the common
// shapes alone.
type Masker struct {
	Count int // secrets that were masked

	own []*regexp.Regexp
	key bool // inside of a block that holds a private key
}

// New makes a masker that also masks what a project's own patterns find: of a pattern with
// groups what these hold. The error is of a pattern that cannot be compiled.
func New(patterns []string) (*Masker, error) {
	m := &Masker{}
	for _, p := range patterns {
		re, err := regexp.Compile(p)
		if err != nil {
			return nil, fmt.Errorf("the pattern %q for secrets: %w", p, err)
		}
		m.own = append(m.own, re)
	}
	return m, nil
}

// For is a masker of another text, by the same patterns.
func (m *Masker) For() *Masker { return &Masker{own: m.own} }

// mark is what stands in the place of a secret: 16 bits of its hash tell which are equal,
// and are too few to find one by.
func mark(secret []byte) string {
	sum := sha256.Sum256(secret)
	return fmt.Sprintf("‹secret %x›", sum[:2])
}

// shape is a kind of secret: the groups of the expression are masked, or all of it where it
// has none. A line is looked at where it holds one of the words, in small letters.
type shape struct {
	words []string
	re    *regexp.Regexp
	worth func(secret string) bool // nil where the shape tells all
}

var shapes = []shape{
	{[]string{"://"}, regexp.MustCompile(`[a-zA-Z][a-zA-Z0-9+.-]*://[^\s/:@"'<>]*:([^\s/@"'<>]+)@`), notPlaceholder},
	{[]string{"token=", "auth=", "key=", "sig=", "signature=", "secret=", "password=", "credential="}, regexp.MustCompile(`(?i)[?&](?:access_token|auth|auth_token|token|api_?key|key|sig|signature|secret|client_secret|password|x-amz-(?:signature|credential|security-token))=([^&\s"'<>]{6,})`), notPlaceholder},
	{[]string{"authorization"}, regexp.MustCompile(`(?i)\bauthorization["']?\s*[:=]\s*["']?(?:(?:bearer|basic|token|digest)\s+)?([^\s"',;]{6,})`), notPlaceholder},
	{[]string{"bearer"}, regexp.MustCompile(`(?i)\bbearer\s+([a-zA-Z0-9._~+/-]{16,}=*)`), mixed},
	{[]string{"cookie"}, regexp.MustCompile(`(?i)\b(?:set-)?cookie["']?\s*:\s*["']?[\w.-]+=([^\s"',;]{8,})`), mixed},
	{[]string{"x-api-key", "x-auth-token", "private-token", "x-access-token"}, regexp.MustCompile(`(?i)\b(?:x-api-key|x-auth-token|private-token|x-access-token)["']?\s*[:=]\s*["']?([^\s"',;]{6,})`), notPlaceholder},
	// Shapes of tokens in common use: a fixed beginning, then chance.
	{[]string{"akia", "asia"}, regexp.MustCompile(`\b(?:AKIA|ASIA)[0-9A-Z]{16}\b`), nil},
	{[]string{"aiza"}, regexp.MustCompile(`\bAIza[0-9A-Za-z_-]{35}`), nil},
	{[]string{"ghp_", "gho_", "ghu_", "ghs_", "ghr_", "github_pat_"}, regexp.MustCompile(`\b(?:gh[pousr]_[A-Za-z0-9]{20,}|github_pat_[A-Za-z0-9_]{20,})`), nil},
	{[]string{"glpat-", "xox", "npm_", "pypi-", "dop_v1_", "sk_live_", "rk_live_", "sk-", "sg.", "ya29.", "unicausa_", "hf_"}, regexp.MustCompile(
		`\b(?:glpat-[\w-]{20,}|xox[abeprs]-[\w-]{10,}|npm_[A-Za-z0-9]{30,}|pypi-[\w-]{40,}|dop_v1_[a-f0-9]{40,}|[sr]k_live_[A-Za-z0-9]{16,}|sk-[A-Za-z0-9_-]{32,}|SG\.[\w-]{16,}\.[\w-]{16,}|ya29\.[\w-]{20,}|unicausa_[0-9a-f]{64}|hf_[A-Za-z0-9]{30,})`), nil},
	{[]string{"eyj"}, regexp.MustCompile(`\beyJ[\w-]{8,}\.[\w-]{8,}\.[\w-]*`), nil}, // a JSON Web Token, RFC 7519
	// A telling name, then a value: as a text of its own, or bare.
	{named, regexp.MustCompile(`(?i)\b[\w.-]*(?:passw(?:or)?d|passphrase|pwd)[\w-]*["']?\s*(?::=|=>|[:=])\s*(?:"([^"\s]{4,})"|'([^'\s]{4,})')`), notPlaceholder},
	{named, regexp.MustCompile(`(?i)\b[\w.-]*(?:passw(?:or)?d|passphrase|pwd)[\w-]*\s*[:=]\s*([^\s"'` + "`" + `,;(){}\[\]<>$]{6,})`), mixed},
	{named, regexp.MustCompile(`(?i)\b[\w.-]*(?:secret|token|api[_-]?key|access[_-]?key|private[_-]?key|account[_-]?key|credential|signing[_-]?key|encryption[_-]?key)[\w-]*["']?\s*(?::=|=>|[:=])\s*["']?([A-Za-z0-9+/_=.~-]{12,})`), random},
	{named, regexp.MustCompile(`(?i)--(?:password|passwd|token|secret|api-key)(?:=|\s+)([^\s"'-][^\s"']{5,})`), mixed},
}

// named are the names that tell of a secret.
var named = []string{"passw", "passphrase", "pwd", "secret", "token", "key", "credential"}

// trouble holds, in small letters, all words that a line is looked at for.
var trouble = func() *finder {
	var words []string
	for _, s := range shapes {
		words = append(words, s.words...)
	}
	return newFinder(append(words, "private key"))
}()

var (
	keyBegins = regexp.MustCompile(`-----BEGIN (?:[A-Z0-9]+ )*PRIVATE KEY(?: BLOCK)?-----`)
	keyEnds   = regexp.MustCompile(`-----END (?:[A-Z0-9]+ )*PRIVATE KEY(?: BLOCK)?-----`)
	keyLine   = regexp.MustCompile(`[A-Za-z0-9+/=]{16,}`)
)

// Line gives a line as it may travel; it is the line itself where nothing of it is masked.
func (m *Masker) Line(line []byte) []byte {
	if m.key {
		if keyEnds.Match(line) {
			m.key = false
			return line
		}
		return m.replace(line, keyLine, nil)
	}
	for _, re := range m.own {
		line = m.replace(line, re, nil)
	}
	if !trouble.in(line) {
		return line
	}
	if at := keyBegins.FindIndex(line); at != nil {
		if end := keyEnds.FindIndex(line); end != nil { // on one line, its line ends written out
			return m.replace(line, keyLine, nil)
		}
		m.key = true
		return line
	}
	lower := bytes.ToLower(line)
	for i := range shapes {
		for _, word := range shapes[i].words {
			if bytes.Contains(lower, []byte(word)) {
				line = m.replace(line, shapes[i].re, shapes[i].worth)
				break
			}
		}
	}
	return line
}

// idle reports whether nothing of some lines is masked, at a glance.
func (m *Masker) idle(lines []byte) bool {
	return !m.key && len(m.own) == 0 && !trouble.in(lines)
}

// Text masks a text of any number of lines.
func (m *Masker) Text(text string) string {
	if !strings.Contains(text, "\n") {
		return string(m.Line([]byte(text)))
	}
	var out strings.Builder
	for line := range strings.Lines(text) {
		bare := strings.TrimSuffix(line, "\n")
		out.Write(m.Line([]byte(bare)))
		out.WriteString(line[len(bare):])
	}
	return out.String()
}

// replace masks the groups of what an expression finds, or all of it where it has none.
func (m *Masker) replace(line []byte, re *regexp.Regexp, worth func(string) bool) []byte {
	found := re.FindAllSubmatchIndex(line, -1)
	if found == nil {
		return line
	}
	var out []byte
	last := 0
	for _, at := range found {
		groups := at[2:]
		if len(groups) == 0 {
			groups = at
		}
		for i := 0; i < len(groups); i += 2 {
			from, end := groups[i], groups[i+1]
			if from < last || end <= from || bytes.Contains(line[from:end], []byte("‹secret")) || worth != nil && !worth(string(line[from:end])) {
				continue
			}
			out = append(append(out, line[last:from]...), mark(line[from:end])...)
			last = end
			m.Count++
		}
	}
	if last == 0 {
		return line
	}
	return append(out, line[last:]...)
}

// placeholder is what stands for a secret in examples and in code.
var placeholder = regexp.MustCompile(`(?i)^(?:\*+|x{3,}|\.{2,}|<.*>|\$.*|%.*%|\{.*|#\{.*|null|none|nil|true|false|undefined|string|required|redacted|hidden|masked|changeme|example|your[-_].*|password|passwd|secret|token|user|username|test)$`)

func notPlaceholder(s string) bool { return !placeholder.MatchString(s) }

// code is what an expression of a program looks like: a path of names, or a call.
var code = regexp.MustCompile(`^[A-Za-z_][\w]*(?:(?:\.|::|->)[A-Za-z_]\w*)+$|[()\[\]{}]|^[A-Za-z_]+$`)

// mixed reports whether a bare value may be a secret: it has letters and digits, and is no
// expression of a program.
func mixed(s string) bool {
	return notPlaceholder(s) && !code.MatchString(s) && strings.ContainsAny(s, "0123456789") && strings.ContainsFunc(s, func(r rune) bool { return 'a' <= r && r <= 'z' || 'A' <= r && r <= 'Z' })
}

// leastEntropy is what the characters of chance have at least, in bits each (Shannon,
// "A Mathematical Theory of Communication", 1948): names and words stay below.
const leastEntropy = 3.0

// random reports whether a value looks like chance.
func random(s string) bool {
	return mixed(s) && !strings.Contains(s, "..") && entropy(s) >= leastEntropy && !version.MatchString(s)
}

// version is a version or a date, which has digits and letters, too.
var version = regexp.MustCompile(`^v?\d+(?:\.\d+)+|^\d{4}-\d\d-\d\d`)

func entropy(s string) float64 {
	var count [256]float64
	for i := range len(s) {
		count[s[i]]++
	}
	sum, n := 0.0, float64(len(s))
	for _, c := range count {
		if c > 0 {
			sum -= c / n * math.Log2(c/n)
		}
	}
	return sum
}
