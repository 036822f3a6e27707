package versions

import "strings"

// held finds what did not get as far as the leg says, and who holds it back.
func (c *comparer) held() {
	c.Held = []Held{}
	for _, in := range c.leg {
		for _, k := range keys(c.is) {
			e := c.is[k]
			if meant := c.intent(e); meant == nil || meant.Package != in.Package || in.To == "" || Order(highest(e.versions), in.To) >= 0 {
				continue
			}
			h := Held{Name: e.name, At: e.text(), To: in.To, By: []Need{}}
			for _, p := range c.after.Packages {
				if r, wants := p.Wants[e.name]; wants && p.Ecosystem == e.ecosystem {
					if met, known := Meets(in.To, r); known && !met {
						h.By = append(h.By, Need{Package: p.Name + " " + p.Version, Name: e.name, Range: r, Have: in.To, Kind: "dependency"})
					}
				}
				if r, wants := p.Peers[e.name]; wants && p.Ecosystem == e.ecosystem {
					if met, known := Meets(in.To, r); known && !met {
						h.By = append(h.By, Need{Package: p.Name + " " + p.Version, Name: e.name, Range: r, Have: in.To, Kind: "peer"})
					}
				}
			}
			for _, w := range c.after.Wishes {
				if w.Name == e.name && w.Ecosystem == e.ecosystem {
					if met, known := meetsWish(in.To, w); known && !met {
						h.By = append(h.By, Need{Package: w.File, Name: e.name, Range: w.Range, Have: in.To, Kind: "manifest"})
					}
				}
			}
			c.Held = append(c.Held, h)
		}
	}
}

// meetsWish is Meets, where a bare version means what the manifest's own
// package manager makes of it.
func meetsWish(version string, w Wish) (met, known bool) {
	r := w.Range
	if v, ok := exactly(r); ok && (w.Ecosystem == "Cargo" || w.Ecosystem == "NuGet") {
		if r = ">=" + v; w.Ecosystem == "Cargo" {
			r = "^" + v
		}
	}
	if strings.ContainsAny(r, ":/") { // a path, a workspace, an address
		return false, false
	}
	return Meets(version, r)
}

// unmet finds peers and runtimes that are wanted and not there.
func (c *comparer) unmet(seen map[string]string) {
	c.Unmet = []Need{}
	for _, p := range c.after.Packages {
		for _, name := range keys(p.Peers) {
			have := c.is[key(p.Ecosystem, name)]
			n := Need{Package: p.Name + " " + p.Version, Name: name, Range: p.Peers[name], Kind: "peer"}
			if have == nil {
				if c.direct[key(p.Ecosystem, name)] || len(c.after.Packages) > 0 && p.File != "" {
					c.Unmet = append(c.Unmet, n)
				}
				continue
			}
			if met, known := anyMeets(have.versions, n.Range); known && !met {
				n.Have = have.text()
				c.Unmet = append(c.Unmet, n)
			}
		}
		for _, name := range keys(p.Engines) {
			if have := seen[name]; have != "" {
				if met, known := Meets(have, p.Engines[name]); known && !met {
					c.Unmet = append(c.Unmet, Need{Package: p.Name + " " + p.Version, Name: name, Range: p.Engines[name], Have: have, Kind: "engine"})
				}
			}
		}
	}
	for _, name := range keys(c.after.Runtimes) {
		r := c.after.Runtimes[name]
		if _, bare := exactly(r); bare {
			r = ">=" + r
		}
		if have := seen[name]; have != "" {
			if met, known := Meets(have, r); known && !met {
				c.Unmet = append(c.Unmet, Need{Package: "the project", Name: name, Range: c.after.Runtimes[name], Have: have, Kind: "manifest"})
			}
		}
	}
}

// asked finds what the notes ask for and the runs or the lock files do not have.
func (c *comparer) asked(told Context) {
	for _, n := range told.Asked {
		have := told.Seen[n.Name]
		for seen, version := range told.Seen {
			if have == "" && runtimeName(seen) == runtimeName(n.Name) {
				have = version
			}
		}
		for _, e := range c.is {
			if have == "" && e.name == n.Name {
				have = highest(e.versions)
			}
		}
		if met, known := Meets(have, n.Range); have != "" && known && !met {
			n.Have, n.Kind = have, "notes"
			c.Unmet = append(c.Unmet, n)
		}
	}
}

// runtimeName is a runtime's name as its own command has it: "Node.js" is node.
func runtimeName(name string) string {
	return strings.TrimSuffix(strings.TrimSuffix(strings.ToLower(name), "js"), ".")
}

func anyMeets(versions []string, r string) (met, known bool) {
	for _, v := range versions {
		m, k := Meets(v, r)
		met, known = met || m, known || k
	}
	return met, known
}
