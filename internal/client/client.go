// Package client speaks to a service over its API: the generated client with
// plain results, errors in words, and uploads that stream.
package client

import (
	"bufio"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"strings"
	"time"

	"unicausa/internal/api"
)

// Client speaks to one service.
type Client struct {
	server string
	api    *api.ClientWithResponses
}

// New makes a client of the service at an address such as http://127.0.0.1:7236, which
// knows who asks by a token.
func New(server, token string) (*Client, error) {
	server = strings.TrimRight(server, "/")
	if !strings.Contains(server, "://") {
		server = "http://" + server
	}
	known := func(_ context.Context, r *http.Request) error {
		r.Header.Set("X-Requested-By", "unicausa")
		if token != "" {
			r.Header.Set("Authorization", "Bearer "+token)
		}
		return nil
	}
	generated, err := api.NewClientWithResponses(server+"/api/v1", api.WithRequestEditorFn(known))
	if err != nil {
		return nil, fmt.Errorf("the server's address %q: %w", server, err)
	}
	return &Client{server: server, api: generated}, nil
}

// Server is the service's address.
func (c *Client) Server() string { return c.server }

// Unavailable is the error of a service, or of its database, that does not answer at the
// moment.
type Unavailable struct{ err error }

func (u *Unavailable) Error() string { return u.err.Error() }

// problem turns an answer that is no success into an error.
func (c *Client) problem(status int, body []byte) error {
	var p api.Problem
	if json.Unmarshal(body, &p) == nil && p.Detail != "" {
		if status == http.StatusServiceUnavailable {
			return &Unavailable{errors.New(p.Detail)}
		}
		return errors.New(p.Detail)
	}
	return fmt.Errorf("the service at %s answered with status %d", c.server, status)
}

// result picks the value of an answer, or the problem that came instead.
func result[T any](c *Client, v *T, body []byte, answer *http.Response) (T, error) {
	if v == nil {
		var none T
		return none, c.problem(answer.StatusCode, body)
	}
	return *v, nil
}

func (c *Client) unreachable(err error) error {
	return &Unavailable{fmt.Errorf("the service at %s does not answer: %w (start it with: unicausa serve)", c.server, err)}
}

// Begin begins an upgrade.
func (c *Client) Begin(ctx context.Context, n api.NewUpgrade) (api.Upgrade, error) {
	r, err := c.api.BeginUpgradeWithResponse(ctx, n)
	if err != nil {
		return api.Upgrade{}, c.unreachable(err)
	}
	return result(c, r.JSON201, r.Body, r.HTTPResponse)
}

// Upgrades lists the upgrades, the latest first.
func (c *Client) Upgrades(ctx context.Context) ([]api.UpgradeRow, error) {
	r, err := c.api.ListUpgradesWithResponse(ctx)
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Overview says where an upgrade stands.
func (c *Client) Overview(ctx context.Context, upgrade int64) (api.Overview, error) {
	r, err := c.api.GetUpgradeWithResponse(ctx, upgrade)
	if err != nil {
		return api.Overview{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Gate asks for the verdict; with a target branch, only for what came since its
// last runs.
func (c *Client) Gate(ctx context.Context, upgrade int64, target string) (api.Gate, error) {
	r, err := c.api.GetGateWithResponse(ctx, upgrade, &api.GetGateParams{Target: &target})
	if err != nil {
		return api.Gate{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Runs lists the runs, the latest first.
func (c *Client) Runs(ctx context.Context, upgrade int64) ([]api.Run, error) {
	r, err := c.api.ListRunsWithResponse(ctx, upgrade)
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Run is one run.
func (c *Client) Run(ctx context.Context, upgrade int64, number int) (api.Run, error) {
	r, err := c.api.GetRunWithResponse(ctx, upgrade, number)
	if err != nil {
		return api.Run{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// RunSymptoms lists what a run shows, in the order of its lines.
func (c *Client) RunSymptoms(ctx context.Context, upgrade int64, number int) ([]api.RunSymptom, error) {
	r, err := c.api.ListRunSymptomsWithResponse(ctx, upgrade, number)
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Compare compares two runs.
func (c *Client) Compare(ctx context.Context, upgrade int64, earlier, later int) (api.Comparison, error) {
	r, err := c.api.CompareRunsWithResponse(ctx, upgrade, later, earlier)
	if err != nil {
		return api.Comparison{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Tests sets every test against every run.
func (c *Client) Tests(ctx context.Context, upgrade int64) (api.TestTable, error) {
	r, err := c.api.ListTestsWithResponse(ctx, upgrade)
	if err != nil {
		return api.TestTable{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// ErrWaiting says that a run is stored and was not processed in time.
var ErrWaiting = errors.New("stored, and not processed yet")

// patience is how long a service that has answered before may not answer.
const patience = 30 * time.Second

// Processed waits until a run has been processed or set aside. When ctx runs out of its
// time it returns ErrWaiting. A service that answered before and does not for a while is
// asked again.
func (c *Client) Processed(ctx context.Context, upgrade int64, number int) (api.Run, error) {
	var answered time.Time
	for pause := 10 * time.Millisecond; ; pause = min(2*pause, 100*time.Millisecond) {
		run, err := c.Run(ctx, upgrade, number)
		var passing *Unavailable
		switch {
		case err == nil && run.Status != "stored":
			return run, nil
		case err == nil:
			answered = time.Now()
		case ctx.Err() == nil && (!errors.As(err, &passing) || time.Since(answered) > patience):
			return run, err
		}
		select {
		case <-ctx.Done():
			if errors.Is(ctx.Err(), context.DeadlineExceeded) {
				return run, fmt.Errorf("run %d is %w", number, ErrWaiting)
			}
			return run, ctx.Err()
		case <-time.After(pause):
		}
	}
}

// Retry tries again what was set aside, or one run of it.
func (c *Client) Retry(ctx context.Context, upgrade int64, r api.Retry) (api.Retried, error) {
	a, err := c.api.RetryAsideWithResponse(ctx, upgrade, r)
	if err != nil {
		return api.Retried{}, c.unreachable(err)
	}
	return result(c, a.JSON200, a.Body, a.HTTPResponse)
}

// AcceptBaseline accepts the latest run of every check.
func (c *Client) AcceptBaseline(ctx context.Context, upgrade int64) ([]api.Run, error) {
	r, err := c.api.AcceptBaselineWithResponse(ctx, upgrade)
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// AddNotes adds release notes.
func (c *Client) AddNotes(ctx context.Context, upgrade int64, n api.NewNotes) (api.Notes, error) {
	r, err := c.api.AddNotesWithResponse(ctx, upgrade, n)
	if err != nil {
		return api.Notes{}, c.unreachable(err)
	}
	return result(c, r.JSON201, r.Body, r.HTTPResponse)
}

// Causes lists the causes in the order to tackle them.
func (c *Client) Causes(ctx context.Context, upgrade int64) ([]api.Cause, error) {
	r, err := c.api.ListCausesWithResponse(ctx, upgrade, &api.ListCausesParams{})
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Cause is one cause with all that belongs to it.
func (c *Client) Cause(ctx context.Context, upgrade int64, cause string) (api.CauseDetail, error) {
	r, err := c.api.GetCauseWithResponse(ctx, upgrade, cause)
	if err != nil {
		return api.CauseDetail{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// JudgeLink confirms or rejects a link.
func (c *Client) JudgeLink(ctx context.Context, upgrade int64, cause, change string, j api.LinkJudgement) (api.CauseDetail, error) {
	r, err := c.api.JudgeLinkWithResponse(ctx, upgrade, cause, change, j)
	if err != nil {
		return api.CauseDetail{}, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Decide decides on a cause.
func (c *Client) Decide(ctx context.Context, upgrade int64, cause string, d api.NewDecision) (api.CauseDetail, error) {
	r, err := c.api.DecideWithResponse(ctx, upgrade, cause, d)
	if err != nil {
		return api.CauseDetail{}, c.unreachable(err)
	}
	return result(c, r.JSON201, r.Body, r.HTTPResponse)
}

// DecideAll takes one decision on several causes.
func (c *Client) DecideAll(ctx context.Context, upgrade int64, causes []string, d api.NewDecision) ([]api.Cause, error) {
	r, err := c.api.DecideAllWithResponse(ctx, upgrade, api.NewDecisions{Causes: causes, Decision: d})
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON201, r.Body, r.HTTPResponse)
}

// Corrections lists what people said of where symptoms belong, the latest first.
func (c *Client) Corrections(ctx context.Context, upgrade int64) ([]api.Correction, error) {
	r, err := c.api.ListCorrectionsWithResponse(ctx, upgrade)
	if err != nil {
		return nil, c.unreachable(err)
	}
	return result(c, r.JSON200, r.Body, r.HTTPResponse)
}

// Correct says where symptoms belong.
func (c *Client) Correct(ctx context.Context, upgrade int64, n api.NewCorrection) (api.Correction, error) {
	r, err := c.api.CorrectWithResponse(ctx, upgrade, n)
	if err != nil {
		return api.Correction{}, c.unreachable(err)
	}
	return result(c, r.JSON201, r.Body, r.HTTPResponse)
}

// UndoCorrection takes a correction back.
func (c *Client) UndoCorrection(ctx context.Context, upgrade, correction int64) error {
	r, err := c.api.UndoCorrectionWithResponse(ctx, upgrade, correction)
	if err != nil {
		return c.unreachable(err)
	}
	if r.StatusCode() != http.StatusNoContent {
		_, err = result[struct{}](c, nil, r.Body, r.HTTPResponse)
	}
	return err
}

// NotesLines reads lines of a document.
func (c *Client) NotesLines(ctx context.Context, upgrade, notes int64, from, count int) ([]string, error) {
	r, err := c.api.GetNotesLinesWithResponse(ctx, upgrade, notes, &api.GetNotesLinesParams{From: &from, Count: &count})
	if err != nil {
		return nil, c.unreachable(err)
	}
	lines, err := result(c, r.JSON200, r.Body, r.HTTPResponse)
	return lines.Lines, err
}

// Input is one output to send.
type Input struct {
	Name    string
	Content io.Reader
}

// Record sends a run while its inputs are read. Sent is told of every piece
// that was sent, in bytes; it may be nil.
func (c *Client) Record(ctx context.Context, upgrade int64, facts api.RunFacts, inputs []Input, source []byte, sent func(n int), pictures ...Input) (api.Run, error) {
	reader, writer := io.Pipe()
	form := multipart.NewWriter(writer)
	go func() { writer.CloseWithError(send(form, facts, inputs, pictures, source, sent)) }()
	defer reader.Close()
	r, err := c.api.RecordRunWithBodyWithResponse(ctx, upgrade, form.FormDataContentType(), reader)
	if err != nil {
		return api.Run{}, c.unreachable(err)
	}
	run := r.JSON201
	if run == nil {
		run = r.JSON200
	}
	return result(c, run, r.Body, r.HTTPResponse)
}

func send(form *multipart.Writer, facts api.RunFacts, inputs, pictures []Input, source []byte, sent func(int)) error {
	part, err := form.CreateFormField("run")
	if err == nil {
		err = json.NewEncoder(part).Encode(facts)
	}
	if err != nil {
		return err
	}
	for field, files := range [][]Input{inputs, pictures} {
		for _, in := range files {
			part, err := form.CreateFormFile([]string{"input", "picture"}[field], in.Name)
			if err != nil {
				return err
			}
			if _, err := io.Copy(part, &told{in.Content, sent}); err != nil {
				return fmt.Errorf("reading %s: %w", in.Name, err)
			}
		}
	}
	if source != nil {
		part, err := form.CreateFormFile("source", "source.zip")
		if err == nil {
			_, err = part.Write(source)
		}
		if err != nil {
			return err
		}
	}
	return form.Close()
}

// told tells how much was read.
type told struct {
	r    io.Reader
	sent func(int)
}

func (t *told) Read(p []byte) (int, error) {
	n, err := t.r.Read(p)
	if t.sent != nil && n > 0 {
		t.sent(n)
	}
	return n, err
}

// Follow calls changed for every event of an upgrade, until the stream or ctx ends.
func (c *Client) Follow(ctx context.Context, upgrade int64, changed func()) error {
	r, err := c.api.FollowEvents(ctx, upgrade, &api.FollowEventsParams{})
	if err != nil {
		return c.unreachable(err)
	}
	defer r.Body.Close()
	lines := bufio.NewScanner(r.Body)
	for lines.Scan() {
		if strings.HasPrefix(lines.Text(), "data:") {
			changed()
		}
	}
	return lines.Err()
}
