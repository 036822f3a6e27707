package guard

import (
	"errors"
	"fmt"
	"strings"
	"testing"
)

// TestCall holds that a panic of any goroutine becomes an error that names
// what was being worked on, from the inside out, and that nothing else does.
func TestCall(t *testing.T) {
	each := func(names ...string) func() int {
		return func() int {
			var g Group
			for _, name := range names {
				g.Go(func() {
					defer Name(func() []string { return []string{name, "jar.md"} })
					if strings.HasPrefix(name, "bad") {
						panic("lid is stuck")
					}
				})
			}
			g.Wait()
			return len(names)
		}
	}
	for _, test := range []struct {
		name string
		f    func() int
		want string
	}{
		{"no panic", each("a.go", "b.go"), ""},
		{"in a goroutine", each("a.go", "bad.go"), "bad.go, within jar.md, within build.log cannot be processed, which is a defect of Unicausa: lid is stuck"},
		{"the same of several", each("bad2.go", "a.go", "bad1.go"), "bad1.go, within jar.md, within build.log cannot be processed, which is a defect of Unicausa: lid is stuck"},
		{"in the caller", func() int { panic(fmt.Errorf("no lid")) }, "build.log cannot be processed, which is a defect of Unicausa: no lid"},
	} {
		t.Run(test.name, func(t *testing.T) {
			n, err := Call("build.log", test.f)
			if test.want == "" {
				if err != nil || n != 2 {
					t.Errorf("got %d, %v", n, err)
				}
				return
			}
			var e *Error
			if !errors.As(err, &e) || e.Error() != test.want {
				t.Fatalf("got %v\nwant %s", err, test.want)
			}
			if !strings.Contains(string(e.Stack), "guard_test.go") {
				t.Errorf("the stack does not lead to the panic:\n%s", e.Stack)
			}
		})
	}
}
