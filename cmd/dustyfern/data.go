package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"

	"dustyfern/craft/fault"
	"dustyfern/demo"
	"dustyfern/localpg"
	"dustyfern/store"
	"dustyfern/studio"
)

// data is the database of a run: a private cluster, or somebody else's server.
type data struct {
	log     *slog.Logger
	s       settings
	clock   func() time.Time
	lock    *os.File
	cluster *localpg.Cluster
	options localpg.Options
	store   *store.Store
}

var errRuns = errors.New("runs already")

// openURL uses the PostgreSQL of DATABASE_URL, which never gets demo data
// unasked.
func (d *data) openURL(ctx context.Context) error {
	if err := fitting(ctx, os.Getenv("DATABASE_URL")); err != nil {
		return err
	}
	if err := store.Migrate(ctx, ownerURL(), nil); errors.Is(err, store.ErrNewer) {
		return err
	} else if err != nil {
		return fmt.Errorf("the database of DATABASE_URL cannot be used (%s): check the address, the password and that the server runs", short(err))
	}
	if err := granted(ctx, os.Getenv("DATABASE_URL")); err != nil {
		return err
	}
	st, err := store.Open(ctx, os.Getenv("DATABASE_URL"))
	if err != nil {
		return fmt.Errorf("the database of DATABASE_URL does not answer (%s): check the address and that the server runs", short(err))
	}
	d.store = st
	return nil
}

// oldest is the PostgreSQL of Debian's oldest release that this was tried with.
const oldest = 15

// fitting refuses a server that is too old, and a role that row-level security
// does not bind, before anything is touched.
func fitting(ctx context.Context, dsn string) error {
	c, err := pgx.Connect(ctx, dsn)
	if err != nil {
		return fmt.Errorf("the database of DATABASE_URL does not answer (%s): check the address and that the server runs", short(err))
	}
	defer c.Close(ctx)
	var above bool
	var version int
	if err := c.QueryRow(ctx, "SELECT rolsuper OR rolbypassrls, current_setting('server_version_num')::int / 10000 FROM pg_roles WHERE rolname = current_user").Scan(&above, &version); err != nil {
		return err
	}
	if version < oldest {
		return fmt.Errorf("the server of DATABASE_URL is PostgreSQL %d: %d or later is wanted; nothing was touched", version, oldest)
	}
	if above {
		return errors.New("DATABASE_URL logs in as a superuser, whom no studio's walls hold: use a plain role there, and the owner's in DATABASE_OWNER_URL")
	}
	return nil
}

// granted looks that the role may do what the program does with each table.
func granted(ctx context.Context, dsn string) error {
	c, err := pgx.Connect(ctx, dsn)
	if err != nil {
		return fmt.Errorf("the database of DATABASE_URL does not answer (%s): check the address and that the server runs", short(err))
	}
	defer c.Close(ctx)
	var role, missing string
	err = c.QueryRow(ctx, `SELECT current_user, coalesce(string_agg(relname, ', ' ORDER BY relname), '')
		FROM pg_class
		WHERE relnamespace = 'public'::regnamespace AND relkind = 'r' AND relname NOT LIKE 'goose%'
		AND NOT (has_table_privilege(oid, 'SELECT') AND has_table_privilege(oid, 'INSERT') AND has_table_privilege(oid, 'UPDATE') AND has_table_privilege(oid, 'DELETE'))`).Scan(&role, &missing)
	if err != nil {
		return err
	}
	if missing != "" {
		return fmt.Errorf("the role %s of DATABASE_URL may not read and write %s: as the owner say GRANT SELECT, INSERT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO %[1]s", role, missing)
	}
	return nil
}

// short is an error without the address and password that drivers print.
func short(err error) string {
	s := err.Error()
	if i := strings.LastIndex(s, ": "); i >= 0 {
		s = s[i+2:]
	}
	return s
}

// say tells of the progress of a start.
func (d *data) say(words string) {
	if !d.s.quiet {
		fmt.Println(words)
	}
}

// openPrivate keeps a cluster of its own in the data folder.
func (d *data) openPrivate(ctx context.Context, address string) error {
	d.say("Opening the data folder " + d.s.data)
	if err := localpg.Prepare(d.s.data); err != nil {
		return fmt.Errorf("the data folder %s cannot be made or written (%s): choose another with --data or DUSTYFERN_DATA", d.s.data, short(err))
	}
	lock, err := takeLock(d.s.data, address)
	if err != nil {
		return err
	}
	d.lock = lock
	d.say("Starting PostgreSQL")
	d.options = localpg.Options{Dir: d.s.data, Durable: !d.s.fast, DieWithUs: true}
	if d.cluster, err = localpg.Start(ctx, d.options); err != nil {
		return fmt.Errorf("the private PostgreSQL does not start: %w (its log is %s)", err, filepath.Join(d.s.data, "postgres.log"))
	}
	d.options.Port = d.cluster.Port // the pool finds it again after a restart
	word, err := localpg.Secret(d.s.data, "app.password")
	if err != nil {
		return err
	}
	if err := d.cluster.EnsureDatabase(ctx, database); err != nil {
		return err
	}
	owner := d.cluster.DSN(database)
	if err := store.PrepareRole(ctx, owner, word); err != nil {
		return err
	}
	d.say("Bringing the tables up to date")
	if err := store.Migrate(ctx, owner, d.dumpFirst); errors.Is(err, store.ErrNewer) {
		return err
	} else if err != nil {
		return fmt.Errorf("the tables could not be brought up to date: %w", err)
	}
	if d.store, err = store.Open(ctx, d.cluster.DSNAs("dustyfern_app", word, database)); err != nil {
		return err
	}
	if d.s.noDemo {
		return nil
	}
	return d.demoOnce(ctx)
}

// dumpFirst keeps the database as it is beside the data before its tables are
// changed.
func (d *data) dumpFirst(ctx context.Context, version int64) error {
	dir := filepath.Join(d.s.data, "dumps")
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return err
	}
	path := filepath.Join(dir, fmt.Sprintf("before-version-%d-%s.dump", version, d.clock().UTC().Format("20060102-150405")))
	if err := d.cluster.Dump(ctx, database, path); err != nil {
		return fmt.Errorf("no copy could be made before the change, and nothing was changed: %w", err)
	}
	d.say("A copy of the database as it was is in " + path)
	return nil
}

// demoOnce loads the demo into a database that holds no studio.
func (d *data) demoOnce(ctx context.Context) error {
	all, err := d.store.Studios(ctx)
	if err != nil || len(all) > 0 {
		return err
	}
	d.say("Loading the demo studio")
	return loadAndPlan(ctx, d.store, d.clock)
}

// loadAndPlan fills an empty database with the demo, its line hung already.
func loadAndPlan(ctx context.Context, st *store.Store, clock func() time.Time) error {
	if err := demo.Load(ctx, st, clock()); err != nil {
		return err
	}
	return studio.New(st, clock).Plan(ctx, demo.Slug)
}

// resetDemo puts the demo studio back to its first state, and only that one.
func (d *data) resetDemo(service *studio.Service) func(context.Context, string) error {
	return func(ctx context.Context, slug string) error {
		if slug != demo.Slug {
			return fault.New(fault.Contradiction, "studio", "Only the demo studio can be put back.")
		}
		return service.Replace(ctx, slug, demo.Document(d.clock()))
	}
}

func (d *data) close() {
	if d.store != nil {
		d.store.Close()
	}
	if d.cluster != nil {
		_ = d.cluster.Stop()
	}
	if d.lock != nil {
		_ = d.lock.Truncate(0)
		_ = d.lock.Close()
	}
}

func withDatabase(what string, f func(context.Context, string) error) int {
	dsn := os.Getenv("DATABASE_URL")
	if dsn == "" {
		return fail("%s wants DATABASE_URL to say which database.", what)
	}
	if err := f(context.Background(), dsn); err != nil {
		return fail("%s: %v", what, short(err))
	}
	return 0
}

func loadDemo(ctx context.Context, dsn string) error {
	if err := store.Migrate(ctx, ownerURL(), nil); err != nil {
		return err
	}
	st, err := store.Open(ctx, dsn)
	if err != nil {
		return err
	}
	defer st.Close()
	return loadAndPlan(ctx, st, time.Now)
}
