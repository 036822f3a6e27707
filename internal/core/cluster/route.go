package cluster

import (
	"regexp"
	"strings"

	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// A handler is what the project's own code does for a route: its lines, and the
// method and the pattern under which it is registered.
type handler struct {
	file      string
	line, end int
	method    string // "" for any
	pattern   []string
}

var (
	// asked is a path in a request of a test, or in what a runner prints of one.
	asked = regexp.MustCompile("[\"'`](/[^\\s\"'`]*)[\"'`]")
	told  = regexp.MustCompile(`\b(GET|POST|PUT|PATCH|DELETE|HEAD|OPTIONS) (?:https?://[^/\s]+)?(/[^\s"'<>|),]*)`)

	// verb is the method of a request or a registration, as languages call it.
	verb = regexp.MustCompile(`(?i)(?:^|[^a-z])(get|post|put|patch|delete|head|options)(?:mapping)?\b`)

	// registered is a line that binds a pattern to a handler.
	registered = regexp.MustCompile("(?i)(?:\\.|@|\\b)(get|post|put|patch|delete|head|options|all|any|add|route|path|re_path|url|handle|handlefunc|match|resource|map[a-z]*|[a-z]*mapping|methodfunc|group|scope)\\s*\\(?\\s*(?:\\[?[\"'`][A-Z]+[\"'`]\\]?\\s*,\\s*)?[\"'`]([^\\s\"'`]*)[\"'`]")

	parameter = regexp.MustCompile(`^(?::|\*|\{|<|\(|\[)`)
)

// handlers lists what a tree registers under routes, outside of its tests.
func (c *Context) handlers(tree *source.Tree) []handler {
	if list, ok := c.routes[tree]; ok {
		return list
	}
	var list []handler
	for _, file := range tree.Files() {
		if testFile.MatchString(file) || !codeFile.MatchString(file) {
			continue
		}
		for i, line := range tree.Lines(file) {
			if len(line) > 300 || isComment(line) || !strings.ContainsAny(line, "\"'`") {
				continue
			}
			m := registered.FindStringSubmatch(line)
			if m == nil || m[2] == "" {
				continue
			}
			h := handler{pattern: segments(m[2])}
			if v := verb.FindStringSubmatch(m[1]); v != nil {
				h.method = strings.ToUpper(v[1])
			}
			h.file, h.line, h.end = handled(tree, file, i+1, line)
			list = append(list, h)
		}
	}
	if c.routes == nil {
		c.routes = map[*source.Tree][]handler{}
	}
	c.routes[tree] = list
	return list
}

var (
	testFile = regexp.MustCompile(`(?i)(?:^|/)(?:tests?|specs?|__tests__)/|[._-](?:test|spec)s?\.\w+$|(?:^|/)test_[^/]*$|Tests?\.\w+$`)
	codeFile = regexp.MustCompile(`\.(?:go|[cm]?[jt]sx?|py|rb|php|java|kt|kts|scala|groovy|cs|rs|ex|exs|clj|swift|dart|ml|pl|fs)$`)
)

// handled finds the lines of a handler: those of the function that begins on the
// line of its registration, with or without a name, or of the project's function
// that it names.
func handled(tree *source.Tree, file string, line int, text string) (string, int, int) {
	if d := tree.Enclosing(file, line); d != nil && d.From == line {
		return file, line, d.End
	}
	if d := tree.Enclosing(file, line+1); d != nil && d.From == line+1 { // below an annotation
		return file, d.From, d.End
	}
	if end := tree.Block(file, line); end > line {
		return file, line, end
	}
	names := source.Names(text)
	for i := len(names) - 1; i >= 0; i-- {
		for _, d := range tree.Declared(names[i].Text) {
			if !d.Test && !(d.File == file && d.From <= line && line <= d.End) {
				return d.File, d.From, d.End
			}
		}
	}
	return file, line, line
}

func segments(path string) []string {
	path, _, _ = strings.Cut(path, "?")
	return strings.FieldsFunc(path, func(r rune) bool { return r == '/' })
}

// handlerOf finds the handler that a request comes to: of all whose pattern the
// path ends with the one that says most of it.
func (c *Context) handlerOf(tree *source.Tree, method, path string) *handler {
	request := segments(path)
	list := c.handlers(tree)
	best, most := -1, 0
	for i, h := range list {
		if h.method != "" && method != "" && h.method != method || len(h.pattern) == 0 || len(h.pattern) > len(request) {
			continue
		}
		score := 0
		for k, part := range h.pattern {
			switch at := request[len(request)-len(h.pattern)+k]; {
			case part == at:
				score += 4
			case parameter.MatchString(part):
				score++
			default:
				score = -100
			}
		}
		if len(h.pattern) == len(request) {
			score += 2
		}
		if h.method == method && method != "" {
			score++
		}
		if score > most && score > 3 {
			best, most = i, score
		}
	}
	if best < 0 {
		return nil
	}
	return &list[best]
}

// asksFor finds the handler that a failed test asks for, or that its message names.
func (e *Evidence) asksFor(ctx *Context) {
	s := e.Symptom
	if s.Kind != symptom.TestFailure {
		return
	}
	take := func(method, path string) bool {
		if h := ctx.handlerOf(e.tree, strings.ToUpper(method), path); h != nil && e.handler == nil {
			e.handler = h
		}
		return e.handler != nil
	}
	for _, text := range []string{s.Message, s.Test, s.Detail} {
		if m := told.FindStringSubmatch(text); m != nil && take(m[1], m[2]) {
			return
		}
	}
	file, from, end := e.at.File, e.at.From, e.at.End
	switch {
	case from == 0:
		file, from, end = s.File, s.Line, s.Line
	case s.File == file && from <= s.Line && s.Line <= end:
		end = s.Line
	}
	for n := end; n >= from && n > 0; n-- { // the last one before the failure
		text := e.tree.Line(file, n)
		if m := asked.FindStringSubmatch(text); m != nil {
			method := ""
			if v := verb.FindStringSubmatch(text); v != nil {
				method = v[1]
			}
			if take(method, m[1]) {
				return
			}
		}
	}
}
