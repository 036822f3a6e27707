package notes

import (
	"bytes"
	"regexp"
	"strings"
)

// Form is the markup a document is written in.
type Form string

// The forms of a document.
const (
	FormMarkdown Form = "Markdown"
	FormHTML     Form = "HTML"
	FormRST      Form = "reStructuredText"
	FormCommits  Form = "git log"
	FormText     Form = "text"
)

// Read reads a document of any form. Name and pkg go into every change. There
// is no bad document: what holds no entry gives no change.
func Read(name, pkg string, source []byte) []Change {
	d := &document{name: name, pkg: pkg}
	d.begin()
	switch FormOf(source) {
	case FormHTML:
		d.read(htmlBlocks(source))
	case FormRST:
		d.read(rst(source))
	case FormCommits:
		d.commits(source)
	case FormText:
		d.read(plainText(source))
	default:
		d.read(markdown(source))
	}
	return d.finish()
}

var (
	htmlStart   = regexp.MustCompile(`(?i)^\s*(?:<\?xml[^>]*>\s*)?(?:<!--[\s\S]*?-->\s*)*<(?:!doctype\s+html|html|head|body|main|article|section|header|nav|table|ul|div|h[1-6])\b`)
	rstSign     = regexp.MustCompile(`(?m)^\.\. [\w-]+::|:[a-z][a-z:]*:` + "`" + `[^` + "`" + `]+` + "`" + `|^\.\. _[^:]+:|` + "`" + `[^` + "`" + `\n]+ <[^>\n]+>` + "`" + `__?|::\s*$`)
	rstHeading  = regexp.MustCompile(`(?m)^[^\s].*\n(?:~{3,}|\^{3,}|"{3,}|\*{3,}|\+{3,}|#{3,}|'{3,})\s*$`)
	hashHeading = regexp.MustCompile(`(?m)^#{1,6} \S`)
	markSign    = regexp.MustCompile("(?m)^#{1,6} \\S|^(?:```|~~~)|\\]\\([^)\\s]+\\)|^\\|[ :|-]+\\|\\s*$|\\*\\*[^\\s*]")
)

// FormOf tells a document's form by its content.
func FormOf(source []byte) Form {
	head := source[:min(len(source), 64<<10)]
	switch {
	case htmlStart.Match(head):
		return FormHTML
	case commitHead.Match(head):
		return FormCommits
	}
	fences := bytes.Contains(head, []byte("\n```")) || hashHeading.Match(head)
	literal := bytes.Count(head, []byte("``"))
	switch {
	case !fences && (rstSign.Match(head) || rstHeading.Match(head) || literal >= 2):
		return FormRST
	case markSign.Match(head):
		return FormMarkdown
	case strings.TrimSpace(string(head)) == "":
		return FormMarkdown
	}
	return FormText
}
