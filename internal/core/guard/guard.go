// Package guard keeps a panic in the core from ending the process: where work
// of the core is entered it becomes an error that names the input at hand.
package guard

import (
	"context"
	"fmt"
	"runtime/debug"
	"slices"
	"strings"
	"sync"
)

// Error is a panic as an error. Inputs are what was being worked on, the
// innermost first: a line of an output, a file of the tree, a document.
type Error struct {
	Inputs []string
	Value  any
	Stack  []byte
}

// stopped is thrown by Check and caught where the core was entered.
type stopped struct{ why error }

// Check ends the work of the core that it is called in once ctx is done: Catch makes an
// error of it that wraps context.Cause. Loops over what a user gave call it.
func Check(ctx context.Context) {
	if ctx.Err() != nil {
		panic(stopped{context.Cause(ctx)})
	}
}

// Error names the inputs and what the panic said.
func (e *Error) Error() string {
	return fmt.Sprintf("%s cannot be processed, which is a defect of Unicausa: %v", strings.Join(e.Inputs, ", within "), e.Value)
}

// Call is where work of the core is entered: a panic in f, or in a goroutine
// of its Group, is returned as an *Error that names the input.
func Call[T any](input string, f func() T) (result T, err error) {
	defer Catch(input, &err)
	return f(), nil
}

// Catch is to be deferred: it turns a panic into an *Error in err.
func Catch(input string, err *error) {
	switch p := recover().(type) {
	case nil:
	case stopped:
		if *err = p.why; input != "" {
			*err = fmt.Errorf("working on %s: %w", input, p.why)
		}
	default:
		*err = from(p, input)
	}
}

// Name is to be deferred: a panic goes on and names what was being worked on.
func Name(inputs func() []string) {
	switch p := recover().(type) {
	case nil:
	case stopped:
		panic(p)
	default:
		panic(from(p, inputs()...))
	}
}

// from is a recovered panic with further inputs.
func from(p any, inputs ...string) *Error {
	e, ok := p.(*Error)
	if !ok {
		e = &Error{Value: p, Stack: debug.Stack()}
	}
	for _, in := range inputs {
		if in != "" && !slices.Contains(e.Inputs, in) {
			e.Inputs = append(e.Inputs, in)
		}
	}
	return e
}

// Group runs goroutines whose panics belong to whoever waits for them.
type Group struct {
	work  sync.WaitGroup
	mu    sync.Mutex
	first *Error // by the names of its inputs, so that the order of work does not show
	end   *stopped
}

// Go runs f in a goroutine of the group.
func (g *Group) Go(f func()) {
	g.work.Go(func() {
		defer func() {
			p := recover()
			if p == nil {
				return
			}
			g.mu.Lock()
			defer g.mu.Unlock()
			if end, ok := p.(stopped); ok {
				g.end = &end
				return
			}
			e := from(p)
			if g.first == nil || slices.Compare(e.Inputs, g.first.Inputs) < 0 {
				g.first = e
			}
		}()
		f()
	})
}

// Wait waits for all goroutines, and panics where one of them did.
func (g *Group) Wait() {
	g.work.Wait()
	switch {
	case g.first != nil:
		panic(g.first)
	case g.end != nil:
		panic(*g.end)
	}
}
