package e2e

import (
	"bytes"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"syscall"
	"testing"
	"time"
)

// once runs the program to its end and gives its code and what it said.
func once(t *testing.T, env []string, args ...string) (int, string) {
	t.Helper()
	cmd := exec.Command(binary, append([]string{"start"}, args...)...)
	cmd.Env = append(os.Environ(), env...)
	out, err := cmd.CombinedOutput()
	if err != nil && cmd.ProcessState == nil {
		t.Fatal(err)
	}
	return cmd.ProcessState.ExitCode(), string(out)
}

func port(p *program) string { return p.url[strings.LastIndex(p.url, ":")+1:] }

func TestStartsThatCannotBe(t *testing.T) {
	t.Parallel()
	taken, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	defer taken.Close()
	file := filepath.Join(t.TempDir(), "file")
	if err := os.WriteFile(file, nil, 0o600); err != nil {
		t.Fatal(err)
	}
	closed, _ := net.Listen("tcp", "127.0.0.1:0")
	nobody := closed.Addr().String()
	closed.Close()
	for _, c := range []struct {
		say, want string
		env, args []string
	}{
		{"a port that is taken", "is taken by another program", []string{"DATABASE_URL="}, []string{"--port", fmt.Sprint(taken.Addr().(*net.TCPAddr).Port), "--data", filepath.Join(os.TempDir(), "df-none")}},
		{"a folder below a file", "cannot be made or written", []string{"DATABASE_URL="}, []string{"--port", "0", "--data", filepath.Join(file, "below")}},
		{"a folder that cannot be written", "cannot be made or written", []string{"DATABASE_URL="}, []string{"--port", "0", "--data", "/proc/dustyfern"}},
		{"a port that is none", "a number from 1 to 65535", []string{"DATABASE_URL="}, []string{"--port", "99999"}},
		{"a database that does not answer", "DATABASE_URL", []string{"DATABASE_URL=postgres://x:y@" + nobody + "/z"}, []string{"--port", "0"}},
		{"a clock for somebody's database", "--now", []string{"DATABASE_URL=postgres://x:y@" + nobody + "/z"}, []string{"--port", "0", "--now", tuesdayEvening}},
	} {
		code, said := once(t, c.env, c.args...)
		if code == 0 || !strings.Contains(said, c.want) {
			t.Errorf("%s: code %d, %s", c.say, code, said)
		}
		if strings.Contains(said, "x:y") || strings.Contains(said, "goroutine") {
			t.Errorf("%s: it says too much: %s", c.say, said)
		}
	}
}

func TestASecondStartSaysSoAndHarmsNothing(t *testing.T) {
	t.Parallel()
	p := start(t)
	for _, where := range []string{port(p), "0"} {
		code, said := once(t, []string{"DATABASE_URL="}, "--port", where, "--data", p.data)
		if code != 0 || !strings.Contains(said, "runs already: "+p.url) {
			t.Errorf("port %s: code %d, %s", where, code, said)
		}
	}
	var list struct{ Rows, Closed []any }
	p.get(t, demoStudio+"/commissions", &list)
	if len(list.Rows)+len(list.Closed) != 5 {
		t.Errorf("%+v", list)
	}
}

// TestAFolderThatIsNotWhole is refused with a sentence, and left as it is.
func TestAFolderThatIsNotWhole(t *testing.T) {
	t.Parallel()
	dir := folder(t)
	says := func(what, want string) {
		t.Helper()
		code, said := once(t, []string{"DATABASE_URL="}, "--port", "0", "--fast", "--data", dir)
		if code == 0 || !strings.Contains(said, want) || strings.Contains(said, "FATAL") {
			t.Errorf("%s: code %d, %s", what, code, said)
		}
	}
	key, version := filepath.Join(dir, "owner.password"), filepath.Join(dir, "data", "PG_VERSION")
	word, err := os.ReadFile(key)
	if err != nil {
		t.Fatal(err)
	}
	made, err := os.ReadFile(version)
	if err != nil {
		t.Fatal(err)
	}
	put := func(path string, b []byte) {
		t.Helper()
		if err := os.WriteFile(path, b, 0o600); err != nil {
			t.Fatal(err)
		}
	}
	put(key, nil)
	says("an empty key", "owner.password is missing or empty")
	put(key, []byte(strings.Repeat("0", 48)))
	says("a wrong key", "is not the one of the data beside it")
	put(key, word)
	put(version, []byte("9\n"))
	says("another version", "was made by PostgreSQL 9")
	put(version, made)
	p := &program{data: dir}
	p.start(t, "--now", evening) // whole again
	p.stop(t)
}

// servers counts the database servers of a data folder.
func servers(data string) int {
	n := 0
	real, _ := filepath.EvalSymlinks(data)
	dirs, _ := filepath.Glob("/proc/[0-9]*/cwd")
	for _, d := range dirs {
		if at, err := os.Readlink(d); err == nil && at == filepath.Join(real, "data") {
			n++
		}
	}
	return n
}

func gone(t *testing.T, what string, is func() bool) {
	t.Helper()
	tick := time.NewTicker(20 * time.Millisecond)
	defer tick.Stop()
	late := time.After(patience)
	for !is() {
		select {
		case <-tick.C:
		case <-late:
			t.Fatal(what)
		}
	}
}

func rename(t *testing.T, p *program, title string) {
	t.Helper()
	var c struct{ Version int64 }
	p.get(t, demoStudio+"/commissions/1", &c)
	resp, err := http.Post(p.url+"/api"+demoStudio+"/rows/commissions/1", "application/json", strings.NewReader(fmt.Sprintf(`{"version":%d,"set":{"title":%q}}`, c.Version, title)))
	if err != nil {
		t.Fatal(err)
	}
	defer resp.Body.Close()
	if resp.StatusCode != 200 {
		t.Fatal(resp.Status)
	}
}

func titled(t *testing.T, p *program) string {
	t.Helper()
	var c struct{ Title string }
	p.get(t, demoStudio+"/commissions/1", &c)
	return c.Title
}

func TestStoppingLeavesNothingBehindAndKeepsTheData(t *testing.T) {
	t.Parallel()
	p := start(t)
	rename(t, p, "Kept over a stop")
	if servers(p.data) == 0 {
		t.Error("there should be a database server")
	}
	_ = p.cmd.Process.Signal(syscall.SIGINT)
	if err := <-p.done; err != nil {
		t.Errorf("Ctrl-C ends with %v", err)
	}
	gone(t, "a database server is left behind", func() bool { return servers(p.data) == 0 })
	p.start(t, "--now", evening)
	if got := titled(t, p); got != "Kept over a stop" {
		t.Error(got)
	}
	var rows []any
	p.get(t, "/studios", &rows)
	if len(rows) != 1 {
		t.Errorf("the demo was loaded again: %d studios", len(rows))
	}
}

func TestAKilledProgramComesBack(t *testing.T) {
	t.Parallel()
	p := start(t)
	rename(t, p, "Kept over a kill")
	_ = p.cmd.Process.Kill()
	<-p.done
	p.start(t, "--now", evening)
	if got := titled(t, p); got != "Kept over a kill" {
		t.Error(got)
	}
}

func TestAKilledDatabaseIsStartedAgain(t *testing.T) {
	t.Parallel()
	p := start(t, "--fast=false") // a crash loses nothing only when writes are durable
	rename(t, p, "Kept over a crash")
	pid, err := os.ReadFile(filepath.Join(p.data, "data", "postmaster.pid"))
	if err != nil {
		t.Fatal(err)
	}
	var n int
	if _, err := fmt.Sscan(string(bytes.SplitN(pid, []byte("\n"), 2)[0]), &n); err != nil {
		t.Fatal(err)
	}
	if err := syscall.Kill(n, syscall.SIGKILL); err != nil {
		t.Fatal(err)
	}
	gone(t, "the database did not come back", func() bool {
		again, err := os.ReadFile(filepath.Join(p.data, "data", "postmaster.pid"))
		if err != nil || bytes.Equal(again, pid) {
			return false
		}
		resp, err := http.Get(p.url + "/readyz")
		if err != nil {
			return false
		}
		resp.Body.Close()
		return resp.StatusCode == 200
	})
	if got := titled(t, p); got != "Kept over a crash" {
		t.Error(got)
	}
}

// TestInstaller runs the installer with stand-ins for apt-get and sudo.
func TestInstaller(t *testing.T) {
	t.Parallel()
	dir := t.TempDir()
	for name, script := range map[string]string{"apt-get": "echo \"apt-get $*\" >> " + dir + "/log", "sudo": "echo sudo >> " + dir + "/log; exec \"$@\"", "id": "echo 1000"} {
		if err := os.WriteFile(filepath.Join(dir, name), []byte("#!/bin/sh\n"+script+"\n"), 0o755); err != nil {
			t.Fatal(err)
		}
	}
	run := func(pairs ...string) string {
		cmd := exec.Command("sh", append([]string{"../scripts/debian.sh"}, pairs...)...)
		cmd.Env = append(os.Environ(), "PATH="+dir+":"+os.Getenv("PATH"))
		out, err := cmd.CombinedOutput()
		if err != nil {
			t.Fatalf("%v %s", err, out)
		}
		return string(out)
	}
	if said := run("/bin/sh=shell"); said != "" {
		t.Errorf("nothing was missing: %s", said)
	}
	if _, err := os.Stat(filepath.Join(dir, "log")); err == nil {
		t.Error("apt-get was called for nothing")
	}
	if said := run("/bin/sh=shell", "/no/such/*/file=postgresql", "/none=chromium"); !strings.Contains(said, "Installing from Debian: postgresql chromium") {
		t.Error(said)
	}
	log, _ := os.ReadFile(filepath.Join(dir, "log"))
	if s := string(log); !strings.Contains(s, "sudo\napt-get update") || !strings.Contains(s, "install") || !strings.Contains(s, "postgresql chromium") {
		t.Errorf("%s", s)
	}
}
