package accuracy

import (
	"maps"
	"math"
	"regexp"
	"slices"
	"strings"

	"unicausa/internal/core/link"
	"unicausa/internal/core/symptom"
	"unicausa/internal/core/triage"
)

// Score says how well a report matches a labelled case. All but the counts are
// shares, 0 to 1; NaN where there is nothing to measure.
type Score struct {
	Case                   string
	Labels, Causes, Drawn  int     // labelled diagnostics and causes, and the causes that triage drew for them
	Recall, Precision      float64 // of reading
	States                 float64
	BCubed, Rand           float64 // of the causes: B-cubed F1 and the adjusted Rand index
	First, FirstThree      float64 // links that land on the right note
	Silence                float64 // causes without a note for which no link is called likely
	Likely                 float64 // links called likely that land on the right note
	Order                  float64 // of the first three causes: symptoms that are gone with them, of the most that three can take
	Calibration            float64 // expected calibration error of the links' scores, in ten bins
	said                   []said  // for the mean calibration error
	firstHit, withNote     int
	silent, withoutNote    int
	likelyHit, likely      int
	threeHit, matchedState int
}

type said struct {
	score float64
	right bool
}

// near is how far a reported line may stand from the labelled one.
const near = 2

// Measure scores a report.
func Measure(c *Case, r *triage.Report) Score {
	s := Score{Case: c.Name, Labels: len(c.Symptoms)}
	pairs, reported := match(c, r)
	matched := 0
	gold, found := map[int]string{}, map[int]string{}
	for i, label := range c.Symptoms {
		pair := pairs[i]
		if pair != nil {
			matched++
			state := pair.State
			if state == symptom.Updated {
				state = symptom.Unchanged
			}
			if string(state) == label.State {
				s.matchedState++
			}
		}
		if label.State == string(symptom.New) && label.Cause != "" {
			gold[i] = label.Cause
			switch {
			case pair == nil:
				found[i] = "unread" + string(rune(i))
			case pair.Cause == "":
				found[i] = "alone" + string(rune(i))
			default:
				found[i] = pair.Cause
			}
		}
	}
	s.Recall, s.Precision = ratio(matched, len(c.Symptoms)), ratio(matched, reported)
	s.States = ratio(s.matchedState, matched)
	s.BCubed, s.Rand = bCubed(gold, found), randIndex(gold, found)
	s.Drawn = distinct(found)
	s.Order = order(r, gold, found)
	s.links(c, r, gold, found)
	return s
}

// links scores the links of each labelled cause: those of the drawn cause
// that holds most of its symptoms.
func (s *Score) links(c *Case, r *triage.Report, gold, found map[int]string) {
	changes, causes := map[string]triage.Change{}, map[string]triage.Cause{}
	for _, change := range r.Changes {
		changes[change.ID] = change
	}
	for _, cause := range r.Causes {
		causes[cause.ID] = cause
	}
	for _, cause := range c.Causes {
		held := heldBy(cause.ID, gold, found)
		if held == "" {
			continue
		}
		s.Causes++
		hits := 0
		speaks := false
		for n, l := range causes[held].Links {
			change := changes[l.Change]
			right := cause.explains(change.Notes, change.Line, change.End)
			s.said = append(s.said, said{l.Score, right})
			speaks = speaks || l.Standing == link.Likely
			if n == 0 && l.Standing == link.Likely {
				s.likely++
				if right {
					s.likelyHit++
				}
			}
			if right && n < 3 {
				hits++
				if n == 0 {
					s.firstHit++
				}
			}
		}
		if len(cause.Notes) == 0 {
			s.withoutNote++
			if !speaks {
				s.silent++
			}
			continue
		}
		s.withNote++
		if hits > 0 {
			s.threeHit++
		}
	}
	s.First, s.FirstThree, s.Silence = ratio(s.firstHit, s.withNote), ratio(s.threeHit, s.withNote), ratio(s.silent, s.withoutNote)
	s.Likely = ratio(s.likelyHit, s.likely)
	s.Calibration = calibration(s.said)
}

// order is how many labelled symptoms go away with the first three drawn
// causes, each taken for the labelled cause that it shows most of, beside the
// most that any three can take.
func order(r *triage.Report, gold, found map[int]string) float64 {
	size, shows := map[string]int{}, map[string]map[string]int{}
	for i, cause := range gold {
		size[cause]++
		if shows[found[i]] == nil {
			shows[found[i]] = map[string]int{}
		}
		shows[found[i]][cause]++
	}
	gone, fixed, taken := 0, map[string]bool{}, 0
	for _, drawn := range r.Causes { // in their order
		if cause := commonest(shows[drawn.ID]); cause != "" && taken < 3 {
			taken++
			if !fixed[cause] {
				fixed[cause] = true
				gone += size[cause]
			}
		}
	}
	most := 0
	sizes := slices.Sorted(maps.Values(size))
	for _, n := range sizes[max(0, len(sizes)-3):] {
		most += n
	}
	return ratio(gone, most)
}

// explains reports whether an entry of the notes is one that explains the cause.
func (c *Cause) explains(path string, line, end int) bool {
	for _, n := range c.Notes {
		if n.Path == path && line <= n.End && n.Line <= max(end, line) {
			return true
		}
	}
	return false
}

// heldBy is the drawn cause that holds most symptoms of a labelled one.
func heldBy(id string, gold, found map[int]string) string {
	count := map[string]int{}
	for i, g := range gold {
		if g == id {
			count[found[i]]++
		}
	}
	return commonest(count)
}

// commonest is what is counted most, or "".
func commonest(count map[string]int) string {
	best := ""
	for name, n := range count {
		if n > count[best] || n == count[best] && name < best {
			best = name
		}
	}
	return best
}

// match pairs each label with a reported symptom by input and line; each place
// serves once. What is left of the tests is found by name.
func match(c *Case, r *triage.Report) (pairs map[int]*triage.Symptom, reported int) {
	type place struct {
		line    int
		symptom *triage.Symptom
		used    bool
	}
	after := map[string]bool{}
	for _, name := range c.Inputs.After {
		after[name] = true
	}
	places := map[string][]*place{}
	for i := range r.Symptoms {
		if r.Symptoms[i].State == symptom.Absent {
			continue
		}
		for _, at := range r.Symptoms[i].At {
			if after[at.Input] {
				places[at.Input] = append(places[at.Input], &place{line: at.Line, symptom: &r.Symptoms[i]})
				reported++
			}
		}
	}
	pairs = map[int]*triage.Symptom{}
	take := func(fits func(label Label, p *place) bool) {
		for i, label := range c.Symptoms {
			if pairs[i] != nil {
				continue
			}
			for _, p := range places[label.Input] {
				if !p.used && fits(label, p) {
					p.used, pairs[i] = true, p.symptom
					break
				}
			}
		}
	}
	for distance := range near + 1 {
		take(func(label Label, p *place) bool { return abs(p.line-label.Line) == distance })
	}
	take(func(label Label, p *place) bool { return sameTest(p.symptom.Test, label.Test) })
	return pairs, reported
}

var notWord = regexp.MustCompile(`[\W_]+`)

func sameTest(a, b string) bool {
	a, b = strings.ToLower(notWord.ReplaceAllString(a, "")), strings.ToLower(notWord.ReplaceAllString(b, ""))
	return a != "" && b != "" && (strings.HasSuffix(a, b) || strings.HasSuffix(b, a))
}

// bCubed is the B-cubed F1 of a clustering (Bagga and Baldwin, "Entity-based
// cross-document coreferencing using the vector space model", 1998).
func bCubed(gold, found map[int]string) float64 {
	if len(gold) == 0 {
		return math.NaN()
	}
	type cell struct{ gold, found string }
	both, byGold, byFound := map[cell]float64{}, map[string]float64{}, map[string]float64{}
	for i := range gold {
		both[cell{gold[i], found[i]}]++
		byGold[gold[i]]++
		byFound[found[i]]++
	}
	precision, recall := 0.0, 0.0
	for c, n := range both {
		precision += n * n / byFound[c.found]
		recall += n * n / byGold[c.gold]
	}
	precision, recall = precision/float64(len(gold)), recall/float64(len(gold))
	return 2 * precision * recall / (precision + recall)
}

// randIndex is the adjusted Rand index (Hubert and Arabie, "Comparing
// partitions", 1985).
func randIndex(gold, found map[int]string) float64 {
	n := len(gold)
	if n < 2 {
		return math.NaN()
	}
	both, byGold, byFound := map[string]int{}, map[string]int{}, map[string]int{}
	for i := range gold {
		both[gold[i]+"\x00"+found[i]]++
		byGold[gold[i]]++
		byFound[found[i]]++
	}
	pairs := func(counts map[string]int) float64 {
		sum := 0
		for _, v := range counts {
			sum += v * (v - 1) / 2
		}
		return float64(sum)
	}
	a, b, total := pairs(byGold), pairs(byFound), float64(n*(n-1)/2)
	expected, most := a*b/total, (a+b)/2
	if most == expected {
		return 1
	}
	return (pairs(both) - expected) / (most - expected)
}

// calibration is the expected calibration error: over ten bins of the score,
// how far the mean score is from the share that is right, by their numbers.
func calibration(list []said) float64 {
	if len(list) == 0 {
		return math.NaN()
	}
	var sum, right, n [10]float64
	for _, s := range list {
		bin := min(9, int(s.score*10))
		n[bin]++
		sum[bin] += s.score
		if s.right {
			right[bin]++
		}
	}
	wrong := 0.0
	for bin := range n {
		wrong += math.Abs(sum[bin] - right[bin])
	}
	return wrong / float64(len(list))
}

// Mean is the mean of the scores of several cases; the calibration error is
// that of all their links together.
func Mean(scores []Score) Score {
	m := Score{Case: "mean"}
	mean := func(value func(s *Score) float64) float64 {
		sum, n := 0.0, 0
		for i := range scores {
			if v := value(&scores[i]); !math.IsNaN(v) {
				sum += v
				n++
			}
		}
		return sum / float64(n)
	}
	for _, s := range scores {
		m.Labels, m.Causes, m.Drawn = m.Labels+s.Labels, m.Causes+s.Causes, m.Drawn+s.Drawn
		m.said = append(m.said, s.said...)
	}
	m.Recall, m.Precision = mean(func(s *Score) float64 { return s.Recall }), mean(func(s *Score) float64 { return s.Precision })
	m.States = mean(func(s *Score) float64 { return s.States })
	m.BCubed, m.Rand = mean(func(s *Score) float64 { return s.BCubed }), mean(func(s *Score) float64 { return s.Rand })
	m.First, m.FirstThree = mean(func(s *Score) float64 { return s.First }), mean(func(s *Score) float64 { return s.FirstThree })
	m.Silence = mean(func(s *Score) float64 { return s.Silence })
	m.Likely, m.Order = mean(func(s *Score) float64 { return s.Likely }), mean(func(s *Score) float64 { return s.Order })
	m.Calibration = calibration(m.said)
	return m
}

func ratio(a, b int) float64 {
	if b == 0 {
		return math.NaN()
	}
	return float64(a) / float64(b)
}

func distinct(found map[int]string) int {
	set := map[string]bool{}
	for _, id := range found {
		set[id] = true
	}
	return len(set)
}

func abs(n int) int { return max(n, -n) }
