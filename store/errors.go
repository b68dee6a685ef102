package store

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"errors"
	"fmt"
	"io"
	"net"
	"regexp"
	"strings"

	"github.com/jackc/pgx/v5/pgconn"
	"gorm.io/gorm"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
)

// foreseen puts an error of the database into the words of the house: away when
// it cannot be reached or shuts down, a fault on its field when a rule of a table
// is broken, a full disk, text that cannot be kept. Anything else goes on up with
// what was done.
func foreseen(what string, err error) error {
	var pg *pgconn.PgError
	var plain *fault.Fault
	switch {
	case err == nil || errors.As(err, &plain) || errors.Is(err, journal.ErrNotFound) || errors.Is(err, journal.ErrStale):
		return err
	case errors.As(err, &pg):
		return byCode(what, pg, err)
	case unreached(err):
		return fmt.Errorf("%s: %w: %w", what, journal.ErrAway, err)
	}
	return fmt.Errorf("%s: %w", what, err)
}

func byCode(what string, pg *pgconn.PgError, err error) error {
	switch {
	case strings.HasPrefix(pg.Code, "08") || strings.HasPrefix(pg.Code, "57P") || pg.Code == "53300":
		return fmt.Errorf("%s: %w: %w", what, journal.ErrAway, err)
	case pg.Code == "53100" || strings.Contains(pg.Message, "No space left on device"):
		return fmt.Errorf("%s: %w: %w", what, journal.ErrFull, err)
	case pg.Code == "22021" || pg.Code == "22P05":
		return fault.New(fault.Syntax, "", "There is a character in it that cannot be kept.")
	case pg.Code == "23514":
		return fault.New(fault.OutOfRange, fieldOf(pg.TableName, pg.ConstraintName), "That is beyond what can be kept there.")
	case pg.Code == "22003":
		return fault.New(fault.OutOfRange, "", "There is a number in it that is too large to be kept.")
	case pg.Code == "23505":
		return fault.New(fault.Contradiction, fieldOf(pg.TableName, pg.ConstraintName), "There is one of that name already.")
	case pg.Code == "40001" || pg.Code == "40P01":
		return fmt.Errorf("%s: %w: %w", what, journal.ErrStale, err)
	}
	return fmt.Errorf("%s: %w", what, err)
}

var underscored = regexp.MustCompile(`_([a-z])`)

// fieldOf reads the field out of the name of a rule: pieces_height_mm_check is
// about heightMM.
func fieldOf(table, constraint string) string {
	name := strings.TrimSuffix(strings.TrimPrefix(constraint, table+"_"), "_check")
	name = underscored.ReplaceAllStringFunc(name, func(s string) string { return strings.ToUpper(s[1:]) })
	for _, unit := range [][2]string{{"Mm", "MM"}, {"Ml", "ML"}} {
		if strings.HasSuffix(name, unit[0]) {
			name = strings.TrimSuffix(name, unit[0]) + unit[1]
		}
	}
	if strings.HasPrefix(name, "trial") {
		return "trial"
	}
	return name
}

// unreached tells whether the database was not there, or did not answer in time.
func unreached(err error) bool {
	var connect *pgconn.ConnectError
	var network net.Error
	return errors.As(err, &connect) || errors.Is(err, sql.ErrConnDone) || strings.Contains(err.Error(), "database is closed") || errors.As(err, &network) || errors.Is(err, driver.ErrBadConn) || errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) ||
		errors.Is(err, context.DeadlineExceeded) || errors.Is(err, net.ErrClosed) || pgconn.SafeToRetry(err) || strings.Contains(err.Error(), "conn closed") || strings.Contains(err.Error(), "closed pool")
}

func translate(err error) error {
	if errors.Is(err, gorm.ErrRecordNotFound) {
		return journal.ErrNotFound
	}
	return err
}
