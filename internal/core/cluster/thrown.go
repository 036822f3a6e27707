package cluster

import (
	"strings"

	"unicausa/internal/core/symptom"
)

// constructors are what languages call them in messages and stack traces.
var constructors = map[string]bool{"__init__": true, "__construct": true, "initialize": true, "constructor": true, "<init>": true, "__new__": true, "new": true, "New": true}

// conversions are what languages themselves call on any value: a failure in one
// is seldom about it.
var conversions = setOf(`tostring tojson valueof inspect equals hashcode __str__ __repr__ __call__ to_s`)

// converted is how sure it is that a failure is about one of them.
const converted = 0.4

// thrown takes the function of a package that the project's own code called
// when the failure came: the frame next to the innermost own one.
func (e *Evidence) thrown(ctx *Context) {
	var foreign *symptom.Frame
	for i := range e.Symptom.Frames {
		f := &e.Symptom.Frames[i]
		if f.Own {
			break
		}
		if pkg := ctx.packageOf(f.File); pkg != "" && ctx.moved(pkg) {
			foreign = f
		}
	}
	if foreign == nil {
		return
	}
	function := before(foreign.Function, " [")
	if i := strings.LastIndexByte(function, '('); i > 0 && strings.HasSuffix(function, ")") {
		function = function[:i]
	}
	i := strings.LastIndexAny(function, ".:# ")
	name := function[i+1:]
	if constructors[name] && i > 0 {
		function = strings.TrimRight(function[:i], ".:# ")
		name = function[strings.LastIndexAny(function, "/.:# ")+1:]
	}
	if name == "" || strings.HasPrefix(name, "<") || constructors[name] {
		return
	}
	weight := strong
	if conversions[strings.ToLower(name)] {
		weight = converted
	}
	e.add(Fact{What: FactFrame, Name: name, Package: ctx.packageOf(foreign.File), Weight: weight})
}
