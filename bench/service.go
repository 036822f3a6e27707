package main

import (
	"context"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"time"

	"github.com/jackc/pgx/v5"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/core/read"
	"unicausa/internal/pglocal"
	"unicausa/internal/service"
)

// measureService records the JUnit XML and the mixed log with a service and a
// database of its own.
func measureService(ctx context.Context, p *page, folder, xml, mixed string) error {
	pg, err := pglocal.Start(ctx, filepath.Join(folder, "data"))
	if err != nil {
		return err
	}
	defer pg.Stop(ctx)
	c, stop, err := serve(ctx, pg.URL)
	if err != nil {
		return err
	}
	defer stop()
	upgrade, err := c.Begin(ctx, api.NewUpgrade{Project: "pantry", Name: "jars 3", Moves: []api.Move{{Package: "jars", From: "2.0.0", To: "3.0.0"}}})
	if err != nil {
		return err
	}

	run, took, err := record(ctx, c, upgrade.ID, "test", xml)
	if err != nil {
		return err
	}
	plain, rows, err := copyRows(ctx, pg.URL, xml, upgrade.ID, run)
	if err != nil {
		return err
	}
	p.section("From upload to queryable", "The report above, recorded with the service on loopback: until its run is processed and its tests are listed. The yardstick is COPY of the rows of its test outcomes alone, once more into the same table.")
	p.table("rows", "COPY", "upload to queryable", "ratio")
	p.row(fmt.Sprint(rows), seconds(plain), seconds(took), ratio(took, plain))

	run, took, err = record(ctx, c, upgrade.ID, "build", mixed)
	if err != nil {
		return err
	}
	p.section("A large log in the service", "The mixed log above, recorded and processed, then 200 of its lines fetched from where the log viewer is sent to.")
	p.table("size", "lines", "upload to processed", "lines from the start", "from the middle", "from the end")
	in := run.Inputs[0]
	cells := []string{mebibytes(in.Bytes), fmt.Sprint(in.Lines), seconds(took)}
	for _, from := range []int{1, in.Lines / 2, in.Lines - 200} {
		start := time.Now()
		if err := fetch(fmt.Sprintf("%s/api/v1/upgrades/%d/inputs/%d/lines?from=%d&count=200", c.Server(), upgrade.ID, in.ID, max(from, 1))); err != nil {
			return err
		}
		cells = append(cells, fmt.Sprintf("%d ms", time.Since(start).Milliseconds()))
	}
	p.row(cells...)
	return nil
}

// benchToken is the token of the service that is measured.
const benchToken = "bench"

// serve starts a service on a free port of loopback.
func serve(ctx context.Context, database string) (*client.Client, func(), error) {
	s, err := service.Start(ctx, service.Config{Database: database, MaxUpload: 4 << 30, Token: benchToken, Log: slog.New(slog.NewTextHandler(os.Stderr, &slog.HandlerOptions{Level: slog.LevelWarn}))})
	if err != nil {
		return nil, nil, err
	}
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, nil, err
	}
	serving, end := context.WithCancel(ctx)
	done := make(chan error, 1)
	go func() { done <- s.Serve(serving, l) }()
	c, err := client.New("http://"+l.Addr().String(), benchToken)
	return c, func() {
		end()
		<-done
		s.Stop(ctx)
	}, err
}

// record sends a file as a run and waits until it is processed and the
// upgrade's tests are listed.
func record(ctx context.Context, c *client.Client, upgrade int64, check, file string) (api.Run, time.Duration, error) {
	f, err := os.Open(file)
	if err != nil {
		return api.Run{}, 0, err
	}
	defer f.Close()
	start := time.Now()
	run, err := c.Record(ctx, upgrade, api.RunFacts{Check: check, Exit: 1}, []client.Input{{Name: filepath.Base(file), Content: f}}, nil, nil)
	if err != nil {
		return run, 0, err
	}
	if run, err = c.Processed(ctx, upgrade, run.Number); err == nil && run.Status != api.Processed {
		err = fmt.Errorf("run %d is %s: %s", run.Number, run.Status, run.Problem)
	}
	if err != nil {
		return run, 0, err
	}
	_, err = c.Tests(ctx, upgrade)
	return run, time.Since(start), err
}

// copyRows copies the test outcomes of a run once more into their own table,
// which keeps none of it.
func copyRows(ctx context.Context, database, xml string, upgrade int64, run api.Run) (time.Duration, int, error) {
	f, err := os.Open(xml)
	if err != nil {
		return 0, 0, err
	}
	defer f.Close()
	result, err := read.All("junit.xml", f)
	if err != nil {
		return 0, 0, err
	}
	db, err := pgx.Connect(ctx, database)
	if err != nil {
		return 0, 0, err
	}
	defer db.Close(ctx)
	tx, err := db.Begin(ctx)
	if err != nil {
		return 0, 0, err
	}
	defer tx.Rollback(ctx)
	start := time.Now()
	_, err = tx.CopyFrom(ctx, pgx.Identifier{"test_outcome"}, []string{"upgrade_id", "run_id", "input_id", "suite", "name", "outcome", "seconds"},
		pgx.CopyFromSlice(len(result.Tests), func(i int) ([]any, error) {
			t := result.Tests[i]
			return []any{upgrade, run.ID, run.Inputs[0].ID, t.Suite, t.Name, string(t.Outcome), t.Seconds}, nil
		}))
	return time.Since(start), len(result.Tests), err
}

func fetch(url string) error {
	r, err := http.NewRequest("GET", url, nil)
	if err != nil {
		return err
	}
	r.Header.Set("Authorization", "Bearer "+benchToken)
	answer, err := http.DefaultClient.Do(r)
	if err != nil {
		return err
	}
	defer answer.Body.Close()
	if _, err := io.Copy(io.Discard, answer.Body); err != nil {
		return err
	}
	if answer.StatusCode != http.StatusOK {
		return fmt.Errorf("%s: %s", url, answer.Status)
	}
	return nil
}
