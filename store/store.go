// Package store remembers studios in PostgreSQL, through GORM. It is the only
// place that knows SQL.
package store

import (
	"context"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"strings"
	"time"

	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
	"gorm.io/driver/postgres"
	"gorm.io/gorm"
	"gorm.io/gorm/logger"

	"dustyfern/craft/fault"
	"dustyfern/studio"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is one pool of connections.
type Store struct {
	pool *pgxpool.Pool
	db   *gorm.DB
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
	return &Store{pool, db}, nil
}

// Close gives the connections back.
func (s *Store) Close() {
	if d, err := s.db.DB(); err == nil {
		_ = d.Close() // the sql.DB first, it hands its connections back
	}
	s.pool.Close()
}

// Ping asks the database whether it answers.
func (s *Store) Ping(ctx context.Context) error { return s.pool.Ping(ctx) }

// Migrate brings the tables up to date, under a lock so that several copies of
// the program may start at once. It runs as the owner, not as the application.
func Migrate(ctx context.Context, dsn string) error {
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
	_, err = p.Up(ctx)
	return err
}

// rows: each carries its noun and the studio, which the database fills in.
type (
	kitchenRow struct {
		studio.Kitchen `gorm:"embedded"`
	}
	toolRow struct {
		studio.Tool `gorm:"embedded"`
	}
	lotRow struct {
		studio.Lot `gorm:"embedded"`
	}
	commissionRow struct {
		studio.Commission `gorm:"embedded"`
	}
	pieceRow struct {
		studio.Piece `gorm:"embedded"`
	}
	stepRow struct {
		studio.Step `gorm:"embedded"`
	}
	planRow struct {
		studio.Plan `gorm:"embedded"`
	}
	entryRow struct {
		studio.Entry `gorm:"embedded"`
	}
	timerRow struct {
		studio.Timer `gorm:"embedded"`
	}
)

func (kitchenRow) TableName() string    { return "studios" }
func (toolRow) TableName() string       { return "tools" }
func (lotRow) TableName() string        { return "lots" }
func (commissionRow) TableName() string { return "commissions" }
func (pieceRow) TableName() string      { return "pieces" }
func (stepRow) TableName() string       { return "steps" }
func (planRow) TableName() string       { return "plans" }
func (entryRow) TableName() string      { return "journal" }
func (timerRow) TableName() string      { return "timers" }

// Studios lists every studio by name.
func (s *Store) Studios(ctx context.Context) ([]studio.Kitchen, error) {
	var rows []kitchenRow
	if err := s.db.WithContext(ctx).Order("name, id").Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]studio.Kitchen, len(rows))
	for i := range rows {
		out[i] = rows[i].Kitchen
	}
	return out, nil
}

// CreateStudio makes a studio and sets its ID.
func (s *Store) CreateStudio(ctx context.Context, k *studio.Kitchen) error {
	row := kitchenRow{*k}
	err := s.db.WithContext(ctx).Create(&row).Error
	k.ID = row.ID
	return err
}

// CreateWith makes a studio together with what f puts into it.
func (s *Store) CreateWith(ctx context.Context, k *studio.Kitchen, f func(studio.Tx) error) error {
	return s.db.WithContext(ctx).Transaction(func(db *gorm.DB) error {
		row := kitchenRow{*k}
		if err := db.Create(&row).Error; err != nil {
			return err
		}
		k.ID = row.ID
		if err := db.Exec("SELECT set_config('app.studio_id', ?, true)", fmt.Sprint(k.ID)).Error; err != nil {
			return err
		}
		return f(&tx{db: db, kitchen: k})
	})
}

// In runs f as one transaction that sees one studio only.
func (s *Store) In(ctx context.Context, slug string, f func(studio.Tx) error) error {
	return foreseen(s.db.WithContext(ctx).Transaction(func(db *gorm.DB) error {
		var row kitchenRow
		// one query finds the studio and enters it: SET LOCAL takes no
		// parameters, set_config(.., true) does the same and does
		res := db.Raw("SELECT s.*, set_config('app.studio_id', s.id::text, true) FROM studios s WHERE s.slug = ?", slug).Scan(&row)
		if res.Error != nil {
			return res.Error
		}
		if res.RowsAffected == 0 {
			return studio.ErrNotFound
		}
		return f(&tx{db: db, kitchen: &row.Kitchen})
	}))
}

// foreseen tells errors that somebody can do something about from any other: a
// full disk, and text that PostgreSQL does not keep (NUL, broken UTF-8).
func foreseen(err error) error {
	var pg *pgconn.PgError
	switch {
	case !errors.As(err, &pg):
		return err
	case pg.Code == "53100" || strings.Contains(pg.Message, "No space left on device"):
		return fmt.Errorf("%w: %w", studio.ErrFull, err)
	case pg.Code == "22021" || pg.Code == "22P05":
		return fault.New(fault.Syntax, "", "There is a character in it that cannot be kept.")
	}
	return err
}

func translate(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return studio.ErrNotFound
	}
	return err
}

type tx struct {
	db      *gorm.DB
	kitchen *studio.Kitchen
	plan    *studio.Plan
	planGot bool
	// lists that were read already and have not been written since
	commissions []studio.Commission
	pieces      []studio.Piece
	steps       []studio.Step
}

func (t *tx) Kitchen() *studio.Kitchen { return t.kitchen }

// lockSpace sets our advisory locks apart from anybody else's.
const lockSpace = 8017

// Lock waits for its turn, then reads the kitchen anew: it may have changed
// while we waited.
func (t *tx) Lock() error {
	if err := t.db.Exec("SELECT pg_advisory_xact_lock(?, ?)", lockSpace, t.kitchen.ID).Error; err != nil {
		return err
	}
	var row kitchenRow
	if err := t.db.Where("id = ?", t.kitchen.ID).Take(&row).Error; err != nil {
		return translate(err)
	}
	*t.kitchen = row.Kitchen
	t.commissions, t.pieces, t.steps, t.planGot = nil, nil, nil, false
	return nil
}

func (t *tx) Plan() *studio.Plan {
	if !t.planGot {
		var rows []planRow
		if err := t.db.Limit(1).Find(&rows).Error; err == nil && len(rows) == 1 {
			t.plan = &rows[0].Plan
		}
		t.planGot = true
	}
	return t.plan
}

func (t *tx) SavePlan(p *studio.Plan) error {
	if err := t.db.Exec("DELETE FROM plans").Error; err != nil {
		return err
	}
	t.plan, t.planGot = p, true
	return t.db.Create(&planRow{*p}).Error
}

// save writes a row over the version it was read at. Select("*") writes zero
// values as well.
func save(db *gorm.DB, row any, id int64, version *int64, omit ...string) error {
	was := *version
	*version = was + 1
	res := db.Model(row).Where("id = ? AND version = ?", id, was).Select("*").Omit(append(omit, "id")...).Updates(row)
	if res.Error != nil || res.RowsAffected == 0 {
		*version = was
		if res.Error != nil {
			return res.Error
		}
		return studio.ErrStale
	}
	return nil
}

func (t *tx) SaveKitchen(k *studio.Kitchen) error {
	row := kitchenRow{*k}
	if err := save(t.db, &row, k.ID, &row.Version); err != nil {
		return err
	}
	*k = row.Kitchen
	t.kitchen = k
	return nil
}

func list[R, N any](db *gorm.DB, noun func(*R) N) ([]N, error) {
	var rows []R
	if err := db.Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]N, len(rows))
	for i := range rows {
		out[i] = noun(&rows[i])
	}
	return out, nil
}

// once reads a list unless it was read already, and gives what keep chooses.
func once[T any](cached *[]T, read func() ([]T, error), keep func(*T) bool) ([]T, error) {
	if *cached == nil {
		all, err := read()
		if err != nil {
			return nil, err
		}
		*cached = all
	}
	out := []T{}
	for i := range *cached {
		if keep(&(*cached)[i]) {
			out = append(out, (*cached)[i])
		}
	}
	return out, nil
}

func (t *tx) Commissions() ([]studio.Commission, error) {
	return once(&t.commissions, func() ([]studio.Commission, error) {
		return list(t.db.Order("id"), func(r *commissionRow) studio.Commission { return r.Commission })
	}, func(*studio.Commission) bool { return true })
}

func (t *tx) Commission(id int64) (studio.Commission, error) {
	var r commissionRow
	err := t.db.Where("id = ?", id).Take(&r).Error
	return r.Commission, translate(err)
}

func (t *tx) CreateCommission(c *studio.Commission) error {
	t.commissions = nil
	r := commissionRow{*c}
	err := t.db.Create(&r).Error
	*c = r.Commission
	return err
}

func (t *tx) SaveCommission(c *studio.Commission) error {
	t.commissions = nil
	r := commissionRow{*c}
	err := save(t.db, &r, c.ID, &r.Version)
	*c = r.Commission
	return err
}

func (t *tx) Pieces(commission int64) ([]studio.Piece, error) {
	return once(&t.pieces, func() ([]studio.Piece, error) {
		return list(t.db.Order("commission_id, position, id"), func(r *pieceRow) studio.Piece { return r.Piece })
	}, func(p *studio.Piece) bool { return commission == 0 || p.CommissionID == commission })
}

func (t *tx) Piece(id int64) (studio.Piece, error) {
	var r pieceRow
	err := t.db.Where("id = ?", id).Take(&r).Error
	return r.Piece, translate(err)
}

func (t *tx) CreatePiece(p *studio.Piece) error {
	t.pieces = nil
	r := pieceRow{*p}
	err := t.db.Create(&r).Error
	*p = r.Piece
	return err
}

func (t *tx) SavePiece(p *studio.Piece) error {
	t.pieces = nil
	r := pieceRow{*p}
	err := save(t.db, &r, p.ID, &r.Version)
	*p = r.Piece
	return err
}

func (t *tx) Tools() ([]studio.Tool, error) {
	return list(t.db.Order("name, id"), func(r *toolRow) studio.Tool { return r.Tool })
}

func (t *tx) Tool(id int64) (studio.Tool, error) {
	var r toolRow
	err := t.db.Where("id = ?", id).Take(&r).Error
	return r.Tool, translate(err)
}

func (t *tx) CreateTool(x *studio.Tool) error {
	r := toolRow{*x}
	err := t.db.Create(&r).Error
	*x = r.Tool
	return err
}

func (t *tx) SaveTool(x *studio.Tool) error {
	r := toolRow{*x}
	err := save(t.db, &r, x.ID, &r.Version)
	*x = r.Tool
	return err
}

func (t *tx) Lots() ([]studio.Lot, error) {
	return list(t.db.Order("id"), func(r *lotRow) studio.Lot { return r.Lot })
}

func (t *tx) Lot(id int64) (studio.Lot, error) {
	var r lotRow
	err := t.db.Where("id = ?", id).Take(&r).Error
	return r.Lot, translate(err)
}

func (t *tx) CreateLot(x *studio.Lot) error {
	r := lotRow{*x}
	err := t.db.Create(&r).Error
	*x = r.Lot
	return err
}

func (t *tx) SaveLot(x *studio.Lot) error {
	r := lotRow{*x}
	err := save(t.db, &r, x.ID, &r.Version)
	*x = r.Lot
	return err
}

func (t *tx) Steps(commission int64) ([]studio.Step, error) {
	return once(&t.steps, func() ([]studio.Step, error) {
		return list(t.db.Order("coalesce(actual_start, planned_start), id"), func(r *stepRow) studio.Step { return r.Step })
	}, func(s *studio.Step) bool { return commission == 0 || s.CommissionID == commission })
}

func (t *tx) Step(op string) (studio.Step, error) {
	var r stepRow
	err := t.db.Where("op = ?", op).Take(&r).Error
	return r.Step, translate(err)
}

// ReplacePlanned puts a new plan in the place of the old one; facts stay.
func (t *tx) ReplacePlanned(steps []studio.Step) error {
	t.steps = nil
	if err := t.db.Exec("DELETE FROM steps WHERE actual_start IS NULL").Error; err != nil {
		return err
	}
	if len(steps) == 0 {
		return nil
	}
	rows := make([]stepRow, len(steps))
	for i := range steps {
		rows[i] = stepRow{steps[i]}
		rows[i].ID = 0
	}
	return t.db.CreateInBatches(rows, 100).Error
}

func (t *tx) SaveStep(s *studio.Step) error {
	t.steps = nil
	r := stepRow{*s}
	err := save(t.db, &r, s.ID, &r.Version)
	*s = r.Step
	return err
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
