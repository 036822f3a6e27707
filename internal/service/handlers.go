package service

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"reflect"
	"regexp"
	"slices"
	"strings"

	"github.com/labstack/echo/v5"
	"golang.org/x/sync/errgroup"

	"unicausa/internal/access"
	"unicausa/internal/api"
	"unicausa/internal/core/casebook"
	"unicausa/internal/core/gate"
	"unicausa/internal/core/track"
	"unicausa/internal/report"
	"unicausa/internal/store"
	"unicausa/internal/view"
)

var _ api.ServerInterface = (*Service)(nil)

// bad is an error that the caller can mend.
func bad(format string, args ...any) error {
	return echo.NewHTTPError(http.StatusBadRequest, fmt.Sprintf(format, args...))
}

// body reads a JSON body, as said by who signed in.
func body[T any](c *echo.Context) (T, error) {
	var v T
	c.Request().Body = http.MaxBytesReader(c.Response(), c.Request().Body, 32<<20)
	if err := c.Bind(&v); err != nil {
		return v, bad("the body is not the JSON that is wanted here: %v", err)
	}
	sign(reflect.ValueOf(&v).Elem(), who(c).Name)
	return v, nil
}

// ListUpgrades answers GET /upgrades.
func (s *Service) ListUpgrades(c *echo.Context) error {
	ctx := c.Request().Context()
	upgrades, err := s.store.Upgrades(ctx)
	if err != nil {
		return err
	}
	rows := make([]api.UpgradeRow, 0, len(upgrades))
	for _, u := range upgrades {
		if !who(c).May(access.Reader, u.Project) {
			continue
		}
		causes, err := s.store.Causes(ctx, u.ID)
		if err != nil {
			return err
		}
		standing, err := s.store.Standing(ctx, u.ID, causes)
		if err != nil {
			return err
		}
		history, err := s.store.History(ctx, u.ID)
		if err != nil {
			return err
		}
		runs, err := s.store.Runs(ctx, u.ID)
		if err != nil {
			return err
		}
		rows = append(rows, view.UpgradeRow(u, view.Gate(gate.Judge(standing.Leg)), causes, runs, history))
	}
	return c.JSON(http.StatusOK, rows)
}

// BeginUpgrade answers POST /upgrades.
func (s *Service) BeginUpgrade(c *echo.Context) error {
	n, err := body[api.NewUpgrade](c)
	if err != nil {
		return err
	}
	n.Project, n.Name = strings.TrimSpace(n.Project), strings.TrimSpace(n.Name)
	switch {
	case n.Project == "":
		return bad("project is empty: name the code base")
	case n.Name == "":
		return bad("name is empty: name the upgrade, for example by what it moves")
	case len(n.Moves) == 0:
		return bad("moves is empty: say which package goes from which version to which")
	}
	for _, m := range n.Moves {
		if m.Package == "" {
			return bad("a move has no package")
		}
	}
	if !who(c).May(access.Writer, n.Project) {
		return refused(http.StatusForbidden, "role", "%s may not begin an upgrade of %s: it takes the role writer", who(c).Name, n.Project)
	}
	u, err := s.store.Begin(c.Request().Context(), n.Project, n.Name, view.GivenMoves(n.Moves))
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, view.Upgrade(u))
}

// GetUpgrade answers GET /upgrades/{upgrade}.
func (s *Service) GetUpgrade(c *echo.Context, id api.UpgradeID) error {
	return answer(c)(s.overview(c.Request().Context(), id))
}

// GetHead answers GET /upgrades/{upgrade}/head.
func (s *Service) GetHead(c *echo.Context, id api.UpgradeID) error {
	u, err := s.store.Upgrade(c.Request().Context(), id)
	if err != nil {
		return err
	}
	event, err := s.store.LastEvent(c.Request().Context(), id)
	return answer(c)(api.Head{Upgrade: view.Upgrade(u), LastEvent: event}, err)
}

// overview is where an upgrade stands.
func (s *Service) overview(ctx context.Context, id int64) (api.Overview, error) {
	var o api.Overview
	u, err := s.store.Upgrade(ctx, id)
	if err != nil {
		return o, err
	}
	o.Upgrade = view.Upgrade(u)
	// The event is read first: what happens while the rest is read is told again.
	if o.LastEvent, err = s.store.LastEvent(ctx, id); err != nil {
		return o, err
	}
	var reads errgroup.Group
	reads.Go(func() error {
		history, err := s.store.History(ctx, id)
		o.History = view.History(history)
		return err
	})
	reads.Go(func() error {
		debts, err := s.store.Debts(ctx, id)
		if err != nil {
			return err
		}
		o.Due = view.DueDebts(debts)
		o.Pending, err = s.store.Pending(ctx, id)
		return err
	})
	reads.Go(func() error {
		legs, err := s.store.Legs(ctx, id)
		o.Legs = view.Legs(legs)
		return err
	})
	causes, err := s.store.Causes(ctx, id)
	if err == nil {
		err = s.stand(ctx, id, causes, &o)
	}
	if failed := reads.Wait(); err == nil {
		err = failed
	}
	return o, err
}

// stand fills in where an upgrade stands with its causes: the gate, the checks, what is
// left to do.
func (s *Service) stand(ctx context.Context, id int64, causes []store.Cause, o *api.Overview) error {
	standing, err := s.store.Standing(ctx, id, causes)
	if err != nil {
		return err
	}
	o.Gate, o.Checks = view.Gate(gate.Judge(standing.Leg)), view.Checks(standing.Checks)
	o.Causes, o.Counts = mainCauses(causes)
	o.Gate.Reasons, o.Gate.More = mainReasons(o.Gate.Reasons)
	if o.Preparation, err = s.preparation(ctx, id, standing); err != nil {
		return err
	}
	if slices.ContainsFunc(standing.Checks, func(c store.Check) bool { return c.Latest != nil && c.Baseline != nil }) {
		o.Preparation = []api.Preparation{}
	}
	return nil
}

// ListRuns answers GET /upgrades/{upgrade}/runs.
func (s *Service) ListRuns(c *echo.Context, id api.UpgradeID) error {
	return answerAs(c, view.Runs)(s.store.Runs(c.Request().Context(), id))
}

// GetRun answers GET /upgrades/{upgrade}/runs/{run}.
func (s *Service) GetRun(c *echo.Context, id api.UpgradeID, run api.RunID) error {
	return answerAs(c, view.Run)(s.store.Run(c.Request().Context(), id, run))
}

// answer gives a handler's result with status 200, or its error.
func answer(c *echo.Context) func(v any, err error) error {
	return func(v any, err error) error {
		if err != nil {
			return err
		}
		return c.JSON(http.StatusOK, v)
	}
}

// answerAs gives a view of a handler's result with status 200, or its error.
func answerAs[T, V any](c *echo.Context, view func(T) V) func(v T, err error) error {
	return func(v T, err error) error {
		if err != nil {
			return err
		}
		return c.JSON(http.StatusOK, view(v))
	}
}

// AcceptBaseline answers POST /upgrades/{upgrade}/baseline.
func (s *Service) AcceptBaseline(c *echo.Context, id api.UpgradeID) error {
	return answerAs(c, view.Runs)(s.store.AcceptBaseline(c.Request().Context(), id, who(c).Name))
}

// ListNotes answers GET /upgrades/{upgrade}/notes.
func (s *Service) ListNotes(c *echo.Context, id api.UpgradeID) error {
	return answerAs(c, view.Notes)(s.store.Notes(c.Request().Context(), id))
}

// AddNotes answers POST /upgrades/{upgrade}/notes.
func (s *Service) AddNotes(c *echo.Context, id api.UpgradeID) error {
	n, err := body[api.NewNotes](c)
	if err != nil {
		return err
	}
	switch {
	case strings.TrimSpace(n.Name) == "":
		return bad("name is empty: give the document's file name")
	case strings.TrimSpace(n.Text) == "":
		return bad("%s is empty: there is nothing to read in it", n.Name)
	case strings.ContainsRune(n.Text, 0):
		return bad("%s is a binary file: give Markdown, HTML, reStructuredText or plain text", n.Name)
	}
	added, err := s.addNotes(c.Request().Context(), id, store.NewNotes{Name: n.Name, Package: n.Package, Text: n.Text})
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, view.Document(added))
}

// The most lines that one answer holds, and how many without a count.
const (
	mostLines  = 5000
	someLines  = 200
	lineNotice = "from and count are whole numbers of 1 or more, count at most 5000"
)

func window(from, count *int) (int, int, error) {
	f, n := 1, someLines
	if from != nil {
		f = *from
	}
	if count != nil {
		n = *count
	}
	if f < 1 || n < 1 || n > mostLines {
		return 0, 0, bad(lineNotice)
	}
	return f, n, nil
}

// GetNotesLines answers GET /upgrades/{upgrade}/notes/{notes}/lines.
func (s *Service) GetNotesLines(c *echo.Context, id api.UpgradeID, document api.NotesID, p api.GetNotesLinesParams) error {
	from, count, err := window(p.From, p.Count)
	if err != nil {
		return err
	}
	return answerAs(c, view.Lines)(s.store.NotesLines(c.Request().Context(), id, document, from, count))
}

// GetInputLines answers GET /upgrades/{upgrade}/inputs/{input}/lines.
func (s *Service) GetInputLines(c *echo.Context, id api.UpgradeID, input api.InputID, p api.GetInputLinesParams) error {
	from, count, err := window(p.From, p.Count)
	if err != nil {
		return err
	}
	return answerAs(c, view.Lines)(s.store.InputLines(c.Request().Context(), id, input, from, count))
}

// What an overview has of long lists: the rest is counted.
const (
	mostListed  = 50
	mostLargest = 12
)

// mainCauses are the causes that an overview shows, in their order, and how many there are.
func mainCauses(all []store.Cause) ([]api.Cause, api.CauseCounts) {
	var counts api.CauseCounts
	kept := map[string]bool{}
	var open []store.Cause
	for _, c := range all {
		count := &counts.Open
		switch {
		case c.Known:
			count = &counts.Known
		case c.Status == string(track.Cleared):
			count = &counts.Cleared
		default:
			open = append(open, c)
		}
		if *count++; *count <= mostListed {
			kept[c.Name] = true
		}
	}
	slices.SortStableFunc(open, func(a, b store.Cause) int { return b.Shown + b.Hidden - a.Shown - a.Hidden })
	for _, c := range open[:min(len(open), mostLargest)] {
		kept[c.Name] = true
	}
	var list []store.Cause
	for _, c := range all {
		if kept[c.Name] {
			list = append(list, c)
		}
	}
	return view.Causes(list), counts
}

// mainReasons are the reasons that an overview shows, and how many causes it leaves out.
func mainReasons(all []api.GateReason) (list []api.GateReason, more int) {
	list, causes := []api.GateReason{}, 0
	for _, r := range all {
		if r.Cause != "" {
			if causes++; causes > mostListed {
				more++
				continue
			}
		}
		list = append(list, r)
	}
	return list, more
}

// ListCauses answers GET /upgrades/{upgrade}/causes.
func (s *Service) ListCauses(c *echo.Context, id api.UpgradeID, p api.ListCausesParams) error {
	if p.Leg != nil {
		return answerAs(c, view.Causes)(s.store.CausesOf(c.Request().Context(), id, *p.Leg))
	}
	return answerAs(c, view.Causes)(s.store.Causes(c.Request().Context(), id))
}

var causeName = regexp.MustCompile(`^C[0-9]+$`)

// GetCause answers GET /upgrades/{upgrade}/causes/{cause}.
func (s *Service) GetCause(c *echo.Context, id api.UpgradeID, cause api.CauseID) error {
	if !causeName.MatchString(cause) {
		return bad("%q is no cause: they are named C1, C2 and so on", cause)
	}
	detail, err := s.cause(c.Request().Context(), id, cause)
	detail.Elsewhere = slices.DeleteFunc(detail.Elsewhere, func(e api.Elsewhere) bool { return !who(c).May(access.Reader, e.Project) })
	return answer(c)(detail, err)
}

// cause is a cause with how it went in other upgrades, its commits, and a
// message for the next one.
func (s *Service) cause(ctx context.Context, id int64, name string) (api.CauseDetail, error) {
	stored, err := s.store.Cause(ctx, id, name)
	if err != nil {
		return api.CauseDetail{}, err
	}
	detail := view.CauseDetail(stored)
	cases, err := s.store.Cases(ctx, id)
	if err != nil {
		return detail, err
	}
	detail.Cases = view.Cases(casebook.Matching(cases, stored.Cause.Signature))
	commits, err := s.store.Commits(ctx, id)
	if err != nil {
		return detail, err
	}
	detail.Commits = view.Commits(slices.DeleteFunc(commits, func(c store.Commit) bool { return !c.About(name) }))
	runs, err := s.store.Runs(ctx, id)
	if err != nil {
		return detail, err
	}
	picture(&detail, runs)
	detail.Message = report.CommitMessage(&detail)
	u, err := s.store.Upgrade(ctx, id)
	if err != nil {
		return detail, err
	}
	of := view.Upgrade(u)
	detail.Question, detail.Upstream = report.Question(&detail, &of), report.UpstreamReport(&detail, &of)
	elsewhere, err := s.store.Elsewhere(ctx, id, stored.Cause.Signature)
	if err != nil {
		return detail, err
	}
	detail.Elsewhere = view.Elsewhere(elsewhere)
	a, err := s.store.Inspect(ctx, id)
	if err != nil {
		return detail, err
	}
	defer a.Cancel()
	detail.Ready, err = notReadyFor(a, stored.Symptoms)
	return detail, err
}

// JudgeLink answers PUT /upgrades/{upgrade}/causes/{cause}/links/{change}.
func (s *Service) JudgeLink(c *echo.Context, id api.UpgradeID, cause api.CauseID, change api.ChangeID) error {
	j, err := body[api.LinkJudgement](c)
	if err != nil {
		return err
	}
	if !j.State.Valid() {
		return bad("state is %q: give proposed, confirmed or rejected", j.State)
	}
	if err := s.store.JudgeLink(c.Request().Context(), id, cause, change, store.Judgement{State: string(j.State), Was: string(j.Was), Author: j.Author}); err != nil {
		return err
	}
	return answer(c)(s.cause(c.Request().Context(), id, cause))
}

// ListCorrections answers GET /upgrades/{upgrade}/corrections.
func (s *Service) ListCorrections(c *echo.Context, id api.UpgradeID) error {
	return answerAs(c, view.Corrections)(s.store.Corrections(c.Request().Context(), id))
}

// Correct answers POST /upgrades/{upgrade}/corrections.
func (s *Service) Correct(c *echo.Context, id api.UpgradeID) error {
	n, err := body[api.NewCorrection](c)
	if err != nil {
		return err
	}
	switch {
	case !n.Kind.Valid():
		return bad("kind is %q: give move, split, merge or pin", n.Kind)
	case n.Kind == "merge" && n.From == "":
		return bad("from is empty: name the cause that is merged into %s", n.Cause)
	case n.Kind != "merge" && len(n.Symptoms) == 0:
		return bad("symptoms is empty: name those to %s by their IDs", n.Kind)
	}
	made, err := s.store.Correct(c.Request().Context(), id, store.NewCorrection{Kind: string(n.Kind), From: n.From, Cause: n.Cause, Reason: n.Reason, Author: n.Author, Symptoms: n.Symptoms})
	if errors.Is(err, store.ErrRefused) {
		return bad("%s", strings.TrimPrefix(err.Error(), store.ErrRefused.Error()+": "))
	}
	if err != nil {
		return err
	}
	return c.JSON(http.StatusCreated, view.Correction(made))
}

// UndoCorrection answers DELETE /upgrades/{upgrade}/corrections/{correction}.
func (s *Service) UndoCorrection(c *echo.Context, id api.UpgradeID, correction api.CorrectionID) error {
	if err := s.store.UndoCorrection(c.Request().Context(), id, correction, who(c).Name); err != nil {
		return err
	}
	return c.NoContent(http.StatusNoContent)
}

// GetReport answers GET /upgrades/{upgrade}/report.
func (s *Service) GetReport(c *echo.Context, id api.UpgradeID) error {
	return answer(c)(s.worker.report(c.Request().Context(), id))
}
