package symptom

import "strings"

// Template replaces what differs from one occurrence of a message to the next:
// the names in refs become ‹symbol›, quoted text ‹text›, numbers and
// addresses ‹n›. It is the fixed part of a message, in the sense of He et al.,
// "Drain: An Online Log Parsing Approach with Fixed Depth Tree", ICWS 2017.
func Template(message string, refs []Ref) string {
	for _, r := range refs {
		if len(r.Name) > 1 {
			message = strings.ReplaceAll(message, r.Name, "‹symbol›")
		}
	}
	return Steady(quoted(message))
}

// quoted replaces the inside of double quotes and backticks by ‹text›.
func quoted(message string) string {
	var b strings.Builder
	for i := 0; i < len(message); i++ {
		c := message[i]
		b.WriteByte(c)
		if c != '"' && c != '`' {
			continue
		}
		if n := strings.IndexByte(message[i+1:], c); n >= 0 {
			b.WriteString("‹text›")
			b.WriteByte(c)
			i += n + 1
		}
	}
	return b.String()
}

// Steady replaces numbers, hexadecimal addresses and times in a message by
// ‹n›, so that the same message from two runs reads the same. Digits that are
// part of a name (utf8, TS2305) stay.
func Steady(message string) string {
	var b strings.Builder
	name := false // the previous byte belongs to a name
	for i := 0; i < len(message); {
		c := message[i]
		if !name && isDigit(c) {
			n := number(message[i:])
			b.WriteString("‹n›")
			i += n
			continue
		}
		name = c == '_' || isLetter(c) || (name && isDigit(c))
		b.WriteByte(c)
		i++
	}
	return b.String()
}

// number is the length of the number at the start of s: digits with the dots,
// colons and separators inside them, or 0x and hexadecimal digits, and a unit
// written without a space.
func number(s string) int {
	n := 1
	if len(s) > 2 && s[0] == '0' && s[1] == 'x' {
		for n = 2; n < len(s) && isHex(s[n]); n++ {
		}
		return n
	}
	for n < len(s) && (isDigit(s[n]) || (strings.IndexByte(".,:", s[n]) >= 0 && n+1 < len(s) && isDigit(s[n+1]))) {
		n++
	}
	for n < len(s) && isLetter(s[n]) {
		n++
	}
	return n
}

func isDigit(c byte) bool  { return '0' <= c && c <= '9' }
func isLetter(c byte) bool { return 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z' }
func isHex(c byte) bool    { return isDigit(c) || 'a' <= c && c <= 'f' || 'A' <= c && c <= 'F' }
