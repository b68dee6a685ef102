// Package localpg finds Debian's PostgreSQL and keeps a private cluster of it
// on loopback, with passwords, for one data folder.
package localpg

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strconv"
	"strings"
	"syscall"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
)

// Options of a cluster.
type Options struct {
	Dir       string // data lives in Dir/data; Dir is made 0700, owned by the server's user
	Port      int    // 0: a free one
	DieWithUs bool   // a killed program takes its server along
	Durable   bool   // false: fsync off, for tests only
}

// Cluster is a running server.
type Cluster struct {
	Port  int
	cmd   *exec.Cmd
	done  chan struct{}
	err   error
	log   *os.File
	owner string // password of the superuser
	bin   string
}

const superuser = "dustyfern"

// DSN of a database as the owner of the cluster.
func (c *Cluster) DSN(db string) string { return c.DSNAs(superuser, c.owner, db) }

// DSNAs is the DSN of a database for another role.
func (c *Cluster) DSNAs(role, password, db string) string {
	return fmt.Sprintf("postgres://%s:%s@127.0.0.1:%d/%s?sslmode=disable", role, password, c.Port, db)
}

// Done is closed when the server has ended.
func (c *Cluster) Done() <-chan struct{} { return c.done }

// Start makes the cluster on first use and starts it. An initdb that was
// killed half way is begun again; a server that outlived its program is
// stopped first. The caller holds the folder's lock.
func Start(ctx context.Context, o Options) (*Cluster, error) {
	cred, err := credential()
	if err != nil {
		return nil, err
	}
	if err := Prepare(o.Dir); err != nil {
		return nil, err
	}
	if o.Dir, err = filepath.EvalSymlinks(o.Dir); err != nil {
		return nil, err
	}
	if o.Dir, err = filepath.Abs(o.Dir); err != nil {
		return nil, err
	}
	data := filepath.Join(o.Dir, "data")
	bin, err := binDir(data)
	if err != nil {
		return nil, err
	}
	_, err = os.Stat(data)
	fresh := errors.Is(err, fs.ErrNotExist)
	if !fresh && !secretThere(o.Dir, ownerFile) {
		return nil, fmt.Errorf("%s is missing or empty: it is the key to the data beside it; put it back from your copy of the folder", filepath.Join(o.Dir, ownerFile))
	}
	owner, err := Secret(o.Dir, ownerFile)
	if err != nil {
		return nil, err
	}
	if fresh {
		if err := initialise(cred, bin, data, owner, o); err != nil {
			return nil, err
		}
	}
	if err := stopStale(ctx, data); err != nil {
		return nil, err
	}
	for try := 0; ; try++ {
		c, err := launch(ctx, bin, data, owner, cred, o)
		switch {
		case errors.Is(err, errInUse) && try < 50:
			// the children of a server that was killed end within a moment
			select {
			case <-ctx.Done():
				return nil, ctx.Err()
			case <-time.After(200 * time.Millisecond):
			}
		case errors.Is(err, errPort) && o.Port == 0 && try < 4:
		default:
			return c, err
		}
	}
}

// initialise makes the cluster beside its place and moves it there when it is
// whole.
func initialise(cred *syscall.Credential, bin, data, owner string, o Options) error {
	fresh := data + ".new"
	if err := os.RemoveAll(fresh); err != nil {
		return err
	}
	words := filepath.Join(o.Dir, "initdb.password")
	if err := os.WriteFile(words, []byte(owner+"\n"), 0o600); err != nil {
		return err
	}
	defer os.Remove(words)
	if cred != nil {
		if err := os.Chown(words, int(cred.Uid), int(cred.Gid)); err != nil {
			return err
		}
	}
	args := []string{"-D", fresh, "-U", superuser, "-A", "scram-sha-256", "--pwfile", words, "-E", "UTF8", "--locale=C.UTF-8", "--no-instructions"}
	if !o.Durable {
		args = append(args, "--no-sync")
	}
	if out, err := command(cred, o.Dir, filepath.Join(bin, "initdb"), args...).CombinedOutput(); err != nil {
		_ = os.WriteFile(filepath.Join(o.Dir, "postgres.log"), out, 0o600)
		return ended(out)
	}
	return os.Rename(fresh, data)
}

var (
	errPort  = errors.New("port taken")
	errInUse = errors.New("an older server's memory is still in use")
)

// stopStale stops a server that outlived a killed program. A stale pid file
// whose process is gone is removed by PostgreSQL itself.
func stopStale(ctx context.Context, data string) error {
	b, err := os.ReadFile(filepath.Join(data, "postmaster.pid"))
	if err != nil {
		return nil
	}
	pid, err := strconv.Atoi(strings.TrimSpace(string(bytes.SplitN(b, []byte("\n"), 2)[0])))
	if err != nil || pid <= 1 {
		return nil
	}
	// the pid may have been given to another process since: look before signalling
	cwd, err := os.Readlink(fmt.Sprintf("/proc/%d/cwd", pid))
	if err != nil || cwd != data {
		return nil
	}
	if err := syscall.Kill(pid, syscall.SIGINT); err != nil {
		return err
	}
	tick := time.NewTicker(20 * time.Millisecond)
	defer tick.Stop()
	deadline := time.After(30 * time.Second)
	for {
		if syscall.Kill(pid, 0) != nil {
			return nil
		}
		select {
		case <-tick.C:
		case <-ctx.Done():
			return ctx.Err()
		case <-deadline:
			return fmt.Errorf("an older database server (process %d) on %s does not stop", pid, data)
		}
	}
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, err
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

func arguments(data string, port int, durable bool) []string {
	args := []string{"-D", data, "-p", strconv.Itoa(port),
		"-c", "listen_addresses=127.0.0.1",
		"-c", "unix_socket_directories=", // none: no path limit (107 bytes), no /var/run/postgresql rights
		"-c", "max_connections=100", "-c", "timezone=UTC", "-c", "log_min_messages=warning",
		"-c", "dynamic_shared_memory_type=mmap",
	}
	if !durable {
		for _, off := range []string{"fsync=off", "synchronous_commit=off", "full_page_writes=off", "wal_level=minimal", "max_wal_senders=0", "autovacuum=off", "shared_buffers=128MB"} {
			args = append(args, "-c", off)
		}
	}
	return args
}

// openLog begins a new log when the old one has grown past a megabyte.
func openLog(dir string) (*os.File, error) {
	path := filepath.Join(dir, "postgres.log")
	if st, err := os.Stat(path); err == nil && st.Size() > 1<<20 {
		_ = os.Rename(path, path+".old")
	}
	return os.OpenFile(path, os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o600)
}

func launch(ctx context.Context, bin, data, owner string, cred *syscall.Credential, o Options) (*Cluster, error) {
	port := o.Port
	if port == 0 {
		var err error
		if port, err = freePort(); err != nil {
			return nil, err
		}
	}
	log, err := openLog(o.Dir)
	if err != nil {
		return nil, err
	}
	before, err := log.Seek(0, io.SeekEnd) // what earlier runs wrote is not about this one
	if err != nil {
		return nil, err
	}
	c := &Cluster{Port: port, bin: bin, done: make(chan struct{}), log: log, owner: owner}
	c.cmd = command(cred, o.Dir, filepath.Join(bin, "postgres"), arguments(data, port, o.Durable)...)
	c.cmd.Stdout, c.cmd.Stderr = log, log
	started := make(chan error)
	go func() {
		// Pdeathsig follows the thread that forked: keep this one until the server has ended
		runtime.LockOSThread()
		defer runtime.UnlockOSThread()
		if o.DieWithUs {
			c.cmd.SysProcAttr.Pdeathsig = syscall.SIGINT
		}
		err := c.cmd.Start()
		started <- err
		if err == nil {
			c.err = c.cmd.Wait()
			close(c.done)
		}
	}()
	if err := <-started; err != nil {
		return nil, err
	}
	return c, c.ready(ctx, int(before))
}

// ready waits until the server answers.
func (c *Cluster) ready(ctx context.Context, before int) error {
	tick := time.NewTicker(20 * time.Millisecond)
	defer tick.Stop()
	for {
		// a time of its own: a stranger on the port may accept and then say nothing
		try, cancel := context.WithTimeout(ctx, time.Second)
		conn, err := pgx.Connect(try, c.DSN("postgres"))
		cancel()
		if err == nil {
			return conn.Close(ctx)
		}
		if refused := (*pgconn.PgError)(nil); errors.As(err, &refused) && strings.HasPrefix(refused.Code, "28") { // it answers, and never will otherwise
			_ = c.Stop()
			return fmt.Errorf("the password in %s is not the one of the data beside it: put the file back from your copy of the folder", filepath.Join(filepath.Dir(c.log.Name()), ownerFile))
		}
		select {
		case <-c.done:
			tail, _ := os.ReadFile(c.log.Name())
			tail = tail[min(before, len(tail)):]
			if bytes.Contains(tail, []byte("Address already in use")) {
				return errPort
			}
			if bytes.Contains(tail, []byte("is still in use")) {
				return errInUse
			}
			return ended(tail)
		case <-ctx.Done():
			_ = c.Stop()
			return ctx.Err()
		case <-tick.C:
		}
	}
}

// ended says in a sentence why PostgreSQL did not come up.
func ended(tail []byte) error {
	switch {
	case bytes.Contains(tail, []byte("No space left on device")):
		return errors.New("the disk is full: free some room and start again")
	case bytes.Contains(tail, []byte("ermission denied")):
		return errors.New("its files may not be read or written: look who owns the folder")
	}
	return errors.New("it ended at once")
}

// Dump writes a database to a file in PostgreSQL's own archive format, which
// pg_restore reads.
func (c *Cluster) Dump(ctx context.Context, name, path string) error {
	part := path + ".part"
	cmd := exec.CommandContext(ctx, filepath.Join(c.bin, "pg_dump"), "--format=custom", "--host=127.0.0.1", "--port="+strconv.Itoa(c.Port), "--username="+superuser, "--file="+part, name)
	cmd.Env = []string{"PATH=/usr/bin:/bin", "LC_ALL=C.UTF-8", "PGPASSWORD=" + c.owner}
	if out, err := cmd.CombinedOutput(); err != nil {
		_ = os.Remove(part)
		return fmt.Errorf("pg_dump: %w: %s", err, bytes.TrimSpace(out))
	}
	return os.Rename(part, path)
}

// Stop is a fast shutdown: open transactions are rolled back, the data is left
// clean.
func (c *Cluster) Stop() error {
	_ = c.cmd.Process.Signal(syscall.SIGINT) // SIGTERM waits for clients, SIGINT does not
	select {
	case <-c.done:
	case <-time.After(5 * time.Second):
		_ = c.cmd.Process.Signal(syscall.SIGQUIT)
		<-c.done
	}
	return c.log.Close()
}

// EnsureDatabase makes a database of the cluster when it is missing.
func (c *Cluster) EnsureDatabase(ctx context.Context, name string) error {
	conn, err := pgx.Connect(ctx, c.DSN("postgres"))
	if err != nil {
		return err
	}
	defer conn.Close(ctx)
	var there bool
	if err := conn.QueryRow(ctx, "SELECT EXISTS (SELECT FROM pg_database WHERE datname = $1)", name).Scan(&there); err != nil || there {
		return err
	}
	_, err = conn.Exec(ctx, "CREATE DATABASE "+pgx.Identifier{name}.Sanitize())
	return err
}
