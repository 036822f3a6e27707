package read

import (
	"bytes"
	"fmt"
	"io"
	"regexp"
	"strconv"
	"strings"
)

// xmlScanner reads XML as test runners and linters write it: it is forgiving
// (an unknown entity stays as it is, a stray "&" too) and exact about lines.
// XML 1.0, section numbers in the comments.
type xmlScanner struct {
	in    *text
	open  []string // elements that are open
	self  bool     // the last start tag closed itself
	begun bool
	attrs []xmlAttr                   // of the last start tag
	said  func(text string, line int) // is told of comments, if it is set
	blank string                      // the last text that was nothing but white space
}

// xmlToken is a start tag (Name and Attrs, which hold until the next start
// tag), an end tag (Name and End) or text.
type xmlToken struct {
	Name  string
	End   bool
	Attrs []xmlAttr
	Text  string
	Line  int // of its first byte
}

type xmlAttr struct{ Name, Value string }

func (t *xmlToken) attr(name string) string {
	for _, a := range t.Attrs {
		if a.Name == name {
			return a.Value
		}
	}
	return ""
}

// xmlError says where XML is broken.
type xmlError struct {
	Line int
	What string
}

func (e *xmlError) Error() string { return fmt.Sprintf("line %d: %s", e.Line, e.What) }

// next gives the next token; io.EOF behind the end of the root element.
func (x *xmlScanner) next() (xmlToken, error) {
	if x.self {
		x.self = false
		return x.pop(xmlToken{Name: x.open[len(x.open)-1], End: true, Line: x.in.line})
	}
	for {
		if x.begun && len(x.open) == 0 {
			return xmlToken{}, io.EOF
		}
		c, err := x.in.peek()
		if err != nil {
			return xmlToken{}, x.broken(err)
		}
		if c != '<' {
			return x.text()
		}
		x.in.next()
		token, skip, err := x.markup()
		if err != nil {
			return xmlToken{}, err
		}
		if !skip {
			return token, nil
		}
	}
}

// broken makes an early end of the input an error of the XML.
func (x *xmlScanner) broken(err error) error {
	if err == io.EOF {
		return &xmlError{x.in.line, "unexpected end of file"}
	}
	return err
}

// text reads character data up to the next markup (2.4).
func (x *xmlScanner) text() (xmlToken, error) {
	token := xmlToken{Line: x.in.lineOfNext()}
	if i := bytes.IndexByte(x.in.ahead(), '<'); i > 0 {
		token.Text = x.characters(x.in.take(i))
		return token, nil
	}
	var b strings.Builder
	for {
		c, err := x.in.peek()
		if err == io.EOF && len(x.open) == 0 || err == nil && c == '<' {
			break
		}
		if err != nil {
			return token, x.broken(err)
		}
		x.in.next()
		b.WriteByte(c)
	}
	token.Text = unescape(b.String())
	return token, nil
}

// characters makes a text of what stands between two tags; of what indents
// them, most often the same as the last time.
func (x *xmlScanner) characters(b []byte) string {
	if string(b) == x.blank {
		return x.blank
	}
	s := string(b)
	if skipBlank(s) == "" {
		x.blank = s
	}
	return unescape(s)
}

// markup reads what follows "<"; comments (2.5), processing instructions (2.6)
// and the document type (2.8) are skipped.
func (x *xmlScanner) markup() (token xmlToken, skip bool, err error) {
	line := x.in.line
	c, err := x.in.peek()
	if err != nil {
		return token, false, x.broken(err)
	}
	switch c {
	case '?':
		_, err = x.in.until("?>")
		return token, true, x.eof(err)
	case '/':
		name, err := x.in.until(">")
		if err != nil {
			return token, false, x.broken(err)
		}
		name = local(strings.TrimSpace(name[1:]))
		if len(x.open) == 0 || x.open[len(x.open)-1] != name {
			return token, false, &xmlError{line, "unexpected </" + name + ">"}
		}
		token, err = x.pop(xmlToken{Name: name, End: true, Line: line})
		return token, false, err
	case '!':
		x.in.take(1)
		return x.declaration(line)
	}
	raw, err := x.tag()
	if err != nil {
		return token, false, x.broken(err)
	}
	token, err = x.startTag(raw, line)
	if err != nil {
		return token, false, err
	}
	x.begun = true
	x.self = strings.HasSuffix(raw, "/")
	x.open = append(x.open, token.Name)
	return token, false, nil
}

func (x *xmlScanner) eof(err error) error {
	if err != nil {
		return x.broken(err)
	}
	return nil
}

// declaration reads what follows "<!": a comment, a CDATA section (2.7) or a
// document type.
func (x *xmlScanner) declaration(line int) (xmlToken, bool, error) {
	c, err := x.in.peek()
	switch {
	case err != nil:
		return xmlToken{}, false, x.broken(err)
	case c == '[': // CDATA[
		if _, err := x.in.until("CDATA["); err != nil {
			return xmlToken{}, false, x.broken(err)
		}
		at := x.in.line
		data, err := x.in.until("]]>")
		return xmlToken{Text: data, Line: at}, false, x.eof(err)
	case c == '-':
		var text string
		at := x.in.line
		if text, err = x.in.until("-->"); x.said != nil {
			x.said(strings.Trim(text, "- "), at)
		}
	default:
		_, err = x.in.until(">")
	}
	return xmlToken{}, true, x.eof(err)
}

// tag reads a start tag to its ">", which may stand in a value.
func (x *xmlScanner) tag() (string, error) {
	quote := byte(0)
	ahead := x.in.ahead()
	n := tagEnd(ahead, &quote)
	if n < len(ahead) {
		return string(x.in.take(n + 1)[:n]), nil
	}
	var b strings.Builder
	for n == len(ahead) {
		b.Write(x.in.take(n))
		if _, err := x.in.peek(); err != nil {
			return "", err
		}
		ahead = x.in.ahead()
		n = tagEnd(ahead, &quote)
	}
	b.Write(x.in.take(n + 1)[:n])
	return b.String(), nil
}

// tagEnd is where the ">" outside of quotes stands, or the length. Quote is the
// one that is open.
func tagEnd(b []byte, quote *byte) int {
	open := *quote
	if i := bytes.IndexByte(b, '>'); i >= 0 && open == 0 && bytes.IndexByte(b[:i], '\'') < 0 && bytes.Count(b[:i], []byte{'"'})%2 == 0 {
		return i // as nearly always
	}
	for i, c := range b {
		switch {
		case c == open:
			open = 0
		case open != 0:
		case c == '"' || c == '\'':
			open = c
		case c == '>':
			return i
		}
	}
	*quote = open
	return len(b)
}

// startTag splits a start tag into its name and attributes (3.1).
func (x *xmlScanner) startTag(raw string, line int) (xmlToken, error) {
	rest := strings.TrimSuffix(raw, "/")
	end := 0
	for end < len(rest) && !xmlBlank(rest[end]) {
		end++
	}
	token := xmlToken{Name: local(rest[:end]), Line: line}
	if token.Name == "" || !isLetter(token.Name[0]) && token.Name[0] != '_' {
		return token, &xmlError{line, fmt.Sprintf("%q is no element", shorten("<"+raw))}
	}
	x.attrs = x.attrs[:0]
	for rest = skipBlank(rest[end:]); rest != ""; rest = skipBlank(rest) {
		equals := strings.IndexByte(rest, '=')
		value := skipBlank(rest[equals+1:])
		if equals < 0 || value == "" || value[0] != '"' && value[0] != '\'' {
			return token, &xmlError{line, "an attribute of <" + token.Name + "> has no value"}
		}
		closing := strings.IndexByte(value[1:], value[0])
		if closing < 0 {
			return token, &xmlError{line, "a value in <" + token.Name + "> has no end"}
		}
		x.attrs = append(x.attrs, xmlAttr{local(strings.TrimSpace(rest[:equals])), unescape(value[1 : closing+1])})
		rest = value[closing+2:]
	}
	token.Attrs = x.attrs
	return token, nil
}

// xmlBlank reports whether c is white space (2.3).
func xmlBlank(c byte) bool { return c == ' ' || c == '\t' || c == '\r' || c == '\n' }

func skipBlank(s string) string {
	for len(s) > 0 && xmlBlank(s[0]) {
		s = s[1:]
	}
	return s
}

func (x *xmlScanner) pop(t xmlToken) (xmlToken, error) {
	x.open = x.open[:len(x.open)-1]
	return t, nil
}

// local is a name without its namespace prefix.
func local(name string) string { return name[strings.IndexByte(name, ':')+1:] }

var entities = map[string]string{"lt": "<", "gt": ">", "amp": "&", "quot": `"`, "apos": "'"}

// unescape resolves the predefined entities and character references (4.6, 4.1).
func unescape(s string) string {
	if strings.IndexByte(s, '&') < 0 {
		return s
	}
	var b strings.Builder
	for {
		i := strings.IndexByte(s, '&')
		if i < 0 {
			b.WriteString(s)
			return b.String()
		}
		b.WriteString(s[:i])
		s = s[i:]
		name, _, ok := strings.Cut(s[1:min(len(s), 12)], ";")
		value, known := entities[name]
		if ok && strings.HasPrefix(name, "#") {
			value, known = reference(name[1:])
		}
		if !ok || !known {
			b.WriteByte('&')
			s = s[1:]
			continue
		}
		b.WriteString(value)
		s = s[len(name)+2:]
	}
}

func reference(s string) (string, bool) {
	base := 10
	if strings.HasPrefix(s, "x") || strings.HasPrefix(s, "X") {
		s, base = s[1:], 16
	}
	n, err := strconv.ParseInt(s, base, 32)
	if err != nil || n < 0 || n > 0x10ffff {
		return "", false
	}
	return string(rune(n)), true
}

// whole gives all text inside the element whose start tag was the last token,
// to its end, and the line on which the text begins.
func (x *xmlScanner) whole() (content string, line int, err error) {
	var b strings.Builder
	for depth := 1; depth > 0; {
		token, err := x.next()
		if err != nil {
			return b.String(), line, x.broken(err)
		}
		switch {
		case token.End:
			depth--
		case token.Name != "":
			depth++
		default:
			if line == 0 {
				line = token.Line
			}
			b.WriteString(token.Text)
		}
	}
	return b.String(), line, nil
}

// startTag is the tag that opens an element, as XML has it: what programs print of their
// own values looks alike (<class 'shelf.Jar'>, <Response [404]>).
var startTag = regexp.MustCompile(`^<[\pL_][\w:.-]*(?:\s+[\w:.-]+\s*=\s*(?:"[^"]*"|'[^']*'))*\s*/?>`)

// xmlRoot is the name of the document's first element, or "", and what stands behind its tag.
func xmlRoot(line, ahead []byte) (name, behind string) {
	s := string(ahead)
	if len(s) == 0 {
		s = string(line)
	}
	for {
		s = skipBlank(s)
		switch {
		case strings.HasPrefix(s, "<?"):
			_, s, _ = strings.Cut(s, "?>")
		case strings.HasPrefix(s, "<!--"):
			_, s, _ = strings.Cut(s, "-->")
		case strings.HasPrefix(s, "<!"):
			_, s, _ = strings.Cut(s, ">")
		case strings.HasPrefix(s, "<"):
			tag := startTag.FindString(s)
			if tag == "" && strings.Contains(s, ">") {
				return "", ""
			}
			end := strings.IndexAny(s, " \t\r\n/>")
			if end < 0 {
				end = len(s)
			}
			return local(s[1:end]), s[len(tag):]
		default:
			return "", ""
		}
	}
}

// xmlDocument makes a document reader of the elements that may be its root.
func xmlDocument(read func(*xmlScanner, *sink) error, roots ...string) document {
	return document{
		format: FormatXML,
		head: func(line, ahead []byte) bool {
			if line[0] != '<' {
				return false
			}
			root, _ := xmlRoot(line, ahead)
			for _, r := range roots {
				if r == root {
					return true
				}
			}
			return false
		},
		// What was read of broken XML stands; the result says where it breaks off.
		read: func(in *text, out *sink) error {
			err := read(&xmlScanner{in: in}, out)
			bad, ok := err.(*xmlError)
			if !ok {
				return err
			}
			out.result.Problem = fmt.Sprintf("this XML breaks off at %v: what stands before it was read; record the file again once its writer has finished it", bad)
			out.unread(bad.Line, "malformed XML: "+bad.What)
			return nil
		},
	}
}
