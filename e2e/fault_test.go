package e2e

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"testing"
	"time"
)

// writer writes rising numbers into the notes of the fernery and remembers the
// last that was acknowledged.
type writer struct {
	t     *testing.T
	p     *program
	acked int
}

func (w *writer) read() (n int, version int64, err error) {
	resp, err := http.Get(w.p.url + "/api" + demoStudio + "/commissions/1")
	if err != nil {
		return 0, 0, err
	}
	defer resp.Body.Close()
	var c struct {
		Version int64
		Fields  []struct{ Name, Text string }
	}
	if resp.StatusCode != 200 {
		return 0, 0, errors.New(resp.Status)
	}
	if err := json.NewDecoder(resp.Body).Decode(&c); err != nil {
		return 0, 0, err
	}
	for _, f := range c.Fields {
		if f.Name == "notes" {
			n, _ = strconv.Atoi(strings.TrimPrefix(f.Text, "n "))
		}
	}
	return n, c.Version, nil
}

// write writes the next number once.
func (w *writer) write() error {
	n, version, err := w.read()
	if err != nil {
		return err
	}
	body, _ := json.Marshal(map[string]any{"version": version, "set": map[string]string{"notes": fmt.Sprintf("n %d", max(n, w.acked)+1)}})
	resp, err := http.Post(w.p.url+"/api"+demoStudio+"/rows/commissions/1", "application/json", bytes.NewReader(body))
	if err != nil {
		return err
	}
	defer resp.Body.Close()
	if resp.StatusCode != 200 {
		return errors.New(resp.Status)
	}
	w.acked = max(n, w.acked) + 1
	return nil
}

// until writes until done says so; what fails meanwhile is tried again.
func (w *writer) until(done func() bool) {
	w.t.Helper()
	for late := time.Now().Add(60 * time.Second); !done(); {
		_ = w.write()
		if time.Now().After(late) {
			w.t.Fatal("it does not come back")
		}
	}
}

// kept asserts that nothing that was acknowledged is lost, once it can be read
// again.
func (w *writer) kept(round int) {
	w.t.Helper()
	n, _, err := w.read()
	for late := time.Now().Add(60 * time.Second); err != nil && time.Now().Before(late); {
		n, _, err = w.read()
	}
	if err != nil || n < w.acked {
		w.t.Fatalf("round %d: %d was acknowledged, %d is there (%v)", round, w.acked, n, err)
	}
}

func safeStart(t *testing.T) *program {
	t.Helper()
	p := &program{data: folder(t), safe: true, args: []string{"--now", tuesdayEvening}}
	p.start(t)
	t.Cleanup(func() { p.stop(t) })
	return p
}

const rounds = 20

// TestTheServerIsKilled: kill -9 while it writes, again and again.
func TestTheServerIsKilled(t *testing.T) {
	t.Parallel()
	p := safeStart(t)
	w := &writer{t: t, p: p}
	for round := range rounds {
		aim := w.acked + 3
		killed := make(chan struct{})
		go func() {
			defer close(killed)
			_ = p.cmd.Process.Kill() // in the middle of whatever it does
		}()
		for w.write() == nil && w.acked < aim+20 {
		}
		<-killed
		<-p.done
		p.start(t)
		w.kept(round)
		w.until(func() bool { return w.acked >= aim })
	}
}

// TestThePostgresIsKilled: the server starts it again and goes on.
func TestThePostgresIsKilled(t *testing.T) {
	t.Parallel()
	p := safeStart(t)
	w := &writer{t: t, p: p}
	pid := func() int {
		b, err := os.ReadFile(filepath.Join(p.data, "data", "postmaster.pid"))
		if err != nil {
			return 0
		}
		n, _ := strconv.Atoi(strings.SplitN(string(b), "\n", 2)[0])
		return n
	}
	for round := range rounds {
		aim := w.acked + 3
		w.until(func() bool { return w.acked >= aim })
		old := pid()
		if err := syscall.Kill(old, syscall.SIGKILL); err != nil {
			t.Fatal(err)
		}
		aim = w.acked + 1
		w.until(func() bool { return w.acked >= aim && pid() != old })
		w.kept(round)
	}
}

// TestPostgresIsAwayForAWhile: it hangs, as on a disk that does not answer, and
// comes back; the page keeps what is typed and sends it.
func TestPostgresIsAwayForAWhile(t *testing.T) {
	t.Parallel()
	p := safeStart(t)
	page := p.open(t, demoStudio+"/commissions/1/pieces?piece=6")
	see(t, page, "Beetles: 9")
	field(page, "How many") // the form is there before the database goes
	b, err := os.ReadFile(filepath.Join(p.data, "data", "postmaster.pid"))
	if err != nil {
		t.Fatal(err)
	}
	pid := strings.SplitN(string(b), "\n", 2)[0]
	all := func(signal string) {
		t.Helper()
		if out, err := exec.Command("pkill", "-"+signal, "-P", pid).CombinedOutput(); err != nil {
			t.Fatalf("%v %s", err, out)
		}
		if out, err := exec.Command("kill", "-"+signal, pid).CombinedOutput(); err != nil {
			t.Fatalf("%v %s", err, out)
		}
	}
	all("STOP")
	t.Cleanup(func() {
		_ = exec.Command("pkill", "-CONT", "-P", pid).Run()
		_ = exec.Command("kill", "-CONT", pid).Run()
	})
	fill(page, "How many", "14")
	see(t, page, "1 change waits in this browser to be sent.")
	all("CONT")
	see(t, page, "Beetles: 14")
}

// TestAFullDisk says so and harms nothing.
func TestAFullDisk(t *testing.T) {
	t.Parallel()
	if os.Geteuid() != 0 {
		t.Skip("a disk of its own can only be mounted by root")
	}
	data, err := os.MkdirTemp("", "dffull") // t.TempDir lies where postgres may not enter
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { os.RemoveAll(data) })
	if out, err := exec.Command("mount", "-t", "tmpfs", "-o", "size=120m", "tmpfs", data).CombinedOutput(); err != nil {
		t.Skipf("no disk of its own can be mounted here: %s", out)
	}
	t.Cleanup(func() { _ = exec.Command("umount", "-l", data).Run() })
	if err := os.Chmod(data, 0o755); err != nil {
		t.Fatal(err)
	}
	p := &program{data: filepath.Join(data, "df"), safe: true, args: []string{"--now", tuesdayEvening}}
	p.start(t)
	w := &writer{t: t, p: p}
	if err := w.write(); err != nil {
		t.Fatal(err)
	}
	filler := filepath.Join(data, "filler")
	f, err := os.Create(filler)
	if err != nil {
		t.Fatal(err)
	}
	for block := make([]byte, 64<<10); ; {
		if _, err := f.Write(block); err != nil {
			break
		}
	}
	f.Close()
	notes := strings.Repeat("sugar ", 300)
	said := ""
	for i := 0; said == "" && i < 3000; i++ { // until what was reserved is used up
		body, _ := json.Marshal(map[string]any{"set": map[string]string{"title": fmt.Sprint("Order ", i), "notes": notes}})
		resp, err := http.Post(p.url+"/api"+demoStudio+"/rows/commissions", "application/json", bytes.NewReader(body))
		if err != nil {
			said = "the server is gone"
			break
		}
		if resp.StatusCode != 200 {
			var problem struct{ Detail string }
			_ = json.NewDecoder(resp.Body).Decode(&problem)
			said = problem.Detail
		}
		resp.Body.Close()
	}
	if !strings.Contains(said, "disk of the data folder is full") && !strings.Contains(said, "database does not answer") {
		t.Errorf("it said %q", said)
	}
	if err := os.Remove(filler); err != nil {
		t.Fatal(err)
	}
	select {
	case <-p.done: // it left with its sentence: PostgreSQL cannot run without room
		if !strings.Contains(p.out.String(), "look into") {
			t.Errorf("it left saying %s", p.out)
		}
		p.start(t)
	case <-time.After(time.Second):
	}
	aim := w.acked + 1
	w.until(func() bool { return w.acked >= aim })
	w.kept(0)
	p.stop(t)
}
