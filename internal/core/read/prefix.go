package read

import (
	"bytes"
	"strings"
)

// peeled is what a wrapper put before a line.
type peeled struct {
	text    int    // where the text begins
	prefix  string // the name of a service, a workspace or a task
	stamped bool   // a timestamp stands there
}

// peel finds what a wrapper put before a line: a timestamp, the name of a
// service ("web | "), of a workspace ("[web] ") or of a task ("web:build: ").
// Only a name makes a lane of its own.
func peel(line []byte) (p peeled) {
	if !mayPeel(line) {
		return p
	}
	head := line[:min(len(line), 80)]
	if n := process(head); n > 0 {
		p.text = n
		return p
	}
	if n := task(head); n > 0 {
		p.text, p.prefix = n, string(bytes.TrimSpace(head[:n]))
		return p
	}
	if n := stamp(head); n > 0 {
		p.text, p.stamped = n, true
	}
	if rest := head[p.text:]; !mayWrap(rest) {
		return p
	}
	rest := string(head[p.text:])
	if n := wrapper(rest); n > 0 {
		p.prefix = strings.TrimSpace(rest[:n])
		p.text += n
		if n := stamp(head[p.text:]); n > 0 {
			p.text += n
			p.stamped = true
		}
	}
	return p
}

var months = map[string]bool{"Jan": true, "Feb": true, "Mar": true, "Apr": true, "May": true, "Jun": true, "Jul": true, "Aug": true, "Sep": true, "Oct": true, "Nov": true, "Dec": true}

// mayWrap is a cheap test of what may be the name of a wrapper.
func mayWrap(rest []byte) bool {
	switch {
	case len(rest) < 4:
		return false
	case rest[0] == '[':
		return isLetter(rest[1]) || rest[1] == '@'
	}
	return (isLetter(rest[0]) || rest[0] == '@') && (bytes.IndexByte(rest, '|') > 0 || bytes.IndexByte(rest, ':') > 0)
}

// process is the length of the process's number that Valgrind and the sanitizers
// set before their lines: "==42== ".
func process(head []byte) int {
	if len(head) < 6 || head[0] != '=' || head[1] != '=' {
		return 0
	}
	n := 2
	for n < len(head) && isDigit(head[n]) {
		n++
	}
	if n == 2 || n+2 >= len(head) || string(head[n:n+3]) != "== " {
		return 0
	}
	return n + 3
}

// task is the length of the name of a task that Ant sets before a line, at the
// right end of eleven columns, with the blank behind it: "    [javac] ".
func task(head []byte) int {
	n := 0
	for n < len(head) && head[n] == ' ' {
		n++
	}
	end := bytes.IndexByte(head, ']')
	if n == 0 || n > 9 || end < 0 || head[n] != '[' || end != 10 || end+1 >= len(head) || head[end+1] != ' ' || !nameLike(string(head[n+1:end])) {
		return 0
	}
	return end + 2
}

// mayPeel is a cheap test that most lines fail.
func mayPeel(line []byte) bool {
	if len(line) < 6 {
		return false
	}
	switch c := line[0]; {
	case c == '=':
		return line[1] == '='
	case c == ' ':
		return len(line) > 11 && line[10] == ']'
	case isDigit(c):
		return line[2] == ':' || line[2] == '-' || line[4] == '-' || line[4] == '/'
	case c == '[':
		return true
	case isLetter(c) || c == '@':
		head := line[:min(len(line), 62)]
		if line[3] == ' ' && bytes.IndexByte(head, ':') == 9 { // syslog
			return true
		}
		colon := bytes.IndexByte(head, ':')
		return bytes.Contains(head, []byte(" | ")) || colon > 0 && bytes.IndexByte(head[colon+1:], ':') > 0
	}
	return false
}

// stamp is the length of the timestamp at the start of a line with the blank
// behind it, or 0: RFC 3339 and its kin, a time of day, both also in brackets,
// and that of syslog (RFC 3164).
func stamp(s []byte) int {
	if len(s) < 9 || !isDigit(s[0]) && s[0] != '[' && (s[0] < 'A' || s[0] > 'S' || s[3] != ' ') {
		return 0
	}
	at := 0
	bracket := s[0] == '['
	if bracket {
		at++
	}
	date := shape(s[at:], "dddd-dd-dd")
	if date == 0 {
		date = shape(s[at:], "dddd/dd/dd")
	}
	if date == 0 {
		date = shape(s[at:], "dd-aaa-dddd")
	}
	if date == 0 {
		if date = shape(s[at:], "Aaa ed"); date > 0 && !months[string(s[at:at+3])] {
			return 0
		}
	}
	if date > 0 {
		at += date
		if at < len(s) && (s[at] == 'T' || s[at] == ' ' || s[at] == ':') {
			at++
		}
	}
	clock := shape(s[at:], "dd:dd:dd")
	if clock == 0 {
		return 0
	}
	at += clock
	if at < len(s) && (s[at] == '.' || s[at] == ',') {
		for at++; at < len(s) && isDigit(s[at]); at++ {
		}
	}
	if at < len(s) && s[at] == 'Z' {
		at++
	} else if n := shape(s[at:], "+dd:dd"); n > 0 {
		at += n
	} else if n := shape(s[at:], "+dddd"); n > 0 {
		at += n
	}
	if bracket {
		if at >= len(s) || s[at] != ']' {
			return 0
		}
		at++
	}
	switch {
	case at == len(s):
		return at
	case s[at] == ' ' || s[at] == '\t':
		return at + 1
	}
	return 0
}

// shape matches the start of s with a pattern of one letter a byte: d a digit,
// e a digit or a blank, a a letter, A a capital, + a sign, others themselves.
func shape[T string | []byte](s T, pattern string) int {
	if len(s) < len(pattern) {
		return 0
	}
	for i := range len(pattern) {
		c, ok := s[i], false
		switch pattern[i] {
		case 'd':
			ok = isDigit(c)
		case 'e':
			ok = isDigit(c) || c == ' '
		case 'a':
			ok = isLetter(c)
		case 'A':
			ok = 'A' <= c && c <= 'Z'
		case '+':
			ok = c == '+' || c == '-'
		default:
			ok = c == pattern[i]
		}
		if !ok {
			return 0
		}
	}
	return len(pattern)
}

// tasks are the usual names of a parallel build's tasks.
var tasks = map[string]bool{"build": true, "test": true, "lint": true, "check": true, "compile": true, "typecheck": true, "type-check": true, "start": true, "dev": true, "bundle": true}

// levels are words in brackets that tell a message's weight, not its origin.
var levels = map[string]bool{
	"error": true, "err": true, "warning": true, "warn": true, "info": true, "debug": true, "trace": true, "fatal": true, "notice": true,
	"critical": true, "severe": true, "success": true, "failed": true, "failure": true, "fail": true, "pass": true, "ok": true, "skip": true, "deprecated": true, "deprecation": true,
}

// wrapper is the length of the name that a wrapper put before a line with the
// blank behind it, or 0.
func wrapper(s string) int {
	if s == "" {
		return 0
	}
	if s[0] == '[' {
		end := strings.IndexByte(s, ']')
		if end < 2 || end > 40 || !nameLike(s[1:end]) || levels[strings.ToLower(s[1:end])] || capitalCode(s[1:end]) || end+1 >= len(s) || s[end+1] != ' ' {
			return 0
		}
		return end + 2
	}
	if !isLetter(s[0]) && s[0] != '@' {
		return 0
	}
	n := 0
	for n < len(s) && n < 60 && inName(s[n]) {
		n++
	}
	if n == len(s) {
		return 0
	}
	if s[n] == ':' {
		task := before(s[n+1:], ": ")
		if tasks[task] && len(task)+n+3 <= len(s) {
			return n + 1 + len(task) + 2
		}
		return 0
	}
	bar := n
	for bar < len(s) && s[bar] == ' ' {
		bar++
	}
	if bar > n && strings.HasPrefix(s[bar:], "| ") && nameLike(s[:n]) {
		return bar + 2
	}
	return 0
}

// capitalCode reports whether s is a code and no service's name: in capitals, with a
// digit or an underscore.
func capitalCode(s string) bool {
	return strings.ContainsAny(s, "_0123456789") && strings.ToUpper(s) == s
}

// nameLike reports whether s is a name: it starts with a letter or @ and holds
// nothing that a file's extension or a sentence would.
func nameLike(s string) bool {
	if s == "" || !isLetter(s[0]) && s[0] != '@' {
		return false
	}
	for i := range len(s) {
		if !inName(s[i]) {
			return false
		}
	}
	return true
}

func inName(c byte) bool {
	return isLetter(c) || isDigit(c) || c == '-' || c == '_' || c == '.' || c == '/' || c == '@'
}

func isDigit(c byte) bool  { return '0' <= c && c <= '9' }
func isLetter(c byte) bool { return 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z' }
