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
	return Normalize(quoted(message))
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

// Normalize replaces what changes from one run to the next by itself, so that the
// same message from two runs reads the same: numbers, times and hexadecimal
// addresses, identifiers made of hexadecimal digits (hashes, UUIDs), and what
// stands in a temporary folder. Digits that are part of a name (utf8, TS2305)
// stay.
func Normalize(message string) string {
	var b strings.Builder
	name := false // the previous byte belongs to a name
	for i := 0; i < len(message); {
		c := message[i]
		if !name {
			if n := hexadecimal(message[i:]); n > 0 {
				b.WriteString("‹n›")
				i += n
				continue
			}
			if isDigit(c) {
				b.WriteString("‹n›")
				i += number(message[i:])
				continue
			}
			if n := temporary(message[i:]); n > 0 {
				b.WriteString("‹tmp›")
				i += n
				continue
			}
		}
		name = c == '_' || isLetter(c) || (name && isDigit(c))
		b.WriteByte(c)
		i++
	}
	return b.String()
}

// hexadecimal is the length of an identifier of eight or more hexadecimal
// digits at the start of s, with at least one letter and one digit and with the
// dashes of a UUID, or 0.
func hexadecimal(s string) int {
	n, letters, digits := 0, 0, 0
	for ; n < len(s); n++ {
		switch c := s[n]; {
		case isDigit(c):
			digits++
		case isHex(c):
			letters++
		case c == '-' && n >= 8 && n+1 < len(s) && isHex(s[n+1]):
		default:
			if isLetter(c) || c == '_' {
				return 0
			}
			goto end
		}
	}
end:
	if letters+digits < 8 || letters == 0 || digits == 0 {
		return 0
	}
	return n
}

// temporary is the length of a path in a temporary folder at the start of s, or 0.
func temporary(s string) int {
	for _, folder := range []string{"/tmp/", "/var/folders/", "/private/tmp/", "/private/var/folders/"} {
		if strings.HasPrefix(s, folder) {
			n := len(folder)
			for n < len(s) && strings.IndexByte(" \t'\"`:,;()", s[n]) < 0 {
				n++
			}
			return n
		}
	}
	return 0
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
