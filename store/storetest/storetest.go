// Package storetest gives tests the real PostgreSQL: one private cluster for a
// test binary, and in it a database for each test, copied from a template.
package storetest

import (
	"context"
	"errors"
	"fmt"
	"os"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"

	"dustyfern/localpg"
	"dustyfern/store"
	"dustyfern/store/storetest/memory"
)

// Word is the password of the application's role in the tests' cluster.
const Word = "00112233445566778899aabbccddeeff"

var (
	cluster *localpg.Cluster
	n       atomic.Int64
)

// Run starts the cluster, prepares the template and runs the tests of a
// package; it returns what os.Exit wants.
func Run(m *testing.M) int {
	ctx := context.Background()
	dir, err := os.MkdirTemp(memory.Dir(), "dfpg")
	if err == nil {
		defer os.RemoveAll(dir)
		cluster, err = localpg.Start(ctx, localpg.Options{Dir: dir, DieWithUs: true})
	}
	if err == nil {
		defer cluster.Stop()
		err = cluster.EnsureDatabase(ctx, "fresh")
	}
	if err == nil {
		err = store.PrepareRole(ctx, OwnerDSN("fresh"), Word)
	}
	if err == nil {
		err = store.Migrate(ctx, OwnerDSN("fresh"), nil)
	}
	if err == nil {
		err = seal(ctx, "fresh")
	}
	if err != nil {
		fmt.Println(err)
		return 1
	}
	return m.Run()
}

// seal makes a database a template: nobody may connect any more, since one is copied only
// while it is alone, and it waits until the last has left, for a backend outlives its
// connection by a moment.
func seal(ctx context.Context, name string) error {
	c, err := pgx.Connect(ctx, OwnerDSN("postgres"))
	if err != nil {
		return err
	}
	defer c.Close(ctx)
	if _, err := c.Exec(ctx, "ALTER DATABASE "+name+" ALLOW_CONNECTIONS false"); err != nil {
		return err
	}
	tick := time.NewTicker(20 * time.Millisecond)
	defer tick.Stop()
	for range 3000 {
		var n int
		if err := c.QueryRow(ctx, "SELECT count(*) FROM pg_stat_activity WHERE datname = $1", name).Scan(&n); err != nil || n == 0 {
			return err
		}
		<-tick.C
	}
	return fmt.Errorf("the database %q is still in use", name)
}

// OwnerDSN reaches a database as its owner, past row-level security.
func OwnerDSN(name string) string { return cluster.DSN(name) }

// DSN reaches a database as the application does.
func DSN(name string) string { return cluster.DSNAs("dustyfern_app", Word, name) }

// Database makes a fresh, migrated database and gives its name.
func Database(t testing.TB) string {
	t.Helper()
	return copyOf(t, "fresh")
}

func copyOf(t testing.TB, template string) string {
	t.Helper()
	name := fmt.Sprintf("t%d", n.Add(1))
	if err := Exec(t, "postgres", "CREATE DATABASE "+name+" TEMPLATE "+template+" STRATEGY FILE_COPY"); err != nil {
		t.Fatal(err)
	}
	return name
}

// filled are templates that hold something already, each made by the first test that
// wants it.
var filled sync.Map // by name: func() error

// OpenFilled gives a store on a database of its own in which fill has been done: once for
// all tests that want it under that name.
func OpenFilled(t testing.TB, name string, fill func(*store.Store) error) (*store.Store, string) {
	t.Helper()
	once, _ := filled.LoadOrStore(name, sync.OnceValue(func() error {
		ctx := context.Background()
		if err := Exec(t, "postgres", "CREATE DATABASE "+name+" TEMPLATE fresh STRATEGY FILE_COPY"); err != nil {
			return err
		}
		s, err := store.Open(ctx, DSN(name))
		if err != nil {
			return err
		}
		err = fill(s)
		s.Close()
		return errors.Join(err, seal(ctx, name))
	}))
	if err := once.(func() error)(); err != nil {
		t.Fatal(err)
	}
	return open(t, copyOf(t, name))
}

// Open gives a store on a database of its own, and the database's name.
func Open(t testing.TB) (*store.Store, string) {
	t.Helper()
	return open(t, Database(t))
}

func open(t testing.TB, name string) (*store.Store, string) {
	t.Helper()
	s, err := store.Open(t.Context(), DSN(name))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	return s, name
}

// Exec runs SQL as the owner of a database.
func Exec(t testing.TB, name, q string) error {
	t.Helper()
	return ExecAs(t, OwnerDSN(name), q)
}

// ExecAs runs SQL as whoever the DSN names.
func ExecAs(t testing.TB, dsn, q string) error {
	t.Helper()
	ctx := context.Background()
	c, err := pgx.Connect(ctx, dsn)
	if err != nil {
		t.Fatal(err)
	}
	defer c.Close(ctx)
	_, err = c.Exec(ctx, q)
	return err
}
