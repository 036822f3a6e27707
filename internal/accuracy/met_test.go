package accuracy

import "testing"

// TestMet holds how well the outputs of tools are read that no reader was
// written for.
func TestMet(t *testing.T) {
	batches, err := Met("../core/read/testdata/met")
	if err != nil {
		t.Fatal(err)
	}
	for i, b := range batches {
		for _, miss := range b.Misses {
			t.Log(miss)
		}
		if r := b.Today; r.Outputs != b.FirstSight.Outputs || r.Diagnostics != b.FirstSight.Diagnostics || r.Recall < .91 || r.Precision < .98 || r.Kind < .97 || r.Place < .95 || r.Code < .96 {
			t.Errorf("batch %d is read worse than it was: %+v", i+1, r)
		}
	}
	if _, err := Met("testdata"); err == nil {
		t.Error("a folder without labels was read")
	}
}
