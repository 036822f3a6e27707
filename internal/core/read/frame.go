package read

import (
	"strconv"
	"strings"

	"unicausa/internal/core/symptom"
)

// place is a position in a source file as a tool prints it.
type place struct {
	file         string
	line, column int
	rest         string // what follows the position
}

// placeColon reads "file:line[:column]" at the start of s. The rest starts
// behind it.
func placeColon(s string) (place, bool) {
	from := 0
	if len(s) > 2 && s[1] == ':' && (s[2] == '\\' || s[2] == '/') { // a Windows drive
		from = 2
	}
	for {
		i := strings.IndexByte(s[from:], ':')
		if i < 0 {
			return place{}, false
		}
		i += from
		line, n := leadingNumber(s[i+1:])
		if n == 0 || i == 0 {
			from = i + 1
			if i == 0 || strings.HasPrefix(s[i:], ": ") { // "word: text" is no place
				return place{}, false
			}
			continue
		}
		p := place{file: s[:i], line: line, rest: s[i+1+n:]}
		if column, m := leadingNumber(strings.TrimPrefix(p.rest, ":")); m > 0 && strings.HasPrefix(p.rest, ":") {
			p.column, p.rest = column, p.rest[1+m:]
		}
		return p, fileLike(p.file)
	}
}

// leadingNumber reads the decimal number at the start of s and its length, at
// most nine digits.
func leadingNumber(s string) (value, length int) {
	for length < len(s) && length < 9 && '0' <= s[length] && s[length] <= '9' {
		value = value*10 + int(s[length]-'0')
		length++
	}
	return value, length
}

// fileLike reports whether s could be a path: it has an extension or a slash, no
// blank around it, and is no address.
func fileLike(s string) bool {
	if strings.HasPrefix(s, "node:") && len(s) < 200 {
		return true
	}
	if s == "" || len(s) > 512 || strings.Contains(s, "://") || strings.ContainsAny(s, "\t\"<>|*") || s[0] == ' ' {
		return false
	}
	base := s[strings.LastIndexAny(s, `/\`)+1:]
	dot := strings.LastIndexByte(base, '.')
	if dot < 0 {
		return base == "Makefile" || base == "Dockerfile"
	}
	ext := base[dot+1:]
	if ext == "" || len(ext) > 8 || strings.Contains(ext, " ") {
		return false
	}
	_, n := leadingNumber(ext)
	return n < len(ext)
}

// parseFrame reads one line of a stack trace in the forms of JavaScript
// ("at f (file:1:2)"), the JVM ("at a.B.c(File.java:1)"), .NET ("at A.B() in
// file:line 1"), Python ("File "f", line 1, in g"), PHP ("#0 file(1): f()"),
// Ruby ("file:1:in `f'") and the bare "file:line".
func parseFrame(text string) (symptom.Frame, bool) {
	t := strings.TrimSpace(text)
	switch {
	case strings.HasPrefix(t, "at "):
		return frameAt(strings.TrimPrefix(t[3:], "async "))
	case strings.HasPrefix(t, `File "`):
		return framePython(t[6:])
	case strings.HasPrefix(t, "#"):
		return framePHP(t)
	}
	if p, ok := placeColon(t); ok && !strings.Contains(p.file, " ") && (p.rest == "" || strings.HasPrefix(p.rest, ":in ") || strings.HasPrefix(p.rest, " +0x")) {
		function, _ := strings.CutPrefix(p.rest, ":in ")
		if strings.HasPrefix(function, " +0x") { // Go: an offset
			function = ""
		}
		return frame(p, strings.Trim(function, "`' ")), true
	}
	return symptom.Frame{}, false
}

func frameAt(t string) (symptom.Frame, bool) {
	if i := strings.LastIndex(t, " in "); i > 0 {
		if j := strings.LastIndex(t, ":line "); j > i {
			n, _ := strconv.Atoi(strings.TrimSpace(t[j+6:]))
			return frame(place{file: t[i+4 : j], line: n}, t[:i]), n > 0
		}
	}
	function, where := "", t
	if i := strings.LastIndexByte(t, '('); i >= 0 && strings.HasSuffix(t, ")") {
		function, where = strings.TrimSpace(t[:i]), t[i+1:len(t)-1]
	}
	where = strings.TrimPrefix(where, "file://")
	p, ok := placeColon(where)
	p.file = jvmPath(p.file, function)
	return frame(p, function), ok
}

// jvmPath is the path of a source file of the JVM by the package of its class:
// "Shelf.java" of pantry.Shelf.open is pantry/Shelf.java.
func jvmPath(file, function string) string {
	if strings.ContainsAny(file, `/\`) || !extension(file, ".java", ".kt", ".scala", ".groovy", ".clj") {
		return file
	}
	function = function[strings.LastIndexByte(function, '/')+1:]
	parts := strings.Split(function, ".")
	if len(parts) < 3 { // class and method, or less
		return file
	}
	return strings.Join(parts[:len(parts)-2], "/") + "/" + file
}

func framePython(t string) (symptom.Frame, bool) {
	i := strings.Index(t, `", line `)
	if i < 0 {
		return symptom.Frame{}, false
	}
	n, length := leadingNumber(t[i+8:])
	function := strings.TrimPrefix(t[i+8+length:], ", in ")
	return frame(place{file: t[:i], line: n}, function), n > 0
}

func framePHP(t string) (symptom.Frame, bool) {
	_, n := leadingNumber(t[1:])
	open, end := strings.IndexByte(t, '('), strings.Index(t, "): ")
	if n == 0 || open < 0 || end < open {
		return symptom.Frame{}, false
	}
	line, m := leadingNumber(t[open+1:])
	return frame(place{file: strings.TrimSpace(t[1+n : open]), line: line}, t[end+3:]), m > 0
}

func frame(p place, function string) symptom.Frame {
	return symptom.Frame{File: p.file, Line: p.line, Function: function, Own: own(p.file) && !runtimeFunction(function)}
}

// runtimeFunction reports whether a qualified name is of a runtime's own library:
// those of the JVM and .NET have no path that would.
func runtimeFunction(name string) bool {
	if i := strings.IndexByte(name, '/'); i > 0 { // a module of the JVM
		name = name[i+1:]
	}
	for _, head := range []string{"java.", "javax.", "jdk.", "sun.", "com.sun.", "kotlin.", "scala.", "groovy.", "System.", "Microsoft.", "org.junit.", "org.opentest4j.", "org.testng.", "org.hamcrest.", "org.assertj.", "junit.", "org.scalatest.", "eunit_", "proc_lib:", "erl_eval"} {
		if strings.HasPrefix(name, head) {
			return true
		}
	}
	return false
}

// foreign are the parts of a path that only installed packages and runtimes have.
var foreign = []string{"node_modules/", "/site-packages/", "/dist-packages/", "/vendor/", "/pkg/mod/", "/usr/lib/", "/usr/local/go/", "/usr/share/", "/lib/python", "node:", "<", "/gems/", "/.cargo/", "/rustc/", "/internal/process/", "/sysdeps/", "../csu/", "/libsanitizer/", "/libstdc++-v3/"}

// own reports whether a frame's file is the project's, as far as its path shows.
func own(file string) bool {
	file = "/" + strings.ReplaceAll(file, `\`, "/")
	for _, part := range foreign {
		if strings.Contains(file, part) {
			return false
		}
	}
	return true
}
