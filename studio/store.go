package studio

import (
	"context"
	"errors"
)

// Errors of Store.
var (
	ErrNotFound = errors.New("not found")
	ErrStale    = errors.New("changed meanwhile")
	ErrFull     = errors.New("the disk is full")
)

// Store remembers studios. In runs f as one transaction that sees only the
// studio of that address.
type Store interface {
	Studios(ctx context.Context) ([]Kitchen, error)
	CreateStudio(ctx context.Context, k *Kitchen) error
	CreateWith(ctx context.Context, k *Kitchen, f func(Tx) error) error // the studio and what f puts into it, or nothing
	In(ctx context.Context, slug string, f func(Tx) error) error
	Ping(ctx context.Context) error
}

// Tx is one transaction in one studio. Saves raise the version of a row and
// meet ErrStale when it is no longer the one that was read.
type Tx interface {
	Kitchen() *Kitchen
	Lock() error // others who change this studio, or make its plan, wait until we are done
	Plan() *Plan // nil: none was made yet
	SaveKitchen(k *Kitchen) error
	SavePlan(p *Plan) error

	Commissions() ([]Commission, error)
	Commission(id int64) (Commission, error) // also one that was deleted
	CreateCommission(c *Commission) error
	SaveCommission(c *Commission) error

	Pieces(commission int64) ([]Piece, error) // 0: of all commissions
	Piece(id int64) (Piece, error)
	CreatePiece(p *Piece) error
	SavePiece(p *Piece) error

	Tools() ([]Tool, error)
	Tool(id int64) (Tool, error)
	CreateTool(t *Tool) error
	SaveTool(t *Tool) error

	Lots() ([]Lot, error)
	Lot(id int64) (Lot, error)
	CreateLot(l *Lot) error
	SaveLot(l *Lot) error

	Steps(commission int64) ([]Step, error) // 0: of all commissions
	Step(op string) (Step, error)
	ReplacePlanned(steps []Step) error // all that are no facts
	SaveStep(s *Step) error

	Timers() ([]Timer, error) // those that nobody has answered
	Timer(id int64) (Timer, error)
	CreateTimer(t *Timer) error
	SaveTimer(t *Timer) error

	AddEntry(e *Entry) error
	Entry(id int64) (Entry, error)
	Entries(commission, before int64, most int) ([]Entry, error) // newest first; commission 0: of the studio
	LastEntry(which string) (Entry, error)
	SetUndone(id int64, undone bool) error
	EntryOf(act string) (Entry, error)                    // by the sender's number
	RowAt(noun string, id, version int64) ([]byte, error) // a row as JSON at an earlier version
	Clear() error                                         // everything of the studio but its kitchen
	Tell() error                                          // other windows hear of it when this transaction holds
}
