package store

import (
	"fmt"
	"maps"
	"slices"
	"sort"
	"strconv"
	"strings"

	"unicausa/internal/core/analysis"
	"unicausa/internal/core/cluster"
	"unicausa/internal/core/track"
	"unicausa/internal/core/triage"
)

// Judged are the verdicts of people on links, by cause and change.
func (a *Analysis) Judged() (map[string]map[string]bool, error) {
	var rows []struct {
		Cause  string `db:"name"`
		Change string `db:"change"`
		State  string `db:"state"`
	}
	err := a.tx.SelectContext(a.ctx, &rows, `
		SELECT c.name, l.change, l.state FROM link l JOIN cause c ON c.id = l.cause_id WHERE c.leg_id = $1 AND l.state <> 'proposed'`, a.Leg)
	if err != nil {
		return nil, fmt.Errorf("reading the links: %w", err)
	}
	judged := map[string]map[string]bool{}
	for _, r := range rows {
		if judged[r.Cause] == nil {
			judged[r.Cause] = map[string]bool{}
		}
		judged[r.Cause][r.Change] = r.State == "confirmed"
	}
	return judged, nil
}

// Save writes the progress of a leg: causes, symptoms, links, the lives of the
// causes, and what the run proves of claimed fixes.
func (a *Analysis) Save(p analysis.Progress) error {
	ids, err := a.saveCauses(p)
	if err != nil {
		return err
	}
	if err := a.saveSymptoms(p, ids); err != nil {
		return err
	}
	if err := a.sumUp(); err != nil {
		return err
	}
	if err := a.saveLinks(p, ids); err != nil {
		return err
	}
	if err := a.place(p.Report); err != nil {
		return err
	}
	lives := a.batch()
	for _, name := range sortedNames(p.State.Causes) {
		c := p.State.Causes[name]
		lives.add(nil, `
			INSERT INTO life (cause_id, run, shown, hidden) VALUES ($1, $2, $3, $4)
			ON CONFLICT (cause_id, run) DO UPDATE SET shown = excluded.shown, hidden = excluded.hidden`, ids[name], p.Latest, c.Shown, c.Hidden)
	}
	if err := lives.send(); err != nil {
		return fmt.Errorf("storing the lives of the causes: %w", err)
	}
	if p.Run == nil {
		return addEvent(a.ctx, a.tx, a.Upgrade, event{kind: "analysed", text: "causes regrouped"})
	}
	if err := a.judgeFixes(p); err != nil {
		return err
	}
	if _, err := a.tx.ExecContext(a.ctx, `UPDATE run SET delta = $2 WHERE id = $1`, p.Run.ID, asJSON(p.Delta)); err != nil {
		return fmt.Errorf("storing what the run changed: %w", err)
	}
	for _, r := range p.Delta.Redrawn {
		if err := addEvent(a.ctx, a.tx, a.Upgrade, event{kind: "processed", run: p.Run.Number, cause: r.Cause, text: r.Text}); err != nil {
			return err
		}
	}
	return addEvent(a.ctx, a.tx, a.Upgrade, event{kind: "processed", run: p.Run.Number,
		text: fmt.Sprintf("run %d of %s: %d new, %d gone, %s left", p.Run.Number, p.Run.Check, p.Delta.New, p.Delta.Gone, counted(p.Delta.CausesLeft, "cause"))})
}

// sumUp keeps with each cause of the leg what its symptoms come to.
func (a *Analysis) sumUp() error {
	_, err := a.tx.ExecContext(a.ctx, `
		WITH own AS (SELECT cause_id, status, silenced, origin, checks, facts->>'file' AS file FROM symptom WHERE upgrade_id = $1 AND leg_id = $2 AND cause_id IS NOT NULL),
			named AS (SELECT cause_id, jsonb_agg(DISTINCT k.name) AS checks FROM own, jsonb_array_elements_text(own.checks) AS k(name) GROUP BY cause_id),
			sums AS (SELECT cause_id, count(*) FILTER (WHERE status = 'shown') AS shown, count(*) FILTER (WHERE status = 'hidden') AS hidden,
				count(*) FILTER (WHERE status = 'hidden' AND silenced) AS silenced, count(*) AS total, count(DISTINCT nullif(file, '')) AS files,
				bool_or(origin = 'returned' AND status = 'shown') AS returned, bool_and(origin = 'uncovered') AS uncovered FROM own GROUP BY cause_id)
		UPDATE cause c SET shown = coalesce(s.shown, 0), hidden = coalesce(s.hidden, 0), silenced = coalesce(s.silenced, 0), total = coalesce(s.total, 0), files = coalesce(s.files, 0),
			returned = coalesce(s.returned, false), uncovered = coalesce(s.uncovered, false), checks = coalesce(n.checks, '[]')
		FROM cause o LEFT JOIN sums s ON s.cause_id = o.id LEFT JOIN named n ON n.cause_id = o.id WHERE o.id = c.id AND c.leg_id = $2`, a.Upgrade, a.Leg)
	if err != nil {
		return fmt.Errorf("summing the causes up: %w", err)
	}
	return nil
}

func (a *Analysis) saveCauses(p analysis.Progress) (map[string]int64, error) {
	told := map[string]*triage.Cause{}
	for i := range p.Report.Causes {
		told[p.Report.Causes[i].ID] = &p.Report.Causes[i]
	}
	names := sortedNames(p.State.Causes)
	numbers := make([]int64, len(names))
	causes := a.batch()
	for i, name := range names {
		c := p.State.Causes[name]
		if t := told[name]; t != nil {
			causes.add(&numbers[i], `
				INSERT INTO cause (leg_id, name, signature, title, kind, phase, package, root, rank, reason, because, steps, known, status, first_run, since_run, into_cause, from_cause)
				VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18)
				ON CONFLICT (leg_id, name) DO UPDATE SET signature = excluded.signature, title = excluded.title, kind = excluded.kind, phase = excluded.phase,
					package = excluded.package, root = excluded.root, rank = excluded.rank, reason = excluded.reason, because = excluded.because,
					steps = excluded.steps, known = excluded.known, status = excluded.status, since_run = excluded.since_run,
					into_cause = excluded.into_cause, from_cause = excluded.from_cause
				RETURNING id`,
				a.Leg, name, utf8(t.Signature), utf8(t.Title), t.Kind, string(t.Phase), utf8(t.Package), t.Root, t.Rank, utf8(t.Reason), asJSON(t.Because), asJSON(orEmpty(t.Steps)), t.Known, string(c.Status), c.First, c.Since, c.Into, c.From)
		} else {
			causes.add(&numbers[i], `UPDATE cause SET status = $3, since_run = $4, into_cause = $5, rank = 0 WHERE leg_id = $1 AND name = $2 RETURNING id`, a.Leg, name, string(c.Status), c.Since, c.Into)
		}
	}
	if err := causes.send(); err != nil {
		return nil, fmt.Errorf("storing the causes: %w", err)
	}
	ids := map[string]int64{}
	for i, name := range names {
		ids[name] = numbers[i]
	}
	return ids, nil
}

func (a *Analysis) saveSymptoms(p analysis.Progress, ids map[string]int64) error {
	followers := map[string]bool{}
	for _, c := range p.Report.Causes {
		for _, id := range c.Followers {
			followers[id] = true
		}
	}
	because := map[string]cluster.Because{}
	for i := range p.Report.Symptoms {
		if s := &p.Report.Symptoms[i]; s.Because != nil {
			because[s.ID] = *s.Because
		}
	}
	var list [12][]string
	for _, id := range sortedNames(p.State.Symptoms) {
		t := p.State.Symptoms[id]
		row := []string{id, strconv.FormatInt(ids[t.Cause], 10), strconv.FormatBool(followers[id]), string(t.State), string(t.Status), string(t.Origin),
			fmt.Sprintf("%d:%d", t.First, t.Last), asJSON(orEmpty(t.Checks)), asJSON(t.Symptom), asJSON(because[id]), strconv.FormatBool(t.Silenced), t.Still}
		for i, v := range row {
			list[i] = append(list[i], v)
		}
	}
	_, err := a.tx.ExecContext(a.ctx, `
		INSERT INTO symptom (upgrade_id, leg_id, identity, cause_id, follower, state, status, origin, first_run, last_run, checks, facts, because, silenced, still)
		SELECT $14, $1, s.identity, nullif(s.cause::bigint, 0), s.follower::boolean, s.state, s.status, s.origin,
			split_part(s.runs, ':', 1)::int, split_part(s.runs, ':', 2)::int, s.checks::jsonb, s.facts::jsonb, s.because::jsonb, s.silenced::boolean, s.still
		FROM unnest($2::text[], $3::text[], $4::text[], $5::text[], $6::text[], $7::text[], $8::text[], $9::text[], $10::text[], $11::text[], $12::text[], $13::text[])
			AS s(identity, cause, follower, state, status, origin, runs, checks, facts, because, silenced, still)
		ON CONFLICT (upgrade_id, leg_id, identity) DO UPDATE SET cause_id = excluded.cause_id, follower = excluded.follower, state = excluded.state, status = excluded.status,
			origin = excluded.origin, last_run = excluded.last_run, checks = excluded.checks, facts = excluded.facts, because = excluded.because, silenced = excluded.silenced, still = excluded.still`,
		a.Leg, list[0], list[1], list[2], list[3], list[4], list[5], list[6], list[7], list[8], list[9], list[10], list[11], a.Upgrade)
	if err != nil {
		return fmt.Errorf("storing the symptoms: %w", err)
	}
	return nil
}

// saveLinks writes the proposed links anew; what people said of a link stays.
func (a *Analysis) saveLinks(p analysis.Progress, ids map[string]int64) error {
	links := a.batch()
	for _, c := range p.Report.Causes {
		kept := []string{}
		for _, l := range c.Links {
			kept = append(kept, l.Change)
			links.add(nil, `
				INSERT INTO link (cause_id, change, score, because) VALUES ($1, $2, $3, $4)
				ON CONFLICT (cause_id, change) DO UPDATE SET score = excluded.score, because = excluded.because`, ids[c.ID], l.Change, l.Score, asJSON(l.Because))
		}
		links.add(nil, `DELETE FROM link WHERE cause_id = $1 AND state = 'proposed' AND NOT change = ANY($2)`, ids[c.ID], kept)
	}
	if err := links.send(); err != nil {
		return fmt.Errorf("storing the links: %w", err)
	}
	return nil
}

// place ties each finding of the runs in a report to the symptom that it is one of.
func (a *Analysis) place(report *triage.Report) error {
	type place struct {
		input string // "7/build.log"
		line  int
		test  string
	}
	of := map[place]string{}
	runs := map[int]bool{}
	for _, s := range report.Symptoms {
		for _, at := range s.At {
			number, _, _ := strings.Cut(at.Input, "/")
			if n, err := strconv.Atoi(number); err == nil {
				runs[n] = true
				of[place{at.Input, at.Line, utf8(s.Test)}] = s.ID
			}
		}
	}
	rows, err := a.tx.QueryContext(a.ctx, `
		SELECT f.run_id, f.n, r.number, i.name, f.line, f.test, f.identity FROM run r JOIN finding f ON f.upgrade_id = $1 AND f.run_id = r.id JOIN input i ON i.id = f.input_id
		WHERE r.leg_id = $2 AND r.number = ANY($3)`, a.Upgrade, a.Leg, slices.Collect(maps.Keys(runs)))
	if err != nil {
		return fmt.Errorf("placing the symptoms: %w", err)
	}
	defer rows.Close()
	var ids []int64
	var ns []int
	var names []string
	for rows.Next() {
		var run int64
		var n, number int
		var p place
		var name, was string
		if err := rows.Scan(&run, &n, &number, &name, &p.line, &p.test, &was); err != nil {
			return fmt.Errorf("placing the symptoms: %w", err)
		}
		p.input = InputName(number, name)
		if id := of[p]; id != "" && id != was {
			ids, ns, names = append(ids, run), append(ns, n), append(names, id)
		}
	}
	if err := rows.Err(); err != nil {
		return fmt.Errorf("placing the symptoms: %w", err)
	}
	_, err = a.tx.ExecContext(a.ctx, `
		UPDATE finding f SET identity = p.id FROM unnest($2::bigint[], $3::int[], $4::text[]) AS p(run, n, id) WHERE f.upgrade_id = $1 AND f.run_id = p.run AND f.n = p.n`,
		a.Upgrade, ids, ns, names)
	if err != nil {
		return fmt.Errorf("placing the symptoms: %w", err)
	}
	return nil
}

// judgeFixes sets the outcome of the claimed fixes by what the run shows.
func (a *Analysis) judgeFixes(p analysis.Progress) error {
	var claims []struct {
		ID    int64  `db:"id"`
		Cause string `db:"name"`
		After int    `db:"after_run"`
		Was   string `db:"outcome"`
	}
	err := a.tx.SelectContext(a.ctx, &claims, `
		SELECT d.id, c.name, d.after_run, d.outcome FROM decision d JOIN cause c ON c.id = d.cause_id
		WHERE c.leg_id = $1 AND d.outcome IN ('claimed', 'proved') AND d.after_run < $2 AND d.id = (SELECT max(id) FROM decision WHERE cause_id = c.id AND undone_at IS NULL)
		ORDER BY d.id`, a.Leg, p.Run.Number)
	if err != nil {
		return fmt.Errorf("reading the fixes: %w", err)
	}
	for _, c := range claims {
		outcome := p.State.Judge(c.Cause, c.After, track.Outcome(c.Was))
		if string(outcome) == c.Was {
			continue
		}
		if _, err := a.tx.ExecContext(a.ctx, `UPDATE decision SET outcome = $2, outcome_run = $3 WHERE id = $1`, c.ID, outcome, p.Run.Number); err != nil {
			return fmt.Errorf("storing what became of a fix: %w", err)
		}
		if outcome == track.Proved {
			p.Delta.Proved = append(p.Delta.Proved, c.Cause)
		} else {
			p.Delta.Disproved = append(p.Delta.Disproved, c.Cause)
		}
	}
	return nil
}

func sortedNames[V any](m map[string]V) []string {
	names := make([]string, 0, len(m))
	for name := range m {
		names = append(names, name)
	}
	sort.Strings(names)
	return names
}
