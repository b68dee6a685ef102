// Package store remembers studios in PostgreSQL, through GORM. It is the only
// place that knows SQL.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"sync"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"

	"dustyfern/craft/technique"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is one pool of connections. A crowd in one studio takes turns before it
// takes connections, so that it never stops another one.
type Store struct {
	pool    *pgxpool.Pool
	db      *gorm.DB
	readers turns
	writers turns
	Library *technique.Library // ways of making that come with the program

	libraries sync.Map // of studios with ways of their own, by what these are
}

// Open connects to the database of a DSN. The size of the pool is the DSN's
// pool_max_conns, but at least 10. A tracer sees every query.
func Open(ctx context.Context, dsn string, tracer ...pgx.QueryTracer) (*Store, error) {
	cfg, err := pgxpool.ParseConfig(dsn)
	if err != nil {
		return nil, err
	}
	if cfg.MaxConns < 10 {
		cfg.MaxConns = 10
	}
	cfg.ConnConfig.ConnectTimeout = 5 * time.Second
	if len(tracer) > 0 {
		cfg.ConnConfig.Tracer = tracer[0]
	}
	pool, err := pgxpool.NewWithConfig(ctx, cfg)
	if err != nil {
		return nil, err
	}
	if err := pool.Ping(ctx); err != nil {
		pool.Close()
		return nil, err
	}
	db, err := gorm.Open(postgres.New(postgres.Config{Conn: stdlib.OpenDBFromPool(pool)}), &gorm.Config{
		TranslateError:         true,
		SkipDefaultTransaction: true, // we open our own, one per use case
		Logger:                 logger.Default.LogMode(logger.Silent),
		NowFunc:                func() time.Time { return time.Now().UTC().Truncate(time.Microsecond) },
	})
	if err != nil {
		pool.Close()
		return nil, err
	}
	return &Store{pool: pool, db: db, readers: turns{most: max(2, int(cfg.MaxConns)/2)}, writers: turns{most: 1}, Library: technique.Ours}, nil
}

// Close gives the connections back.
func (s *Store) Close() {
	if d, err := s.db.DB(); err == nil {
		_ = d.Close() // the sql.DB first, it hands its connections back
	}
	s.pool.Close()
}

// Ping reads a row: a database that takes connections and answers nothing is
// away all the same.
func (s *Store) Ping(ctx context.Context) error {
	var one int
	return foreseen("ping", s.pool.QueryRow(ctx, "SELECT count(*) FROM (SELECT FROM studios LIMIT 1) s").Scan(&one))
}

// Migrate brings the tables up to date, under a lock so that several copies of
// the program may start at once. It runs as the owner, not as the application.
// before, when there is one, is called with the version of tables that are about
// to be changed; its error leaves them as they are. Tables of a later program
// are ErrNewer.
func Migrate(ctx context.Context, dsn string, before func(ctx context.Context, version int64) error) error {
	cfg, err := pgxpool.ParseConfig(dsn)
	if err != nil {
		return err
	}
	cfg.ConnConfig.ConnectTimeout = 5 * time.Second
	pool, err := pgxpool.NewWithConfig(ctx, cfg)
	if err != nil {
		return err
	}
	defer pool.Close()
	db := stdlib.OpenDBFromPool(pool)
	defer db.Close()
	sub, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	locker, err := lock.NewPostgresSessionLocker()
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectPostgres, db, sub, goose.WithSessionLocker(locker))
	if err != nil {
		return err
	}
	have, want, err := p.GetVersions(ctx)
	if err != nil {
		return err
	}
	if have > want {
		return fmt.Errorf("%w: they are of version %d, this program knows %d", ErrNewer, have, want)
	}
	if have > 0 && have < want && before != nil {
		if err := before(ctx, have); err != nil {
			return err
		}
	}
	_, err = p.Up(ctx)
	return err
}

// ErrNewer says that the tables are of a later program; nothing was touched.
var ErrNewer = errors.New("the tables were made by a newer Dusty Fern: start that one; nothing was touched")

// rows: each carries its noun and the studio, which the database fills in.
type (
	stepRow struct {
		noun.Step `gorm:"embedded"`
	}
	planRow struct {
		noun.Plan `gorm:"embedded"`
	}
	photoRow struct {
		ID   int64
		JPEG []byte `gorm:"column:jpeg"`
	}
	entryRow struct {
		journal.Entry `gorm:"embedded"`
		Touches       textArray
	}
)

func (stepRow) TableName() string  { return "steps" }
func (planRow) TableName() string  { return "plans" }
func (photoRow) TableName() string { return "photos" }
func (entryRow) TableName() string { return "journal" }

// Studios lists every studio by name.
func (s *Store) Studios(ctx context.Context) ([]noun.Kitchen, error) {
	rows, err := rows[noun.Kitchen](s.db.WithContext(ctx).Order("name, id"))
	return rows, foreseen("list the studios", err)
}

// CreateStudio makes a studio and sets its ID.
func (s *Store) CreateStudio(ctx context.Context, k *noun.Kitchen) error {
	return s.CreateWith(ctx, k, func(journal.Tx) error { return nil })
}

// CreateWith makes a studio together with what f puts into it, or nothing.
func (s *Store) CreateWith(ctx context.Context, k *noun.Kitchen, f func(journal.Tx) error) error {
	return foreseen("make the studio", s.db.WithContext(ctx).Transaction(func(db *gorm.DB) error {
		if err := db.Table(tableOf(k)).Create(k).Error; err != nil {
			return err
		}
		if err := db.Exec("SELECT set_config('app.studio_id', ?, true)", fmt.Sprint(k.ID)).Error; err != nil {
			return err
		}
		return f(&tx{db: db, kitchen: k, store: s})
	}))
}

// Read runs f over one snapshot of one studio; nothing can be written in it.
func (s *Store) Read(ctx context.Context, slug string, f func(journal.Tx) error) error {
	leave, err := s.readers.enter(ctx, slug)
	if err != nil {
		return fmt.Errorf("%w: %w", journal.ErrAway, err)
	}
	defer leave()
	return s.in(ctx, slug, f, &sql.TxOptions{Isolation: sql.LevelRepeatableRead, ReadOnly: true})
}

// Write runs f alone in its studio. Who waits for a turn holds no connection
// meanwhile, and is served in the order of coming.
func (s *Store) Write(ctx context.Context, slug string, f func(journal.Tx) error) error {
	leave, err := s.writers.enter(ctx, slug)
	if err != nil {
		return fmt.Errorf("%w: %w", journal.ErrAway, err)
	}
	defer leave()
	return s.in(ctx, slug, func(x journal.Tx) error {
		if err := x.(*tx).lock(); err != nil {
			return err
		}
		return f(x)
	}, nil)
}

// in runs f as one transaction that sees one studio only.
func (s *Store) in(ctx context.Context, slug string, f func(journal.Tx) error, o *sql.TxOptions) error {
	var opts []*sql.TxOptions
	if o != nil {
		opts = append(opts, o)
	}
	return foreseen("studio "+slug, s.db.WithContext(ctx).Transaction(func(db *gorm.DB) error {
		var row noun.Kitchen
		// one query finds the studio and enters it: SET LOCAL takes no
		// parameters, set_config(.., true) does the same and does
		res := db.Raw("SELECT s.*, set_config('app.studio_id', s.id::text, true) FROM studios s WHERE s.slug = ?", slug).Scan(&row)
		if res.Error != nil {
			return res.Error
		}
		if res.RowsAffected == 0 {
			return journal.ErrNotFound
		}
		t := &tx{db: db, kitchen: &row, store: s}
		if o != nil { // who writes looks around when it is his turn
			if err := t.lookAround(); err != nil {
				return err
			}
		}
		return f(t)
	}, opts...))
}

// Drop deletes a studio with everything in it.
func (s *Store) Drop(ctx context.Context, slug string) error {
	return s.Write(ctx, slug, func(x journal.Tx) error {
		t := x.(*tx)
		if err := t.Clear(); err != nil {
			return err
		}
		if _, err := t.Tell(); err != nil { // before its pulse is gone
			return err
		}
		if err := t.db.Exec("DELETE FROM pulses").Error; err != nil {
			return err
		}
		return t.db.Exec("DELETE FROM studios WHERE id = ?", t.kitchen.ID).Error
	})
}

// PrepareRole makes the application's login role, when it is missing, with the
// password given. It runs as the owner of a private cluster.
func PrepareRole(ctx context.Context, ownerDSN, password string) error {
	pool, err := pgxpool.New(ctx, ownerDSN)
	if err != nil {
		return err
	}
	defer pool.Close()
	var there bool
	if err := pool.QueryRow(ctx, "SELECT EXISTS (SELECT FROM pg_roles WHERE rolname = 'dustyfern_app')").Scan(&there); err != nil {
		return err
	}
	verb := "CREATE"
	if there {
		verb = "ALTER"
	}
	// a role statement takes no parameters: the password is hexadecimal by construction
	for _, r := range password {
		if (r < '0' || r > '9') && (r < 'a' || r > 'f') {
			return fmt.Errorf("the password of the application's role must be hexadecimal")
		}
	}
	_, err = pool.Exec(ctx, verb+" ROLE dustyfern_app LOGIN NOSUPERUSER NOBYPASSRLS NOCREATEDB NOCREATEROLE PASSWORD '"+password+"'")
	return err
}
