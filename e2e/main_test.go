// Package e2e tests the whole: the service on loopback with a real PostgreSQL,
// through the client, the command line and the console in Chromium.
package e2e

import (
	"bytes"
	"context"
	"flag"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"unicausa/console"
	"unicausa/internal/access"
	"unicausa/internal/api"
	"unicausa/internal/cli"
	"unicausa/internal/client"
	"unicausa/internal/demo"
	"unicausa/internal/pglocal"
	"unicausa/internal/pglocal/pgtest"
	"unicausa/internal/service"
)

// shots is the folder that TestScreenshots writes to; without it, it is skipped.
var shots = flag.String("shots", "", "write the console's pictures into this `folder`")

// token is that of the user of the service's machine.
const token = "e2e"

// signed adds the token to what has none, and what a form cannot send.
type signed struct{ http.RoundTripper }

func (s signed) RoundTrip(r *http.Request) (*http.Response, error) {
	r = r.Clone(r.Context())
	if r.Header.Get("Authorization") == "" {
		r.Header.Set("Authorization", "Bearer "+token)
	}
	r.Header.Set("X-Requested-By", "e2e")
	return s.RoundTripper.RoundTrip(r)
}

// tokenOf makes somebody a person with a role in all projects.
func tokenOf(t *testing.T, name string) string {
	t.Helper()
	_ = here(t).RemovePerson(t.Context(), name, t.Name())
	secret, err := here(t).AddPerson(t.Context(), api.NewPerson{Name: name, Role: api.Writer, Token: t.Name()})
	if err != nil {
		t.Fatal(err)
	}
	return secret
}

// as is a client of somebody.
func as(t *testing.T, name string) *client.Client {
	t.Helper()
	c, err := client.New(server, tokenOf(t, name))
	if err != nil {
		t.Fatal(err)
	}
	return c
}

// The service that all tests share, with the demo in it.
var (
	server   string
	database string
)

func TestMain(m *testing.M) {
	flag.Parse()
	os.Exit(runAll(m))
}

func runAll(m *testing.M) int {
	ctx, cancel := context.WithCancel(context.Background())
	defer cancel()
	os.Setenv(access.TokenVariable, token)
	http.DefaultTransport = signed{http.DefaultTransport}
	folder, err := os.MkdirTemp("", "unicausa-e2e")
	if err == nil {
		os.Setenv("XDG_CONFIG_HOME", filepath.Join(folder, "config")) // what the commands remember
		err = os.Chmod(folder, 0o755)                                 // the database's user goes through it
	}
	if err != nil {
		return failed(err)
	}
	defer os.RemoveAll(folder)
	pg, err := pglocal.Start(ctx, folder)
	if err != nil {
		return failed(err)
	}
	defer pg.Stop(ctx)
	if err := pgtest.Hurry(pg.URL); err != nil {
		return failed(err)
	}
	database = pg.URL
	stop, err := start(ctx)
	if err != nil {
		return failed(err)
	}
	defer stop()
	c, err := client.New(server, token)
	if err == nil {
		err = demo.Load(ctx, c, func(string) {})
	}
	if err != nil {
		return failed(err)
	}
	return m.Run()
}

func failed(err error) int {
	fmt.Fprintln(os.Stderr, "e2e:", err)
	return 1
}

// start serves on a free port of loopback until stop.
func start(ctx context.Context) (stop func(), err error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	server = "http://" + l.Addr().String()
	s, err := service.Start(ctx, service.Config{
		Database: database, MaxUpload: 512 << 20, Token: token, User: "keeper", Console: console.Files(), Log: slog.New(slog.NewTextHandler(io.Discard, nil)),
	})
	if err != nil {
		return nil, err
	}
	serving, end := context.WithCancel(ctx)
	done := make(chan error, 1)
	go func() { done <- s.Serve(serving, l) }()
	return func() {
		end()
		<-done
		stopping, cancel := context.WithTimeout(ctx, 20*time.Second)
		defer cancel()
		s.Stop(stopping)
	}, nil
}

// here is a client of the shared service.
func here(t *testing.T) *client.Client {
	t.Helper()
	c, err := client.New(server, token)
	if err != nil {
		t.Fatal(err)
	}
	return c
}

// upgradeOf finds a demo upgrade by its name.
func upgradeOf(t *testing.T, name string) int64 {
	t.Helper()
	rows, err := here(t).Upgrades(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	for _, r := range rows {
		if r.Upgrade.Name == name {
			return r.Upgrade.ID
		}
	}
	t.Fatalf("there is no upgrade %q", name)
	return 0
}

// unicausa runs the command line in the working folder and gives its exit
// status and what it printed.
func unicausa(t *testing.T, args ...string) (status int, printed string) {
	t.Helper()
	var out bytes.Buffer
	status = cli.Main(t.Context(), append([]string{"unicausa"}, args...), strings.NewReader(""), &out, &out)
	return status, out.String()
}

// want runs the command line and checks its exit status and parts of its output.
func want(t *testing.T, status int, parts []string, args ...string) string {
	t.Helper()
	got, printed := unicausa(t, args...)
	if got != status {
		t.Fatalf("unicausa %s: exit status %d, want %d\n%s", strings.Join(args, " "), got, status, printed)
	}
	for _, part := range parts {
		if !strings.Contains(printed, part) {
			t.Fatalf("unicausa %s: no %q in\n%s", strings.Join(args, " "), part, printed)
		}
	}
	return printed
}

// write writes files below the working folder.
func write(t *testing.T, files map[string]string) {
	t.Helper()
	for name, text := range files {
		if err := os.MkdirAll(filepath.Dir(name), 0o755); err != nil {
			t.Fatal(err)
		}
		if err := os.WriteFile(name, []byte(text), 0o644); err != nil {
			t.Fatal(err)
		}
	}
}
