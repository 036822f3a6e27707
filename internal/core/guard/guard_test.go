package guard

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"testing"
)

// TestCheck holds that work ends once its context is done, from any goroutine, with the
// reason as it was given.
func TestCheck(t *testing.T) {
	slow := errors.New("it took too long")
	for _, several := range []bool{false, true} {
		ctx, cancel := context.WithCancelCause(t.Context())
		n := 0
		_, err := Call("build.log", func() int {
			turn := func() {
				for n < 10 {
					Check(ctx)
					if n++; n == 3 {
						cancel(slow)
					}
				}
			}
			if !several {
				defer Name(func() []string { return []string{"a.go"} })
				turn()
				return n
			}
			var g Group
			g.Go(turn)
			g.Wait()
			return n
		})
		var broken *Error
		if !errors.Is(err, slow) || errors.As(err, &broken) || n != 3 || !strings.Contains(err.Error(), "build.log") {
			t.Errorf("several goroutines %v: after %d turns %v", several, n, err)
		}
	}
}

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
