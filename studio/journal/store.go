package journal

import (
	"context"
	"errors"
	"time"

	"dustyfern/craft/drying"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
)

// Errors of Store.
var (
	ErrNotFound = errors.New("not found")
	ErrStale    = errors.New("changed meanwhile")
	ErrFull     = errors.New("the disk is full")
	ErrAway     = errors.New("the database is away")
)

// Store remembers studios. A read is one snapshot in which nothing is written;
// a write is alone in its studio.
type Store interface {
	Studios(ctx context.Context) ([]noun.Kitchen, error)
	CreateStudio(ctx context.Context, k *noun.Kitchen) error
	CreateWith(ctx context.Context, k *noun.Kitchen, f func(Tx) error) error // the studio and what f puts into it, or nothing
	Drop(ctx context.Context, slug string) error                             // the studio and everything in it
	Read(ctx context.Context, slug string, f func(Tx) error) error
	Write(ctx context.Context, slug string, f func(Tx) error) error
	Ping(ctx context.Context) error
}

// Named is something that has a name: a commission, a piece, a lot or a tool. Of is the
// order or the kind that it belongs to.
type Named struct {
	Kind, Name, Of string
	ID, Parent     int64
}

// Pulse counts what the windows of a studio were told, and from how much of what
// was wanted its plan is made.
type Pulse struct {
	Told, Wanted, Made int64
}

// Tx is one transaction in one studio. Saves raise the version of a row and
// meet ErrStale when it is no longer the one that was read. Lists hold no row
// that was deleted unless it is said; what is open is read by an index of what
// is open.
type Tx interface {
	Kitchen() *noun.Kitchen
	Plan() (*noun.Plan, error) // nil: none was made yet
	Pulse() (Pulse, error)
	Take(row noun.Noun, id int64) error // fills the row, also with one that was deleted; ErrNotFound
	Create(rows ...noun.Noun) error     // of one noun; sets their numbers
	Save(row noun.Noun) error
	SavePlan(p *noun.Plan) error
	WantPlan() error
	PlanMade(wanted int64) error
	Tell() (told int64, err error)        // other windows hear of it when this transaction holds
	Clear() error                         // everything of the studio but its kitchen
	Library() (*technique.Library, error) // ways of making: ours, and the studio's own

	OpenCommissions() ([]noun.Commission, error)
	ClosedCommissions(skip, most int) ([]noun.Commission, error) // the latest first
	AllCommissions() ([]noun.Commission, error)                  // also deleted ones

	Pieces(commission int64) ([]noun.Piece, error)      // also deleted ones
	PiecesOf(commissions []int64) ([]noun.Piece, error) // also deleted ones
	OpenPieces() ([]noun.Piece, error)
	Leaves(commissions []int64) ([]noun.Piece, error) // what a frond is drawn from; nil: of the open ones
	PieceUsing(tool int64) (noun.Piece, error)
	MakeRoom(commission int64, from int) error // the pieces from a place on go one down

	OwnWays() ([]noun.OwnWay, error)
	PieceMadeAs(key string) (noun.Piece, error)

	Tools() ([]noun.Tool, error)
	ToolFor(piece int64) (noun.Tool, error) // what it is shaped with; ErrNotFound
	Photo(id int64) ([]byte, error)         // a JPEG
	PhotoBytes() (int64, error)             // of the photos that tools have
	AddPhoto(jpeg []byte) (id int64, err error)
	ToolsOf(ids []int64) ([]noun.Tool, error) // also deleted ones

	Lots() ([]noun.Lot, error)
	LotsOf(ids []int64) ([]noun.Lot, error) // also deleted ones
	LotsCalled(name string) ([]noun.Lot, error)

	Steps(commission int64) ([]noun.Step, error)
	AllSteps() ([]noun.Step, error)
	StepsNamed(ops []string) ([]noun.Step, error)
	StepsNear(most int) ([]noun.Step, error)            // whole batches of what hands are at and come to next
	StepsDone(most int) ([]noun.Step, error)            // of open commissions, the latest first
	ThinSteps() ([]noun.Step, error)                    // of open commissions: their times and facts, no words
	BareSteps(commissions []int64) ([]noun.Step, error) // times and facts alone; nil: of the open ones
	ThinStepsWithin(from, to time.Time) ([]noun.Step, error)
	Presses(commissions []int64) ([]noun.Step, error) // whose pieces are not on the cake yet
	// BreakageIn sums what was made in tools and what of it broke, of the latest pieces of
	// each, by way of making; that of the pieces apart is told by itself, of all others as of
	// piece 0.
	BreakageIn(tools, apart []int64) ([]noun.Breakage, error)
	MadeWith(tool int64, most int) ([]noun.Step, error)     // finished making steps of its pieces, the latest first
	Clocked(ways []string) ([]noun.Clocked, error)          // what hands took over the latest steps of these ways of making
	TakenSince(at time.Time, most int) ([]noun.Step, error) // finished steps that took something out of lots, of any commission, the latest first
	Taken() ([]noun.Step, error)                            // what finished steps of open commissions took out of lots
	TakenFor(commission int64) ([]noun.Step, error)
	Step(op string) (noun.Step, error)
	ReplaceSteps(drop []string, steps []noun.Step) error
	SaveStep(s *noun.Step) error               // its facts
	GiveBody(op string, body *noun.Body) error // to a drying that was begun before such was kept

	AddReadings(all []noun.Reading) error // of the air: one a minute and place, the hours with them
	Strip(rack int64, from, to time.Time, step time.Duration) ([]noun.Stretched, error)
	ForgetMinutes(before time.Time) error
	KeepBelief(b *drying.Belief) error
	TeachingNotes(most int) ([]noun.Note, error)                        // of drying, the latest first
	WorkNotes(most int) ([]noun.Note, error)                            // joins that held or fell, and what is to be remembered, the latest first
	Causes(technique string) (map[string]int, error)                    // confirmed of pieces made so, by cause
	CausesLately(most int) ([]noun.Note, error)                         // that were confirmed, the latest first
	FinishedNotes(commission int64, most int) ([]noun.Note, error)      // of the finished work, the latest first
	NotesOf(ops []string) ([]noun.Note, error)                          // seen at these steps, in order
	NotesOfPiece(name string, not int64, most int) ([]noun.Note, error) // of pieces of that name in other orders, the latest first
	MinutesByMonth(since time.Time) ([]noun.MonthOf, error)
	Notes(find noun.NoteFind, skip, most int) ([]noun.Note, error) // the latest first

	Timers() ([]noun.Timer, error)  // of one's own, that nobody has answered
	Answers() ([]noun.Timer, error) // to clocks of waits, of open commissions

	Find(words []string, most int) ([]Named, error) // by name: what is open first, then the latest

	AddEntry(e *Entry) error
	AddEntries(es []Entry) error
	Entry(id int64) (Entry, error)
	Entries(commission, before int64, most int) ([]Entry, error) // newest first; commission 0: of the studio
	EntriesSince(of string, id, version int64) ([]Entry, error)  // that changed a row after a version, newest first
	LastEntry(which string) (Entry, error)
	SetUndone(id int64, undone bool) error
	EntryOf(act string) (Entry, error) // by the sender's number
	Prune(bench, other time.Time, most int) (int64, error)
}
