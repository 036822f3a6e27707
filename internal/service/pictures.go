package service

import (
	"path"

	"unicausa/internal/api"
	"unicausa/internal/core/symptom"
	"unicausa/internal/store"
)

// picture gives each failing test of a cause the pictures that its last run left of it, and
// those that its check's baseline left under the same names.
func picture(d *api.CauseDetail, runs []store.Run) {
	for i := range d.Symptoms {
		s := &d.Symptoms[i]
		if s.Test == "" {
			continue
		}
		about := symptom.Symptom{Test: s.Test, Message: s.Message, Detail: s.Detail}
		for _, last := range runs {
			if last.Number != s.Last {
				continue
			}
			for n, p := range last.Pictures {
				if !symptom.Pictured(p.Name, &about) {
					continue
				}
				pair := api.PicturePair{Name: p.Name, Run: last.Number, Picture: n}
				for _, b := range runs {
					if b.Baseline && b.Facts.Check == last.Facts.Check && pair.Before == nil {
						pair.Before = sameName(b, p.Name)
					}
				}
				s.Pictures = append(s.Pictures, pair)
			}
		}
	}
}

// sameName is the picture of a run that is named alike, nil for none.
func sameName(run store.Run, name string) *api.PictureAt {
	for n, p := range run.Pictures {
		if p.Name == name || path.Base(p.Name) == path.Base(name) {
			return &api.PictureAt{Run: run.Number, Picture: n}
		}
	}
	return nil
}
