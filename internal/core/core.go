// Package core is the computation, in the packages below it: readers, values
// and file systems go in, values come out. See boundary_test.go for what it
// must not touch.
package core
