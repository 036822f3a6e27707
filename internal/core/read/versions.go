package read

import "strings"

// versionLines reads lines in which tools name themselves or what they take
// in, with a version; they are of no other interest:
//
//	   Compiling jar v5.0.0 (/p/jar)                    cargo
//	go: downloading example.org/jar v5.0.0
//	PHPUnit 9.6.7 by Sebastian Bergmann and contributors.
//	platform linux -- Python 3.11.2, pytest-7.2.1, …
//	Node.js v20.20.2
//	 RUN  v3.2.7 /pantry                                vitest
//	  - Installing jars/jar (5.0.0)                     Composer; Upgrading (4.3 => 5.0.0)
//	Installing jar 5.0.0                                Bundler
//	Successfully installed jar-5.0.0                    pip
type versionLines struct{}

var versionsReader = stream{name: "versions", marks: []string{
	"^Compiling ", "^Checking ", "^go: downloading ", "^PHPUnit ", "^platform ", "^Node.js v", "^RUN  v", "^- Installing ", "^- Upgrading ", "^- Downgrading ", "^Installing ", "^Successfully installed ",
}, open: func() lineReader { return versionLines{} }}

func (versionLines) line(l Line, out *sink) verdict {
	fields := strings.Fields(l.Text)
	if len(fields) < 2 {
		return pass
	}
	found := false
	see := func(name, version string) {
		if version = strings.TrimPrefix(version, "v"); name != "" && version != "" && isDigit(version[0]) {
			out.version(name, version)
			found = true
		}
	}
	switch {
	case fields[0] == "Compiling" || fields[0] == "Checking":
		if len(fields) >= 3 && strings.HasPrefix(fields[2], "v") && strings.HasPrefix(l.Text, " ") {
			see(fields[1], fields[2])
		}
	case strings.HasPrefix(l.Text, "go: downloading ") && len(fields) >= 4:
		see(fields[2], fields[3])
	case fields[0] == "PHPUnit":
		see("phpunit", fields[1])
	case fields[0] == "platform":
		for part := range strings.SplitSeq(behind(l.Text, "-- "), ", ") {
			name, version, ok := strings.Cut(part, "-")
			if !ok {
				name, version, _ = strings.Cut(part, " ")
			}
			see(strings.ToLower(name), firstWord(version))
		}
	case fields[0] == "Node.js":
		see("node", fields[1])
	case fields[0] == "RUN":
		see("vitest", fields[1])
	case fields[0] == "-" && len(fields) >= 4:
		if i := strings.LastIndex(l.Text, "=> "); i >= 0 {
			see(fields[2], strings.TrimRight(firstWord(l.Text[i+3:]), "):"))
		} else {
			see(fields[2], strings.Trim(fields[3], "():"))
		}
	case fields[0] == "Installing" && len(fields) == 3:
		see(fields[1], fields[2])
	case strings.HasPrefix(l.Text, "Successfully installed "):
		for _, spec := range fields[2:] {
			if i := strings.LastIndexByte(spec, '-'); i > 0 {
				see(spec[:i], spec[i+1:])
			}
		}
	}
	if found && !strings.HasPrefix(l.Text, "Node.js") {
		return noise
	}
	return pass
}

func (versionLines) close(out *sink) {}
