package route

import (
	"fmt"
	"strings"
	"testing"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/versions"
)

const document = `# jar

## 6.0.0

- ` + "`Lid`" + ` was removed.
- ` + "`Cap`" + ` was renamed to ` + "`Cover`" + `.

## 5.4.1

- Fixed a crash.

## 5.0.0

- ` + "`Open`" + ` takes a context.

## 4.9.0

- ` + "`Lid`" + ` is deprecated.

## 4.2.0

- ` + "`Sieve`" + ` is deprecated.
`

func TestPropose(t *testing.T) {
	changes := notes.Read("jar.md", "example.org/jar", []byte(document))
	for _, test := range []struct {
		name     string
		from, to string
		warned   int
		want     string
	}{
		{"over two lines", "4.2.0", "6.0.0", 3, "4.2.0..4.9.0 the last release of the line; 4.9.0..5.4.1 the last release of line 5: 1 change; 5.4.1..6.0.0 to the end: 2 changes"},
		{"from the end of a line", "4.9.0", "5.0.0", 0, "4.9.0..5.0.0 one step"},
		{"within a line", "5.0.0", "5.4.1", 0, "5.0.0..5.4.1 one step"},
		{"what is no version", "spring", "autumn", 0, "spring..autumn one step"},
	} {
		t.Run(test.name, func(t *testing.T) {
			var got []string
			for _, leg := range Propose([]versions.Move{{Package: "example.org/jar", From: test.from, To: test.to}}, changes, test.warned) {
				got = append(got, fmt.Sprintf("%s..%s %s", leg.Moves[0].From, leg.Moves[0].To, leg.Why))
			}
			parts := strings.Split(test.want, "; ")
			if len(got) != len(parts) {
				t.Fatalf("the legs are\n%s", strings.Join(got, "\n"))
			}
			for n, part := range parts {
				if !strings.HasPrefix(got[n], part) {
					t.Errorf("leg %d is %q, want %q", n+1, got[n], part)
				}
			}
			if test.warned > 0 && !strings.Contains(got[0], "3 deprecations") {
				t.Errorf("the warnings of the baseline are not told: %s", got[0])
			}
		})
	}
}
