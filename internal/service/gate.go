package service

import (
	"context"
	"fmt"
	"maps"
	"net/http"
	"slices"
	"strings"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/gate"
	"unicausa/internal/store"
)

// left counts the causes that are new and not cleared.
func left(causes []api.Cause) int {
	n := 0
	for _, cause := range causes {
		if !cause.Known && cause.Status != "cleared" {
			n++
		}
	}
	return n
}

func verdict(st store.Standing) api.Gate {
	v := gate.Judge(st.Leg)
	g := api.Gate{Open: v.Open, Reasons: []api.GateReason{}, Vouched: []api.Vouched{}}
	for _, r := range v.Reasons {
		g.Reasons = append(g.Reasons, reasonView(r))
	}
	for _, w := range v.Vouched {
		g.Vouched = append(g.Vouched, api.Vouched{Reason: reasonView(w.Reason), Word: w.Word.Reason, Author: w.Word.Author})
	}
	return g
}

func reasonView(r gate.Reason) api.GateReason {
	return api.GateReason{Code: r.Code, Text: r.Text, Check: r.Check, Cause: r.Cause, Key: r.Key, Path: r.Path, Members: r.Members}
}

// GetGate answers GET /upgrades/{upgrade}/gate.
func (s *Service) GetGate(c *echo.Context, id api.UpgradeID, p api.GetGateParams) error {
	ctx := c.Request().Context()
	var v api.Gate
	var err error
	if p.Target != nil && *p.Target != "" {
		v, err = s.brought(ctx, id, *p.Target)
	} else {
		v, err = s.gate(ctx, id)
	}
	if err != nil {
		return err
	}
	pending, err := s.store.Pending(ctx, id)
	if err != nil {
		return err
	}
	if pending > 0 {
		v.Open = false
		v.Reasons = append([]api.GateReason{{Code: "pending", Path: "/runs", Text: fmt.Sprintf("%d recorded runs wait to be processed", pending)}}, v.Reasons...)
	}
	held, err := s.store.Held(ctx, id)
	if err != nil {
		return err
	}
	for _, run := range slices.Sorted(maps.Keys(held)) {
		r := api.GateReason{Code: "aside", Path: fmt.Sprintf("/runs/%d", run), Text: fmt.Sprintf("run %d could not be processed, %s", run, held[run])}
		if run == 0 {
			r.Path, r.Text = "/runs", "the causes could not be drawn: "+held[run]
		}
		v.Open = false
		v.Reasons = append(v.Reasons, r)
	}
	return c.JSON(http.StatusOK, v)
}

func (s *Service) gate(ctx context.Context, id int64) (api.Gate, error) {
	causes, err := s.store.Causes(ctx, id)
	if err != nil {
		return api.Gate{}, err
	}
	standing, err := s.store.Standing(ctx, id, causes)
	return verdict(standing), err
}

// brought is the verdict on a branch: what its latest runs have that the last
// ones of the target branch have not.
func (s *Service) brought(ctx context.Context, id int64, target string) (api.Gate, error) {
	g := api.Gate{Reasons: []api.GateReason{}, Vouched: []api.Vouched{}}
	runs, err := s.store.Runs(ctx, id)
	if err != nil {
		return g, err
	}
	latest, base := map[string]api.Run{}, map[string]api.Run{}
	var checks []string
	for _, r := range runs { // the latest first
		known, on := latest[r.Facts.Check]
		_, told := base[r.Facts.Check]
		switch {
		case r.Status != "processed":
		case r.Facts.Branch == target && !told:
			base[r.Facts.Check] = r
		case r.Facts.Branch != target && !on && known.Number == 0 && !told:
			latest[r.Facts.Check] = r
			checks = append(checks, r.Facts.Check)
		}
	}
	for _, check := range checks {
		was, ok := base[check]
		if !ok {
			g.Reasons = append(g.Reasons, api.GateReason{Code: "no-target", Check: check, Path: "/runs", Text: fmt.Sprintf("%s has no run on %s to compare with: record it there first", check, target)})
			continue
		}
		if latest[check].Facts.Informative {
			continue
		}
		compared, err := s.compare(ctx, id, was.Number, latest[check].Number)
		if err != nil {
			return g, err
		}
		path := comparison(was.Number, latest[check].Number)
		for _, m := range compared.Symptoms {
			if m.State == "new" {
				g.Reasons = append(g.Reasons, api.GateReason{Code: "brought", Check: check, Path: path, Text: fmt.Sprintf("%s: %s%s", check, place(m), headline(m.Message))})
			}
		}
		for _, lost := range compared.Lost {
			g.Reasons = append(g.Reasons, api.GateReason{Code: gate.LostTest, Check: check, Path: path, Text: check + ": " + lost})
		}
	}
	if len(checks) == 0 {
		g.Reasons = append(g.Reasons, api.GateReason{Code: gate.NotRun, Path: "/runs", Text: fmt.Sprintf("no check was run on another branch than %s since", target)})
	}
	g.Open = len(g.Reasons) == 0
	return g, nil
}

// comparison is the page that sets two runs against each other.
func comparison(earlier, later int) string { return fmt.Sprintf("/compare/%d/%d", earlier, later) }

func place(m api.Compared) string {
	switch {
	case m.Test != "":
		return m.Test + ": "
	case m.File != "" && m.Line > 0:
		return fmt.Sprintf("%s:%d: ", m.File, m.Line)
	case m.File != "":
		return m.File + ": "
	}
	return ""
}

// headline is the first line of a message.
func headline(message string) string {
	first, _, _ := strings.Cut(message, "\n")
	return first
}
