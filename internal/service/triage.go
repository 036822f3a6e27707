package service

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"os"
	"runtime"
	"strings"
	"time"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/core/guard"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/secret"
	"unicausa/internal/core/source"
	"unicausa/internal/core/triage"
	"unicausa/internal/core/versions"
	"unicausa/internal/report"
	"unicausa/internal/view"
)

// Bounds on a triage that is not stored.
const (
	triageTime   = 150 * time.Second // to draw the causes, once all has come
	mostNotes    = 16 << 20          // bytes of one document
	mostLock     = 32 << 20          // bytes of one lock file
	mostAnswered = 200               // symptoms of one cause in the answer
)

// triaging are the triages that are being drawn: on all cores but one.
var triaging = make(chan struct{}, max(1, runtime.GOMAXPROCS(0)-1))

// loose is what was sent to be looked at and not to be kept.
type loose struct {
	facts         api.TriageFacts
	source        *source.Tree
	locks         [2]map[string][]byte // before and after
	notes         []looseNotes
	before, after []read.Result
	archive       *os.File
}

type looseNotes struct{ name, text string }

// Triage answers POST /triage: everything is read while it arrives, and nothing is stored.
func (s *Service) Triage(c *echo.Context, p api.TriageParams) error {
	receiving(c, s.config.MaxUpload)
	parts, err := c.Request().MultipartReader()
	if err != nil {
		return bad("what is looked at is sent as multipart/form-data, the part facts first: %v", err)
	}
	l := loose{locks: [2]map[string][]byte{{}, {}}}
	defer l.close()
	if err := l.receive(parts); err != nil {
		return err
	}
	received(c)
	ctx, cancel := context.WithTimeoutCause(c.Request().Context(), triageTime, fmt.Errorf("drawing the causes took longer than %s: begin an upgrade and record the outputs there", triageTime))
	defer cancel()
	select {
	case triaging <- struct{}{}:
		defer func() { <-triaging }()
	case <-ctx.Done():
		return context.Cause(ctx)
	}
	answer, texts, err := l.draw(ctx)
	if err != nil && ctx.Err() != nil {
		return context.Cause(ctx)
	}
	if err != nil {
		return err
	}
	if p.Format != nil {
		return writeReport(c, string(*p.Format), &answer.Report, texts)
	}
	answer.Report.Symptoms = firstOfEach(&answer.Report)
	return c.JSON(http.StatusOK, answer)
}

// writeReport answers with a report as a file.
func writeReport(c *echo.Context, format string, r *triage.Report, texts report.Texts) error {
	f, ok := report.Formats[format]
	if !ok {
		return bad("there is no report as %q: ask for json, markdown, html, sarif or text", format)
	}
	c.Response().Header().Set("Content-Type", f.Media)
	c.Response().WriteHeader(http.StatusOK)
	return f.Write(c.Response(), r, texts)
}

func (l *loose) close() {
	if l.archive != nil {
		l.archive.Close()
	}
}

// receive reads the parts.
func (l *loose) receive(parts *multipart.Reader) error {
	part, err := parts.NextPart()
	if err != nil {
		return broken(err)
	}
	if part.FormName() != "facts" {
		return bad("the first part is %q: it has to be facts, which says as JSON what moves", part.FormName())
	}
	if err := json.NewDecoder(io.LimitReader(part, mostFacts)).Decode(&l.facts); err != nil {
		return bad("the part facts is not the JSON that is wanted here: %v", err)
	}
	for {
		part, err := parts.NextPart()
		if err == io.EOF {
			break
		}
		if err != nil {
			return broken(err)
		}
		if len(l.before)+len(l.after)+len(l.notes) > mostInputs {
			return bad("there are more than %d files", mostInputs)
		}
		if err := l.part(part); err != nil {
			return broken(err)
		}
	}
	if len(l.after) == 0 {
		return bad("there is no output of after the bump: send what a check printed as the part after")
	}
	return nil
}

func (l *loose) part(part *multipart.Part) error {
	name := inputName(part)
	masked := secret.NewReader(&secret.Masker{}, part)
	outputs := len(l.before)+len(l.after) > 0
	switch part.FormName() {
	case "source":
		if outputs {
			return bad("the source came behind an output: send it first")
		}
		return l.takeSource(part)
	case "lock-before", "lock-after":
		side := 0
		if part.FormName() == "lock-after" {
			side = 1
		}
		if outputs {
			return bad("the lock file %s came behind an output: send it first", name)
		}
		text, err := whole(masked, mostLock, name)
		l.locks[side][name] = text
		return err
	case "notes":
		text, err := whole(masked, mostNotes, name)
		if err == nil && bytes.IndexByte(text[:min(len(text), 8<<10)], 0) >= 0 {
			err = bad("the notes %s are a binary file: send Markdown, HTML, reStructuredText or plain text", name)
		}
		l.notes = append(l.notes, looseNotes{name: name, text: string(text)})
		return err
	case "before", "after":
		project := read.Project{}
		if l.source != nil {
			project.Holds = l.source.Holds
		}
		result, err := read.ForProject(project, name, masked)
		switch {
		case err != nil:
			return err
		case result.Format == read.FormatBinary:
			return bad("%s: %s", name, result.Problem)
		case part.FormName() == "before":
			l.before = append(l.before, result)
		default:
			l.after = append(l.after, result)
		}
		return nil
	}
	return bad("there is a part %q: facts, source, lock-before, lock-after, notes, before and after are known", part.FormName())
}

// whole reads a part that is kept in memory.
func whole(r io.Reader, most int64, name string) ([]byte, error) {
	data, err := io.ReadAll(io.LimitReader(r, most+1))
	if err == nil && int64(len(data)) > most {
		err = bad("%s is larger than %d MiB", name, most>>20)
	}
	return data, err
}

// takeSource takes the source tree.
func (l *loose) takeSource(part io.Reader) error {
	file, err := os.CreateTemp("", "unicausa-source")
	if err != nil {
		return fmt.Errorf("keeping the source tree: %w", err)
	}
	os.Remove(file.Name())
	l.archive = file
	if err := packed(part, file); err != nil {
		return err
	}
	size, err := file.Seek(0, io.SeekEnd)
	if err != nil {
		return fmt.Errorf("keeping the source tree: %w", err)
	}
	archive, err := openSource(file, size)
	if err != nil {
		return err
	}
	if l.source, err = source.NewTree(archive); err != nil {
		return bad("the part source cannot be read: %v", err)
	}
	return nil
}

// draw draws the causes.
func (l *loose) draw(ctx context.Context) (api.Triage, report.Texts, error) {
	moves := view.GivenMoves(l.facts.Moves)
	answer := api.Triage{Offered: []api.OfferedMove{}, Packages: map[string]string{}}
	before, after := source.Of(l.locks[0]), source.Of(l.locks[1])
	if l.source != nil && len(l.locks[1]) == 0 {
		after = l.source
	}
	was, is := versions.Read(before), versions.Read(after)
	answer.Problems = append(append([]string{}, was.Problems...), is.Problems...)
	offered := versions.Offer(was, is, said(l.before), said(l.after))
	for _, o := range offered {
		answer.Offered = append(answer.Offered, api.OfferedMove{Package: o.Package, From: o.From, To: o.To, Said: o.Said})
		if len(l.facts.Moves) == 0 {
			moves = append(moves, versions.Move{Package: o.Package, From: o.From, To: o.To})
		}
	}
	answer.Moves = view.Moves(moves)
	kase := triage.Case{
		Before: []triage.Snapshot{{Results: l.before, Tree: l.source}}, After: []triage.Snapshot{{Results: l.after, Tree: l.source}}, Moves: moves,
	}
	var packages []string
	for _, m := range moves {
		packages = append(packages, m.Package)
	}
	texts := report.Texts{}
	for _, n := range l.notes {
		pkg, named := l.facts.Packages[n.name]
		if !named {
			pkg = notes.About(n.name, n.text, packages)
		}
		answer.Packages[n.name] = pkg
		changes, err := guard.Call(n.name, func() []notes.Change { return notes.Read(n.name, pkg, []byte(n.text)) })
		if err != nil {
			return answer, nil, err
		}
		kase.Changes = append(kase.Changes, changes...)
		texts[n.name] = strings.Split(n.text, "\n")
	}
	var err error
	answer.Report, err = guard.Call("the report", func() triage.Report { return triage.Run(ctx, kase) })
	return answer, texts, err
}

// said are the versions that outputs tell.
func said(results []read.Result) map[string]string {
	versions := map[string]string{}
	for _, r := range results {
		for name, version := range r.Versions {
			versions[name] = version
		}
	}
	return versions
}

// firstOfEach are a report's symptoms, of each cause the first ones.
func firstOfEach(r *triage.Report) []triage.Symptom {
	seen, roots := map[string]int{}, map[string]bool{}
	for i := range r.Causes {
		roots[r.Causes[i].Root] = true
	}
	kept := []triage.Symptom{}
	for i := range r.Symptoms {
		s := &r.Symptoms[i]
		if seen[s.Cause]++; seen[s.Cause] <= mostAnswered || roots[s.ID] {
			kept = append(kept, *s)
		}
	}
	return kept
}

// openSource is a source tree as an archive, whose bounds are checked.
func openSource(file io.ReaderAt, size int64) (*zip.Reader, error) {
	archive, err := zip.NewReader(file, size)
	if err != nil {
		return nil, bad("the part source is no zip and no tar: %v", err)
	}
	bytes := uint64(0)
	for _, f := range archive.File {
		bytes += min(f.UncompressedSize64, mostTree)
	}
	if len(archive.File) > mostFiles || bytes > mostTree {
		return nil, bad("the source tree has %d files of %d MiB: %d files and %d MiB are taken, leave out what was generated or installed", len(archive.File), bytes>>20, mostFiles, mostTree>>20)
	}
	return archive, nil
}
