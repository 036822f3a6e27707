package read

import (
	"path"
	"strings"
)

// npmScripts reads the header that npm and its kin print above a script's
// output. In a workspace it alone tells two files of one name apart:
//
//	> @pantry/web@1.0.0 build
//	> tsc -p .
//	> @pantry/web@1.0.0 build /p/packages/web        older versions
type npmScripts struct{}

var npmScriptsReader = stream{name: "npm scripts", marks: []string{"^> "}, open: func() lineReader { return npmScripts{} }}

func (npmScripts) line(l Line, out *sink) verdict {
	spec, script, ok := strings.Cut(strings.TrimPrefix(l.Text, "> "), " ")
	at := strings.LastIndexByte(spec, '@')
	if !strings.HasPrefix(l.Text, "> ") || !ok || at < 1 || at+1 == len(spec) || !isDigit(spec[at+1]) {
		return pass
	}
	out.module, out.folder = spec[:at], ""
	if _, folder, ok := strings.Cut(script, " "); ok && path.IsAbs(folder) {
		out.folder = folder
	}
	return noise
}

func (npmScripts) close(*sink) {}
