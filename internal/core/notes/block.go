package notes

// A block is a piece of a document, whatever markup it was written in.
type block struct {
	kind  blockKind
	level int      // of a heading, 1 the outermost
	text  string   // words, with code in backticks; of a row its cells, joined
	cells []string // of a row
	head  bool     // of a row: the table's head
	code  []string // lines
	from  int      // lines of the document, 1-based and inclusive
	end   int
	sub   []*block
}

type blockKind uint8

const (
	paragraph blockKind = iota
	headline
	list // of items
	item // of blocks
	table
	row
	codeBlock
)

// words is the text of the paragraphs of an item, and their last line.
func (b *block) words() (text string, end int) {
	for _, c := range b.sub {
		if c.kind == paragraph {
			if text != "" {
				text += "\n"
			}
			text += c.text
			end = max(end, c.end)
		}
	}
	return text, end
}

// grow makes a block reach over its parts.
func (b *block) grow() {
	for _, c := range b.sub {
		if b.from == 0 || c.from > 0 && c.from < b.from {
			b.from = c.from
		}
		b.end = max(b.end, c.end)
	}
}
