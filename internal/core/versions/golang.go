package versions

import (
	"golang.org/x/mod/modfile"
)

// readGoMod reads a go.mod, which is manifest and lock in one; go.sum adds
// nothing to it but checksums.
func readGoMod(data []byte, out *State) error {
	f, err := modfile.ParseLax("go.mod", data, nil)
	if err != nil {
		return err
	}
	if f.Go != nil {
		out.Runtimes["go"] = f.Go.Version
	}
	for _, r := range f.Require {
		out.Packages = append(out.Packages, Package{Name: r.Mod.Path, Version: r.Mod.Version})
		if !r.Indirect {
			out.Wishes = append(out.Wishes, Wish{Name: r.Mod.Path, Range: ">=" + clean(r.Mod.Version)})
		}
	}
	return nil
}
