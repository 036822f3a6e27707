package read

import (
	"bytes"
	"encoding/json"
	"fmt"
	"strings"
)

// jsonDocument makes a document reader of whole JSON values whose head a
// function knows. A value that breaks off is said to.
func jsonDocument(head func(line, ahead []byte) bool, read func(v *jsonValue, out *sink)) document {
	return document{format: "json", head: head, read: func(in *text, out *sink) error {
		first := in.line
		data, err := oneValue(in)
		if err != nil {
			out.result.Problem = fmt.Sprintf("this JSON breaks off at line %d: record the file again once its writer has finished it", in.line)
			out.unread(in.line, "malformed JSON: the end is missing")
			return nil
		}
		v, err := parseJSON(data, first)
		if err != nil {
			out.result.Problem = fmt.Sprintf("this JSON cannot be read (%v): record the file again", err)
			out.unread(first, "malformed JSON: "+err.Error())
			return nil
		}
		read(v, out)
		return nil
	}}
}

// oneValue reads the bytes of one object or array, by its brackets.
func oneValue(in *text) ([]byte, error) {
	var b bytes.Buffer
	depth, inString, escaped := 0, false, false
	for {
		c, err := in.next()
		if err != nil {
			return nil, err
		}
		b.WriteByte(c)
		switch {
		case escaped:
			escaped = false
		case inString:
			escaped = c == '\\'
			inString = c != '"'
		case c == '"':
			inString = true
		case c == '{' || c == '[':
			depth++
		case c == '}' || c == ']':
			if depth--; depth == 0 {
				return b.Bytes(), nil
			}
		}
	}
}

// jsonValue is a value with the line on which it begins.
type jsonValue struct {
	Line   int
	Text   string
	Number float64
	Bool   bool
	isBool bool
	order  int // among the fields of its object
	List   []*jsonValue
	Fields map[string]*jsonValue
}

// at walks down fields; what is not there is empty, never nil.
func (v *jsonValue) at(path ...string) *jsonValue {
	for _, name := range path {
		if v == nil || v.Fields[name] == nil {
			return &jsonValue{}
		}
		v = v.Fields[name]
	}
	return v
}

func parseJSON(data []byte, line int) (*jsonValue, error) {
	p := &jsonParser{dec: json.NewDecoder(bytes.NewReader(data)), data: data, line: line}
	p.dec.UseNumber()
	return p.value()
}

type jsonParser struct {
	dec  *json.Decoder
	data []byte
	at   int // offset up to which lines are counted
	line int
}

// here is the line of the token that was read last.
func (p *jsonParser) here() int {
	offset := int(p.dec.InputOffset())
	p.line += bytes.Count(p.data[p.at:offset], []byte{'\n'})
	p.at = offset
	return p.line
}

func (p *jsonParser) value() (*jsonValue, error) {
	token, err := p.dec.Token()
	if err != nil {
		return nil, err
	}
	v := &jsonValue{Line: p.here()}
	switch t := token.(type) {
	case string:
		v.Text = t
	case json.Number:
		v.Number, _ = t.Float64()
		v.Text = t.String()
	case bool:
		v.Bool, v.isBool = t, true
	case json.Delim:
		if t == '[' {
			for p.dec.More() {
				inner, err := p.value()
				if err != nil {
					return nil, err
				}
				v.List = append(v.List, inner)
			}
		} else {
			v.Fields = map[string]*jsonValue{}
			for p.dec.More() {
				key, err := p.dec.Token()
				if err != nil {
					return nil, err
				}
				name, _ := key.(string)
				order := len(v.Fields)
				if v.Fields[name], err = p.value(); err != nil {
					return nil, err
				}
				v.Fields[name].order = order
			}
		}
		if _, err := p.dec.Token(); err != nil {
			return nil, err
		}
	}
	return v, nil
}

// opens reports whether a line begins with an object or array, by itself on the
// line or followed by a key or an object, in whose head the marks stand.
func opens(line []byte, bracket byte, ahead []byte, marks ...string) bool {
	if line[0] != bracket {
		return false
	}
	if rest := bytes.TrimSpace(line[1:min(len(line), 80)]); len(rest) > 0 && rest[0] != '"' && rest[0] != '{' {
		return false
	}
	if !beginsValue(ahead[bytes.IndexByte(ahead, bracket)+1:]) {
		return false
	}
	if end := bytes.TrimRight(line, " \t\r"); end[len(end)-1] == bracket+2 { // it is closed, as ASCII has it
		ahead = line // all of it, what follows is another
	}
	for _, m := range marks {
		if !bytes.Contains(ahead, []byte(m)) {
			return false
		}
	}
	return true
}

// beginsValue reports whether what stands inside a bracket may be JSON, and not a
// printed value or a difference.
func beginsValue(inside []byte) bool {
	for line := range bytes.Lines(inside) {
		if line = bytes.TrimSpace(line); bytes.HasPrefix(line, []byte("- ")) || bytes.HasPrefix(line, []byte("+ ")) {
			return false
		}
		if bytes.HasSuffix(line, []byte("]")) || bytes.HasSuffix(line, []byte("}")) {
			break
		}
	}
	inside = bytes.TrimLeft(inside, " \t\r\n")
	if len(inside) > 1 && inside[0] == '-' {
		return isDigit(inside[1])
	}
	return len(inside) == 0 || bytes.IndexByte([]byte("\"{[]}0123456789tfn"), inside[0]) >= 0
}

// fileURI is the path of a file URI or a plain path.
func fileURI(uri string) string {
	return strings.TrimPrefix(strings.TrimPrefix(uri, "file://"), "file:")
}
