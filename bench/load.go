package main

import (
	"bufio"
	"bytes"
	"context"
	"fmt"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"time"

	"unicausa/internal/access"
	"unicausa/internal/api"
	"unicausa/internal/client"
)

// served is the service in a process of its own, as it is started.
type served struct {
	cmd *exec.Cmd
	c   *client.Client
}

func serveProcess(folder string) (*served, error) {
	s := &served{cmd: exec.Command(program, "serve", "--listen", "127.0.0.1:0", "--data", folder)}
	s.cmd.Env = append(os.Environ(), access.TokenVariable+"="+benchToken)
	out, err := s.cmd.StdoutPipe()
	if err == nil {
		err = s.cmd.Start()
	}
	if err != nil {
		return nil, err
	}
	line, err := bufio.NewReader(out).ReadString('\n')
	if err != nil {
		return nil, fmt.Errorf("starting the service: %w", err)
	}
	s.c, err = client.New(strings.TrimSpace(strings.TrimPrefix(line, "unicausa is at ")), benchToken)
	return s, err
}

// stop ends the service, and tells the most memory that it held.
func (s *served) stop() (peak int64) {
	status, _ := os.ReadFile(fmt.Sprintf("/proc/%d/status", s.cmd.Process.Pid))
	for line := range strings.Lines(string(status)) {
		if value, ok := strings.CutPrefix(line, "VmHWM:"); ok {
			fmt.Sscan(value, &peak) // in kB, as proc(5) has it
		}
	}
	s.cmd.Process.Signal(os.Interrupt)
	s.cmd.Wait()
	return peak << 10
}

// measureTrouble sends a log of nothing but trouble, all of it distinct within each of its
// rounds, through the service.
func measureTrouble(ctx context.Context, p *page, folder string, size int) error {
	log := filepath.Join(folder, "trouble.log")
	if err := writeDistinct(log, size); err != nil {
		return err
	}
	plain, err := process(ctx, program, "triage", log)
	if err != nil {
		return err
	}
	s, err := serveProcess(filepath.Join(folder, "trouble"))
	if err != nil {
		return err
	}
	u, err := s.c.Begin(ctx, api.NewUpgrade{Project: "pantry", Name: "jars 3", Moves: []api.Move{{Package: "jars"}}})
	if err == nil {
		_, err = send(ctx, s.c, u.ID, strings.NewReader("ok\n"))
	}
	if err == nil {
		_, err = s.c.AcceptBaseline(ctx, u.ID)
	}
	if err != nil {
		s.stop()
		return err
	}
	f, err := os.Open(log)
	if err != nil {
		return err
	}
	defer f.Close()
	start := time.Now()
	run, err := send(ctx, s.c, u.ID, f)
	took := time.Since(start)
	peak := s.stop()
	if err != nil {
		return err
	}
	p.section("Nothing but trouble in the service", "A log of 100,000 distinct diagnostics, over and over, recorded and processed behind a baseline. The yardstick is triage of the same file. Memory is that of the service's process.")
	p.table("size", "symptoms", "triage", "upload to processed", "ratio", "peak memory of triage", "of the service")
	p.row(mebibytes(fileSize(log)), fmt.Sprint(run.Symptoms), seconds(plain.took), seconds(took), ratio(took, plain.took), mebibytes(plain.peak), mebibytes(peak))
	return nil
}

// send records an output and waits until it is processed.
func send(ctx context.Context, c *client.Client, upgrade int64, output interface{ Read([]byte) (int, error) }) (api.Run, error) {
	run, err := c.Record(ctx, upgrade, api.RunFacts{Check: "build", Exit: 1, StartedAt: time.Now()}, []client.Input{{Name: "build.log", Content: output}}, nil, nil)
	if err == nil {
		run, err = c.Processed(ctx, upgrade, run.Number)
	}
	return run, err
}

// writeDistinct writes diagnostics of four tools until a file is large enough.
func writeDistinct(name string, size int) error {
	var round bytes.Buffer
	for i := range 100_000 {
		file, line, name := i/20, 5+3*(i%20), i/5%3000
		switch i % 4 {
		case 0:
			fmt.Fprintf(&round, "shelf/shelf%d.go:%d:2: undefined: jar.Open%d\n", file, line, name)
		case 1:
			fmt.Fprintf(&round, "shelf/shelf%d.go:%d:2: not enough arguments in call to jar.Fill%d\n", file, line, name)
		case 2:
			fmt.Fprintf(&round, "src/press%d.ts(%d,2): error TS2339: Property 'lid%d' does not exist on type 'Press%d'.\n", file, line, name, i%50)
		default:
			fmt.Fprintf(&round, "warn/lid%d.c:%d:2: warning: 'lid%d' is deprecated [-Wdeprecated-declarations]\n", file, line, name)
		}
	}
	f, err := os.Create(name)
	if err != nil {
		return err
	}
	for written := 0; written < size; written += round.Len() {
		if _, err := f.Write(round.Bytes()); err != nil {
			f.Close()
			return err
		}
	}
	return f.Close()
}

// What comes at once upon the service.
const (
	uploads   = 300 // of loadSize each, all at once
	loadSize  = 1 << 20
	listeners = 400 // that never read
	cutOff    = 60  // uploads that stand still half way
)

// measureLoad times small requests while others send, follow and stall.
func measureLoad(ctx context.Context, p *page, folder string) error {
	s, err := serveProcess(filepath.Join(folder, "load"))
	if err != nil {
		return err
	}
	stopped := false
	defer func() {
		if !stopped {
			s.stop()
		}
	}()
	u, err := s.c.Begin(ctx, api.NewUpgrade{Project: "pantry", Name: "jars 3", Moves: []api.Move{{Package: "jars"}}})
	if err != nil {
		return err
	}
	other, err := s.c.Begin(ctx, api.NewUpgrade{Project: "cellar", Name: "jars 3", Moves: []api.Move{{Package: "jars"}}})
	if err != nil {
		return err
	}
	address := strings.TrimPrefix(s.c.Server(), "http://")
	open := func(request string) error {
		conn, err := net.Dial("tcp", address)
		if err == nil {
			_, err = fmt.Fprintf(conn, "%s\r\nHost: %s\r\nAuthorization: Bearer %s\r\nX-Requested-By: bench\r\n", request, address, benchToken)
		}
		return err // the connection stays open until the process ends
	}
	for i := range listeners {
		if err := open(fmt.Sprintf("GET /api/v1/upgrades/%d/events HTTP/1.1\r\nLast-Event-ID: 0\r\n", u.ID)); err != nil {
			return fmt.Errorf("listener %d: %w", i, err)
		}
	}
	for range cutOff {
		if err := open(fmt.Sprintf("POST /api/v1/upgrades/%d/runs HTTP/1.1\r\nContent-Type: multipart/form-data; boundary=x\r\nContent-Length: 100000\r\n\r\n--x\r\nContent-Disposition: form-data; name=\"run\"\r\n", u.ID)); err != nil {
			return err
		}
	}
	text := strings.Repeat("src/press.c:7:3: note: the lid is where it was\n", loadSize/48)
	var sending sync.WaitGroup
	failed := make(chan error, uploads)
	start := time.Now()
	for i := range uploads {
		sending.Go(func() {
			_, err := s.c.Record(ctx, u.ID, api.RunFacts{Check: "build", Commit: fmt.Sprint(i), StartedAt: start}, []client.Input{{Name: "build.log", Content: strings.NewReader(text)}}, nil, nil)
			if err != nil {
				failed <- err
			}
		})
	}
	done := make(chan struct{})
	go func() { sending.Wait(); close(done) }()
	var times []time.Duration
	for waiting := true; waiting; {
		select {
		case <-done:
			waiting = false
		case err := <-failed:
			return err
		default:
		}
		from := time.Now()
		if _, err := s.c.Overview(ctx, other.ID); err != nil {
			return err
		}
		times = append(times, time.Since(from))
		time.Sleep(2 * time.Millisecond)
	}
	took := time.Since(start)
	peak := s.stop()
	stopped = true
	slices.Sort(times)
	at := func(share float64) string { return millis(times[min(len(times)-1, int(share*float64(len(times))))]) }
	p.section("Much at once", fmt.Sprintf("%d uploads of %d KiB at once, beside %d live streams of which none is read and %d uploads that stand still; meanwhile the overview of another project is asked for, one request after the other. All of it, clients too, on the same machine.", uploads, loadSize>>10, listeners, cutOff))
	p.table("uploads stored in", "requests beside", "half of them within", "99 of 100 within", "slowest", "peak memory of the service")
	p.row(seconds(took), fmt.Sprint(len(times)), at(0.5), at(0.99), millis(times[len(times)-1]), mebibytes(peak))
	return nil
}
