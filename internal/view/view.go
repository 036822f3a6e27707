// Package view turns what the core computes and the store keeps into the types of the API,
// and what the API is given into those of the store. It is the one place that knows both.
// Lists in its results are never nil.
package view

// list is the view of each of a list.
func list[T, V any](all []T, view func(T) V) []V {
	out := make([]V, 0, len(all))
	for _, one := range all {
		out = append(out, view(one))
	}
	return out
}

// orEmpty is a list that is not nil.
func orEmpty[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// optional is the view of what may not be there.
func optional[T, V any](one *T, view func(T) V) *V {
	if one == nil {
		return nil
	}
	v := view(*one)
	return &v
}
