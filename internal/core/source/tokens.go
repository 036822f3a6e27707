package source

import "strings"

// TokenKind is what a token of a program is.
type TokenKind byte

// The kinds of tokens.
const (
	Word   TokenKind = iota // an identifier or a keyword
	Number                  // begins with a digit
	Quoted                  // a string, with its quotes
	Mark                    // an operator, a bracket, a separator
)

// Token is one token of a program. Offset is 0-based, in bytes. NewLine and Noted
// tell what stands between it and the token before: a line's end, a comment.
type Token struct {
	Text    string
	Offset  int
	Kind    TokenKind
	NewLine bool
	Noted   bool
}

// End is the offset behind the token.
func (t Token) End() int { return t.Offset + len(t.Text) }

// Is reports whether the token is one of some marks or words.
func (t Token) Is(texts ...string) bool {
	if t.Kind == Quoted {
		return false
	}
	for _, text := range texts {
		if t.Text == text {
			return true
		}
	}
	return false
}

// marks are those of more than one byte, the longest first.
var marks = []string{"<=>", "===", "!==", "...", "**=", "<<=", ">>=", "??=", "::", "->", "=>", "?.", "??", "==", "!=", "<=", ">=", "&&", "||", ":=", "+=", "-=", "*=", "/=", "%=", "|=", "&=", "|>", "++", "--", "**", "..", "<-", "!!"}

// Tokens lists the tokens of a program, whose language the file's extension tells,
// without its comments. Text in no known language is lexed as C is.
func Tokens(file, text string) []Token {
	if !Program(file) {
		file = ".c"
	}
	zones := ZonesOf(file, text)
	tokens := make([]Token, 0, len(text)/5)
	newLine, noted := true, false
	add := func(from, end int, kind TokenKind) {
		tokens = append(tokens, Token{Text: text[from:end], Offset: from, Kind: kind, NewLine: newLine, Noted: noted})
		newLine, noted = false, false
	}
	from := 0
	for n, end := range zones.ends {
		switch zones.kinds[n] {
		case Comment:
			newLine, noted = newLine || strings.Contains(text[from:end], "\n"), true
		case Literal:
			add(from, end, Quoted)
		default:
			for i := from; i < end; {
				switch c := text[i]; {
				case c == '\n':
					newLine = true
					i++
				case c == ' ' || c == '\t' || c == '\r':
					i++
				case wordByte(c):
					j := i + 1
					for j < end && (wordByte(text[j]) || c >= '0' && c <= '9' && text[j] == '.' && j+1 < end && text[j+1] >= '0' && text[j+1] <= '9') {
						j++
					}
					kind := Word
					if c >= '0' && c <= '9' {
						kind = Number
					}
					add(i, j, kind)
					i = j
				default:
					n := 1
					for _, m := range marks {
						if strings.HasPrefix(text[i:end], m) {
							n = len(m)
							break
						}
					}
					add(i, i+n, Mark)
					i += n
				}
			}
		}
		from = end
	}
	return tokens
}
