package notes

import (
	"regexp"
	"strings"
)

// commitHead begins a commit in what git log prints, with the names that
// --decorate gives it.
var commitHead = regexp.MustCompile(`(?m)\A\s*commit [0-9a-f]{7,40}(?: \(.*\))?$`)

var (
	commitLine   = regexp.MustCompile(`^commit ([0-9a-f]{7,40})(?: \((.*)\))?$`)
	conventional = regexp.MustCompile(`^([a-z]+)(?:\(([^)]+)\))?(!)?: (.+)$`)
	footer       = regexp.MustCompile(`^(BREAKING[ -]CHANGE|[A-Z][\w-]*)(?:: | #)(.*)$`)
	tagName      = regexp.MustCompile(`tag: ([^,)]+)`)
)

// commitKinds are the types of commits of which users of a package take note.
var commitKinds = map[string]Kind{"feat": Added, "fix": Fixed, "perf": Behaviour, "deprecate": Deprecated, "revert": Behaviour, "change": Behaviour, "remove": Removed}

// commits reads what git log prints of a range, newest first: messages after
// the Conventional Commits convention, version 1.0.0. A breaking change is told
// by "!" or by a footer. Commits belong to the nearest tag above them.
func (d *document) commits(source []byte) {
	lines := splitLines(source)
	version := ""
	for i := 0; i < len(lines); {
		m := commitLine.FindStringSubmatch(lines[i])
		if m == nil {
			i++
			continue
		}
		if tag := tagName.FindStringSubmatch(m[2]); tag != nil {
			if v := headingVersion(tag[1][strings.LastIndexByte(tag[1], '/')+1:]); v != "" {
				version = v
			}
		}
		end := i + 1
		for end < len(lines) && !commitLine.MatchString(lines[end]) {
			end++
		}
		d.commit(lines, i, end, version)
		i = end
	}
}

// commit makes changes of one commit: one of each breaking footer, else one of
// its subject.
func (d *document) commit(lines []string, from, end int, version string) {
	first := from
	for first < end && !strings.HasPrefix(lines[first], "    ") {
		first++
	}
	if first == end {
		return
	}
	last := end
	for last > first && strings.TrimSpace(lines[last-1]) == "" {
		last--
	}
	subject := strings.TrimSpace(lines[first])
	m := conventional.FindStringSubmatch(subject)
	kind, breaking, words := Kind(""), false, subject
	if m != nil {
		kind, breaking, words = commitKinds[m[1]], m[3] == "!", m[4]
	}
	var body []string
	broken := false
	for i := first + 1; i < last; i++ {
		line := strings.TrimPrefix(lines[i], "    ")
		f := footer.FindStringSubmatch(line)
		if f == nil {
			body = append(body, line)
			continue
		}
		if strings.HasPrefix(f[1], "BREAKING") {
			stop := i + 1
			text := []string{f[2]}
			for stop < last && footer.FindStringSubmatch(strings.TrimPrefix(lines[stop], "    ")) == nil {
				text = append(text, strings.TrimSpace(lines[stop]))
				stop++
			}
			for stop > i+1 && strings.TrimSpace(lines[stop-1]) == "" {
				stop--
			}
			d.told(version, strings.TrimSpace(strings.Join(text, "\n")), words, "", i+1, stop)
			broken = true
			i = stop - 1
		}
	}
	switch {
	case breaking && !broken:
		d.told(version, strings.TrimSpace(words+"\n\n"+strings.Join(body, "\n")), "", "", first+1, last)
	case !breaking && !broken && kind != "":
		d.told(version, words, "", kind, first+1, first+1)
	}
}

// told adds what a commit says of a version.
func (d *document) told(version, text, above string, kind Kind, line, end int) {
	d.path = []heading{{text: version, plain: version, version: version, kind: kind, line: -1}}
	if version == "" {
		d.path[0].plain, d.path[0].version = Unreleased, Unreleased
	}
	e := &entry{line: line, end: end}
	for _, b := range markdown([]byte(text)) {
		switch b.kind {
		case codeBlock:
			b.end = 0
			e.take(b, Either)
		case list:
			label := Either
			for _, i := range b.sub {
				i.end = 0
			}
			e.absorb(b, &label)
		default:
			apart := ""
			if e.raw != "" {
				apart = "\n"
			}
			e.say(apart, b.text)
		}
	}
	e.end = end
	if above != "" {
		e.above.words = []string{above}
	}
	d.add(e)
	d.path = nil
}
