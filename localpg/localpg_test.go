package localpg

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"syscall"
	"testing"

	"github.com/jackc/pgx/v5"
)

func folder(t *testing.T) string {
	t.Helper()
	dir, err := os.MkdirTemp("", "dflocal")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { os.RemoveAll(dir) })
	return dir
}

func begin(t *testing.T, dir string) *Cluster {
	t.Helper()
	c, err := Start(t.Context(), Options{Dir: dir, DieWithUs: true})
	if err != nil {
		t.Fatal(err)
	}
	return c
}

func TestAPasswordIsAsked(t *testing.T) {
	c := begin(t, folder(t))
	defer c.Stop()
	for _, word := range []string{"", "wrong"} {
		conn, err := pgx.Connect(t.Context(), c.DSNAs(superuser, word, "postgres"))
		if err == nil {
			conn.Close(t.Context())
			t.Errorf("let in with %q", word)
		} else if !strings.Contains(err.Error(), "password") {
			t.Error(err)
		}
	}
}

func TestDataStaysOverAStop(t *testing.T) {
	dir := folder(t)
	c := begin(t, dir)
	if err := c.EnsureDatabase(t.Context(), "kept"); err != nil {
		t.Fatal(err)
	}
	if err := c.Stop(); err != nil {
		t.Fatal(err)
	}
	c = begin(t, dir)
	defer c.Stop()
	conn, err := pgx.Connect(t.Context(), c.DSN("kept"))
	if err != nil {
		t.Fatal(err)
	}
	conn.Close(t.Context())
	if err := c.EnsureDatabase(t.Context(), "kept"); err != nil {
		t.Error("asked twice:", err)
	}
}

func TestAHalfMadeClusterIsBegunAgain(t *testing.T) {
	dir := folder(t)
	if err := Prepare(dir); err != nil {
		t.Fatal(err)
	}
	half := filepath.Join(dir, "data.new")
	if err := os.MkdirAll(filepath.Join(half, "base"), 0o700); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(filepath.Join(half, "PG_VERSION"), []byte("15\n"), 0o600); err != nil {
		t.Fatal(err)
	}
	c := begin(t, dir)
	defer c.Stop()
	if _, err := os.Stat(half); !os.IsNotExist(err) {
		t.Error("the half-made cluster is still there")
	}
}

func TestAServerThatOutlivedItsProgramIsStopped(t *testing.T) {
	dir := folder(t)
	first := begin(t, dir) // as if its program had been killed: nobody stops it
	second := begin(t, dir)
	defer second.Stop()
	<-first.Done()
	conn, err := pgx.Connect(t.Context(), second.DSN("postgres"))
	if err != nil {
		t.Fatal(err)
	}
	conn.Close(t.Context())
}

func TestAStaleFileOfAnotherProcessIsLeftAlone(t *testing.T) {
	dir := folder(t)
	data := filepath.Join(dir, "data")
	if err := os.MkdirAll(data, 0o700); err != nil {
		t.Fatal(err)
	}
	// the pid in it belongs to this very test, whose folder is another
	if err := os.WriteFile(filepath.Join(data, "postmaster.pid"), []byte(pidText()+"\n"), 0o600); err != nil {
		t.Fatal(err)
	}
	if err := stopStale(context.Background(), data); err != nil {
		t.Error(err)
	}
	if err := syscall.Kill(os.Getpid(), 0); err != nil {
		t.Error("we were stopped")
	}
}

func pidText() string {
	link, _ := os.Readlink("/proc/self")
	return link
}

func TestSecretsAreKeptAndClosed(t *testing.T) {
	dir := folder(t)
	a, err := Secret(dir, "x.password")
	if err != nil || len(a) != 48 {
		t.Fatal(a, err)
	}
	b, _ := Secret(dir, "x.password")
	other, _ := Secret(dir, "y.password")
	if a != b || a == other {
		t.Error("a secret is kept, and no two are alike")
	}
	st, err := os.Stat(filepath.Join(dir, "x.password"))
	if err != nil || st.Mode().Perm() != 0o600 {
		t.Error(st.Mode(), err)
	}
}

func TestALogThatGrewIsTurnedOver(t *testing.T) {
	dir := folder(t)
	path := filepath.Join(dir, "postgres.log")
	if err := os.WriteFile(path, make([]byte, 2<<20), 0o600); err != nil {
		t.Fatal(err)
	}
	f, err := openLog(dir)
	if err != nil {
		t.Fatal(err)
	}
	defer f.Close()
	if st, _ := f.Stat(); st.Size() != 0 {
		t.Error("the old log is still written to")
	}
	if _, err := os.Stat(path + ".old"); err != nil {
		t.Error(err)
	}
}
