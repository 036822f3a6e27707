package read

import (
	"bytes"
	"io"
	"strings"
)

// rolesXML reads XML in the same way: attributes and the texts of small
// elements are the fields of an object.
func rolesXML() document {
	d := xmlDocument(func(x *xmlScanner, out *sink) error {
		v, err := xmlValue(x)
		if v != nil {
			(&roles{out: out}).walk(v, under{})
		}
		if err == io.EOF {
			err = nil
		}
		return err
	})
	d.head = func(line, ahead []byte) bool {
		if line[0] != '<' || len(line) > 1 && line[1] != '?' && line[1] != '!' && !isLetter(line[1]) {
			return false
		}
		root, behind := xmlRoot(line, ahead)
		root = strings.ToLower(root)
		if root == "" || !strings.HasPrefix(skipBlank(behind), "<") || root == "html" || root == "svg" || root == "project" || !bytes.HasPrefix(line, []byte("<?xml")) && bytes.IndexByte(line, '>') < 0 {
			return false
		}
		lowered := bytes.ToLower(ahead)
		hits := 0
		for _, hint := range []string{"message", "line=", "<line", "severity", "priority", "result", "fail", "error", "violation", "status", "rule", "issue"} {
			if bytes.Contains(lowered, []byte(hint)) {
				hits++
			}
		}
		return hits > 1
	}
	return d
}

// xmlValue reads a document as a value.
func xmlValue(x *xmlScanner) (*jsonValue, error) {
	var stack []*jsonValue
	var names []string
	var root *jsonValue
	texts := []*strings.Builder{}
	count := 0
	for {
		t, err := x.next()
		if err != nil {
			return root, err
		}
		switch {
		case t.End:
			n := len(stack) - 1
			if n < 0 {
				continue
			}
			v, name := stack[n], names[n]
			if text := strings.TrimSpace(texts[n].String()); text != "" {
				if len(v.Fields) == 0 && len(v.List) == 0 {
					v.Text, v.Fields = text, nil
					if number, m := leadingNumber(text); m == len(text) {
						v.Number = float64(number)
					}
				} else if v.Fields["text"] == nil {
					v.Fields["text"] = &jsonValue{Line: v.Line, Text: text}
				}
			}
			stack, names, texts = stack[:n], names[:n], texts[:n]
			if n > 0 {
				parent := stack[n-1]
				if old := parent.Fields[name]; old == nil {
					v.order = len(parent.Fields)
					parent.Fields[name] = v
				} else {
					if old.List == nil || old.Fields != nil || old.Text != "" {
						old = &jsonValue{Line: old.Line, List: []*jsonValue{old}, order: old.order}
						parent.Fields[name] = old
					}
					old.List = append(old.List, v)
				}
			}
		case t.Name != "":
			if count++; count > maxElements {
				return root, nil
			}
			v := &jsonValue{Line: t.Line, Fields: map[string]*jsonValue{}}
			for i, a := range t.Attrs {
				f := &jsonValue{Line: t.Line, Text: a.Value, order: i}
				if number, m := leadingNumber(a.Value); m == len(a.Value) && m > 0 {
					f.Number = float64(number)
				}
				v.Fields[a.Name] = f
			}
			if root == nil {
				root = v
			}
			stack, names, texts = append(stack, v), append(names, t.Name), append(texts, &strings.Builder{})
		case len(stack) > 0:
			texts[len(texts)-1].WriteString(t.Text)
		}
	}
}
