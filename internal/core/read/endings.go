package read

import (
	"hash/maphash"

	"unicausa/internal/core/symptom"
)

// endings finds tests by how they ended, in a list that holds each once: a hash
// table with open addressing, for reports of hundreds of thousands of tests.
type endings struct {
	slots []endingSlot // a power of two, or none
	used  int
}

// endingSlot is a test by its index plus one, 0 in an empty slot.
type endingSlot struct{ hash, test uint32 }

var endingSeed = maphash.MakeSeed()

func endingHash(t *symptom.Test) uint32 {
	suite, name := maphash.String(endingSeed, t.Suite), maphash.String(endingSeed, t.Name)
	return uint32(suite>>32) ^ uint32(name) ^ uint32(len(t.Outcome))
}

// add reports whether a test is not in the list yet; it is to be appended then.
func (e *endings) add(list []symptom.Test, t symptom.Test) bool {
	if 2*e.used >= len(e.slots) {
		e.grow()
	}
	hash := endingHash(&t)
	i := e.find(hash, func(at uint32) bool {
		o := &list[at]
		return o.Name == t.Name && o.Suite == t.Suite && o.Outcome == t.Outcome
	})
	if e.slots[i].test != 0 {
		return false
	}
	e.slots[i] = endingSlot{hash, uint32(len(list)) + 1}
	e.used++
	return true
}

// find gives the slot of the test that is meant, or the empty one it goes into.
func (e *endings) find(hash uint32, meant func(at uint32) bool) uint32 {
	mask := uint32(len(e.slots) - 1)
	for i := hash & mask; ; i = (i + 1) & mask {
		s := e.slots[i]
		if s.test == 0 || s.hash == hash && meant(s.test-1) {
			return i
		}
	}
}

func (e *endings) grow() {
	old := e.slots
	e.slots = make([]endingSlot, max(2*len(old), 64))
	for _, s := range old {
		if s.test != 0 {
			e.slots[e.find(s.hash, func(uint32) bool { return false })] = s
		}
	}
}
