// Package shop keeps the kilns that members may book.
package shop

import "claywork.example/kiln"

// Kilns of the studio.
var Kilns = map[string]*kiln.Kiln{
	"big":   kiln.Open("big", kiln.Options{Limit: 1280, Vent: true}),
	"small": kiln.Open("small", kiln.Options{Limit: 1100}),
	"test":  kiln.New("test", kiln.Options{SoakHours: 1}),
}

// Stack loads a kiln and tells how full it is.
func Stack(name string, cones []string) int {
	k := Kilns[name]
	return k.Load(cones...)
}

// One loads a single witness cone.
func One(name string) int { return Kilns[name].Load("6") }

// Label is what stands on the door.
func Label(name string) string {
	k := Kilns[name]
	return k.Name + " up to " + kiln.Format(k.Limit)
}
