package read

import (
	"fmt"
	"strings"
	"testing"

	"unicausa/internal/core/symptom"
)

// TestDrivers holds that what a compiler's driver says of itself is read, with the
// option that it refuses, and that make's verdict over it is none of its own.
func TestDrivers(t *testing.T) {
	for _, test := range []struct{ log, want string }{
		{"gcc: error: unrecognized command-line option ‘-flid’; did you mean ‘-flto’?\nmake: *** [Makefile:20: out/jar.o] Error 1\n", "error configure -flid"},
		{"/opt/board/bin/arm-board-gcc-12: error: unrecognized command-line option '-flid'\n", "error configure -flid"},
		{"clang: error: unknown argument: '-flid'\nclang: error: unsupported option '-flid=3' for target 'board'\n", "error configure -flid, error configure -flid=3"},
		{"cc1: warning: ‘-Wlid’ ignored without ‘-Wjar’ [-Wlid]\n", "warning configure "},
		{"g++: fatal error: no input files\ncompilation terminated.\n", "error configure "},
		{"/usr/bin/ld: out/a.o:(.bss+0x4): multiple definition of `lids'; out/m.o:(.bss+0x4): first defined here\n/usr/bin/ld: out/b.o:(.bss+0x4): multiple definition of `lids'; out/m.o:(.bss+0x4): first defined here\n" +
			"collect2: error: ld returned 1 exit status\nmake: *** [Makefile:9: out/jar] Error 1\n", "error link , error link "},
	} {
		r, err := All("build.log", strings.NewReader(test.log))
		if err != nil {
			t.Fatal(err)
		}
		var got []string
		for _, s := range r.Symptoms {
			got = append(got, fmt.Sprintf("%s %s %s", s.Kind, s.Phase, s.Named(symptom.Option)))
			if s.Named(symptom.Missing) != "" {
				t.Errorf("%q misses %q", s.Message, s.Named(symptom.Missing))
			}
		}
		if strings.Join(got, ", ") != test.want || len(r.Unread) > 0 {
			t.Errorf("%q\nis %q, want %q, unread %v", test.log, got, test.want, r.Unread)
		}
	}
}
