package e2e

import (
	"bufio"
	"bytes"
	"context"
	"database/sql"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"sync"
	"sync/atomic"
	"syscall"
	"testing"
	"time"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/pglocal"
)

// program builds the command once.
func program(t *testing.T) string {
	t.Helper()
	name := filepath.Join(t.TempDir(), "unicausa")
	if out, err := exec.Command("go", "build", "-o", name, "unicausa/cmd/unicausa").CombinedOutput(); err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	return name
}

// process is a service in a process of its own.
type process struct {
	cmd    *exec.Cmd
	client *client.Client
	log    *bytes.Buffer
}

func serveProcess(t *testing.T, program string, args ...string) *process {
	t.Helper()
	p := &process{cmd: exec.Command(program, append([]string{"serve", "--listen", "127.0.0.1:0"}, args...)...), log: &bytes.Buffer{}}
	p.cmd.Stderr = p.log
	out, err := p.cmd.StdoutPipe()
	if err == nil {
		err = p.cmd.Start()
	}
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { p.cmd.Process.Kill(); p.cmd.Wait() })
	line, err := bufio.NewReader(out).ReadString('\n')
	if err != nil {
		t.Fatalf("the service did not start: %v\n%s", err, p.log)
	}
	if p.client, err = client.New(strings.TrimSpace(strings.TrimPrefix(line, "unicausa is at ")), token); err != nil {
		t.Fatal(err)
	}
	return p
}

// kill ends a process as kill -9 does.
func (p *process) kill() {
	p.cmd.Process.Kill()
	p.cmd.Wait()
}

// TestKilled kills the service, then PostgreSQL, right after uploads were
// acknowledged: nothing of them is lost, and the work is finished after a
// restart.
func TestKilled(t *testing.T) {
	t.Parallel()
	folder := openFolder(t)
	binary := program(t)
	ctx := context.Background()
	t.Cleanup(func() {
		if pg, err := pglocal.Start(ctx, folder); err == nil {
			pg.Stop(ctx)
		}
	})
	var big strings.Builder
	for i := 1; i <= 20_000; i++ {
		big.WriteString("src/part" + strconv.Itoa(i%50) + ".c:" + strconv.Itoa(i) + ":1: error: 'lid" + strconv.Itoa(i%20) + "' undeclared\n")
	}

	p := serveProcess(t, binary, "--data", folder)
	upgrade := begin(t, p.client, "killed")
	sendRun(t, p.client, upgrade, "build", 0, "")
	if _, err := p.client.AcceptBaseline(ctx, upgrade); err != nil {
		t.Fatal(err)
	}
	send := func(check string) {
		t.Helper()
		_, err := p.client.Record(ctx, upgrade, api.RunFacts{Check: check, Exit: 1, StartedAt: time.Now()}, []client.Input{{Name: "a.log", Content: strings.NewReader(big.String())}}, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
	}
	send("build")
	p.kill() // while the run is being processed, or before

	p = serveProcess(t, binary, "--data", folder)
	processed(t, p, upgrade, 2, 20_000)

	send("test")
	pid := postmaster(t, folder)
	if err := syscall.Kill(pid, syscall.SIGKILL); err != nil {
		t.Fatal(err)
	}
	if _, err := p.client.Causes(ctx, upgrade); err == nil {
		t.Log("the database was still answering")
	} else if !strings.Contains(err.Error(), "the database does not answer") {
		t.Errorf("with the database gone the service says: %v", err)
	}
	p.kill()
	waitGone(t, pid)

	p = serveProcess(t, binary, "--data", folder)
	processed(t, p, upgrade, 3, 20_000)
	causes, err := p.client.Causes(ctx, upgrade)
	if err != nil {
		t.Fatal(err)
	}
	if len(causes) == 0 || causes[0].ID == "" {
		t.Errorf("after both crashes there are %d causes", len(causes))
	}
	// A graceful stop ends with status 0 and takes the database along.
	if err := p.cmd.Process.Signal(syscall.SIGTERM); err != nil {
		t.Fatal(err)
	}
	if err := p.cmd.Wait(); err != nil {
		t.Errorf("stopping: %v\n%s", err, p.log)
	}
}

func processed(t *testing.T, p *process, upgrade int64, number, symptoms int) {
	t.Helper()
	ctx, cancel := context.WithTimeout(t.Context(), time.Minute)
	defer cancel()
	run, err := p.client.Processed(ctx, upgrade, number)
	if err != nil {
		t.Fatalf("run %d: %v\n%s", number, err, p.log)
	}
	if run.Status != "processed" || run.Symptoms != symptoms {
		t.Errorf("run %d is %s with %d symptoms, want %d", number, run.Status, run.Symptoms, symptoms)
	}
}

// postmaster is the process of a data folder's PostgreSQL.
func postmaster(t *testing.T, folder string) int {
	t.Helper()
	data, err := os.ReadFile(filepath.Join(folder, "postgres", "postmaster.pid"))
	if err != nil {
		t.Fatal(err)
	}
	line, _, _ := strings.Cut(string(data), "\n")
	pid, err := strconv.Atoi(line)
	if err != nil {
		t.Fatal(err)
	}
	return pid
}

// waitGone waits until a process and its children have let go of the data folder.
func waitGone(t *testing.T, pid int) {
	t.Helper()
	for range 100 {
		if syscall.Kill(pid, 0) != nil {
			time.Sleep(500 * time.Millisecond)
			return
		}
		time.Sleep(50 * time.Millisecond)
	}
}

// openFolder is a data folder that the database's user may enter.
func openFolder(t *testing.T) string {
	t.Helper()
	folder := t.TempDir()
	for dir := folder; dir != os.TempDir() && dir != "/"; dir = filepath.Dir(dir) {
		if err := os.Chmod(dir, 0o755); err != nil {
			t.Fatal(err)
		}
	}
	return folder
}

// TestThreeServices kills one of three services on a database while runs come to all of
// them: each run is processed once, and followers of the others hear of it.
func TestThreeServices(t *testing.T) {
	t.Parallel()
	folder := openFolder(t)
	pg, err := pglocal.Start(t.Context(), folder)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { pg.Stop(context.Background()) })
	binary := program(t)
	var services []*process
	for range 3 {
		services = append(services, serveProcess(t, binary, "--database-url", pg.URL))
	}
	upgrades := make([]int64, 3)
	for i := range upgrades {
		upgrades[i] = begin(t, services[i].client, fmt.Sprint("three ", i))
	}
	const each = 12
	var sent atomic.Int32
	var sending sync.WaitGroup
	for n := range each {
		for i, upgrade := range upgrades {
			sending.Go(func() {
				for _, s := range []*process{services[(i+n)%3], services[1], services[2]} { // the first may be gone by now
					text := fmt.Sprintf("a.c:%d:1: error: no\n", n+1)
					_, err := s.client.Record(t.Context(), upgrade, api.RunFacts{Check: "build", Exit: 1, StartedAt: time.Unix(int64(n), 0)}, []client.Input{{Name: "a.log", Content: strings.NewReader(text)}}, nil, nil)
					if err == nil {
						sent.Add(1)
						return
					}
				}
			})
		}
		if n == each/2 {
			services[0].kill()
		}
	}
	sending.Wait()
	if n := sent.Load(); n != 3*each {
		t.Fatalf("%d of %d recordings were taken", n, 3*each)
	}
	for _, upgrade := range upgrades {
		for number := 1; number <= each; number++ {
			ctx, cancel := context.WithTimeout(t.Context(), time.Minute)
			run, err := services[2].client.Processed(ctx, upgrade, number)
			cancel()
			if err != nil || run.Status != "processed" || run.Symptoms != 1 {
				t.Fatalf("run %d of upgrade %d is %s with %d symptoms (%v)\n%s", number, upgrade, run.Status, run.Symptoms, err, services[2].log)
			}
		}
		if runs, err := services[1].client.Runs(t.Context(), upgrade); err != nil || len(runs) != each {
			t.Errorf("upgrade %d has %d runs (%v)", upgrade, len(runs), err)
		}
	}
	conn, err := sql.Open("pgx", pg.URL)
	if err != nil {
		t.Fatal(err)
	}
	defer conn.Close()
	var findings, places int
	if err := conn.QueryRow(`SELECT (SELECT count(*) FROM finding), (SELECT count(*) FROM occurrence)`).Scan(&findings, &places); err != nil || findings != 3*each || places != 3*each {
		t.Errorf("there are %d findings at %d places, want %d: a run was processed twice (%v)", findings, places, 3*each, err)
	}
}

// TestDatabaseDown holds that without a database nothing hangs, the answer says what is
// wrong and when to come again, and that the service goes on once the database is back:
// by itself, where it is the service's own.
func TestDatabaseDown(t *testing.T) {
	t.Parallel()
	folder := openFolder(t)
	pg, err := pglocal.Start(t.Context(), folder)
	if err != nil {
		t.Fatal(err)
	}
	guest := serveProcess(t, program(t), "--database-url", pg.URL)
	begun := func(p *process, name string) error {
		_, err := p.client.Begin(t.Context(), api.NewUpgrade{Project: "p", Name: name, Moves: []api.Move{{Package: "a"}}})
		return err
	}
	if err := begun(guest, "before"); err != nil {
		t.Fatal(err)
	}
	if err := syscall.Kill(pg.PID, syscall.SIGKILL); err != nil {
		t.Fatal(err)
	}
	waitGone(t, pg.PID)
	if err := begun(guest, "meanwhile"); err == nil || !strings.Contains(err.Error(), "the database does not answer: nothing was stored") {
		t.Errorf("the service says: %v", err)
	}
	answer, err := http.Get(guest.client.Server() + "/readyz")
	if err != nil {
		t.Fatal(err)
	}
	answer.Body.Close()
	if answer.StatusCode != http.StatusServiceUnavailable || answer.Header.Get("Retry-After") == "" {
		t.Errorf("it answers %s, to come again after %q seconds", answer.Status, answer.Header.Get("Retry-After"))
	}
	own := serveProcess(t, program(t), "--data", folder)
	if err := begun(own, "back"); err != nil {
		t.Errorf("where the database was killed the service starts, and says: %v", err)
	}
	if err := syscall.Kill(postmaster(t, folder), syscall.SIGKILL); err != nil {
		t.Fatal(err)
	}
	time.Sleep(time.Second)
	for deadline := time.Now().Add(40 * time.Second); ; time.Sleep(200 * time.Millisecond) {
		if err = begun(own, "watched"); err == nil {
			break
		}
		if time.Now().After(deadline) {
			t.Fatalf("the service has not started its database again: %v\n%s", err, own.log)
		}
	}
}
