package journal

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
)

// Entry is a line of the journal: what somebody did, in words, with every row
// it touched as it stood before and after.
type Entry struct {
	ID           int64
	At           time.Time
	Who          string
	Says         string
	Act          string
	CommissionID *int64
	Bench        bool   // done at the bench: Backspace finds it
	Kind         string // did, back (it took another back) or again (it did that again)
	Undoes       *int64
	Undone       bool
	Rows         []Touched `gorm:"serializer:json"`
}

// Touched is what an entry changed of a row: the fields before and after it. A
// field that is a list names the elements that changed: "Fills[3]". Made: the
// entry made the row.
type Touched struct {
	Noun   string `json:"noun"`
	ID     int64  `json:"id,omitempty"`
	Op     string `json:"op,omitempty"` // of a step, whose id changes with each plan
	From   int64  `json:"from"`         // version before
	To     int64  `json:"to"`
	Made   bool   `json:"made,omitempty"`
	Before fields `json:"before,omitempty"`
	After  fields `json:"after,omitempty"`
}

// Merges reports whether earlier states of the row are asked for, when two
// windows change it.
func (t *Touched) Merges() bool { return t.Noun != "step" && t.Noun != "timer" }

// made also knows the lines of before, which kept the whole row.
func (t *Touched) made() bool { return t.Made || t.Before == nil && t.From == 0 && t.After != nil }

// actor says who does something, the sender's own number of the act, and when it
// was done when that was before it could be sent.
type actor struct {
	who, act string
	at       time.Time
	told     *int64 // where the count of what windows were told goes
	holds    *int64 // and that of a read
}

type actorKey struct{}

// As names who acts. act is a number that the sender gives each thing it does,
// so that one that is sent twice is done once; "" for none.
func As(ctx context.Context, who, act string) context.Context {
	by, _ := ctx.Value(actorKey{}).(actor)
	by.who, by.act = who, act
	return context.WithValue(ctx, actorKey{}, by)
}

// Who is who acts or looks, as the sender says; "" when it says nothing.
func Who(ctx context.Context) string {
	by, _ := ctx.Value(actorKey{}).(actor)
	return by.who
}

// DoneAt says when something was done that could not be sent at once.
func DoneAt(ctx context.Context, at time.Time) context.Context {
	by, _ := ctx.Value(actorKey{}).(actor)
	by.at = at
	return context.WithValue(ctx, actorKey{}, by)
}

// WithTold notes how often windows were told of a change, this one's own
// included.
func WithTold(ctx context.Context, told *int64) context.Context {
	by, _ := ctx.Value(actorKey{}).(actor)
	by.told = told
	return context.WithValue(ctx, actorKey{}, by)
}

// WithHeld notes after how many changes that windows were told of something is read.
func WithHeld(ctx context.Context, held *int64) context.Context {
	by, _ := ctx.Value(actorKey{}).(actor)
	by.holds = held
	return context.WithValue(ctx, actorKey{}, by)
}

// keptLongest is how long an act may have waited in a window and still count
// from when it was done.
const keptLongest = 24 * time.Hour

// moment is when an act counts from: now, or when it was done.
func (by actor) moment(now time.Time) time.Time {
	if by.at.Before(now) && by.at.After(now.Add(-keptLongest)) {
		return by.at.In(now.Location())
	}
	return now
}

// Acting is one use case that changes something, while it runs.
type Acting struct {
	*Recorder
	House      *noun.Kitchen
	Now        time.Time
	says       string
	commission *int64
	Bench      bool
	kind       string
	undoes     *int64
	By         string
}

// KeepPhoto keeps a photo that is small enough, within what all of a studio's may take.
func (a *Acting) KeepPhoto(jpeg []byte) (id int64, err error) {
	used, err := a.PhotoBytes()
	if err != nil {
		return 0, err
	}
	if used+int64(len(jpeg)) > noun.MostPhotoBytes {
		return 0, fault.New(fault.OutOfRange, "photo", "The photos of this studio take %d MB, which is all that it carries: take some away first.", used>>20)
	}
	return a.AddPhoto(jpeg)
}

// Say puts what is done into the words of the journal, without who did it.
func (a *Acting) Say(commission int64, format string, args ...any) {
	a.says = fmt.Sprintf(format, args...)
	if commission != 0 {
		a.commission = &commission
	}
}

// Act runs a use case that changes something, alone in its studio, and writes it
// into the journal; the plan follows beside it, in a transaction of its own. An
// act that was done already, by its number, is not done again. then reads what
// the caller shows. made is the row that it made, if it made one.
func (s *Desk) Act(ctx context.Context, slug string, do func(a *Acting) error, then func(tx Tx, k *noun.Kitchen, now time.Time) error) (made int64, err error) {
	by, _ := ctx.Value(actorKey{}).(actor)
	wanted := false
	err = s.Store.Write(ctx, slug, func(tx Tx) error {
		k := tx.Kitchen()
		now := s.Clock().In(k.Zone())
		e, err := entryOf(tx, by.act)
		if err != nil {
			return err
		}
		if e == nil {
			if e, err = s.enter(tx, k, by.moment(now), by, do); err != nil {
				return err
			}
			wanted = e != nil && e.movesPlan()
			k = tx.Kitchen()
		}
		if e != nil {
			for _, t := range e.Rows {
				if t.made() && made == 0 {
					made = t.ID
				}
			}
		}
		if then == nil {
			return nil
		}
		return then(tx, k, now)
	})
	if err == nil && wanted {
		s.PlanSoon(slug)
	}
	return made, err
}

// entryOf is the line of an act that was done already, nil when it was not.
func entryOf(tx Tx, act string) (*Entry, error) {
	if act == "" {
		return nil, nil
	}
	e, err := tx.EntryOf(act)
	if errors.Is(err, ErrNotFound) {
		return nil, nil
	}
	return &e, err
}

// enter does an act and writes its line; nil when it changed nothing.
func (s *Desk) enter(tx Tx, k *noun.Kitchen, now time.Time, by actor, do func(a *Acting) error) (*Entry, error) {
	who := by.who
	if who == "" {
		who = k.PersonAt(now)
	}
	a := &Acting{Recorder: &Recorder{Tx: tx}, House: k, Now: now, kind: "did", By: who}
	if err := do(a); err != nil {
		return nil, err
	}
	if len(a.rows) == 0 {
		return nil, nil
	}
	if slices.ContainsFunc(a.rows, func(t Touched) bool { return t.Noun == "note" }) {
		if err := Relearn(tx); err != nil {
			return nil, err
		}
	}
	e := &Entry{At: now.Truncate(time.Microsecond), Who: who, Says: a.says, Act: by.act, CommissionID: a.commission, Bench: a.Bench, Kind: a.kind, Undoes: a.undoes, Rows: a.rows}
	if err := tx.AddEntry(e); err != nil {
		return nil, err
	}
	if e.movesPlan() {
		if err := tx.WantPlan(); err != nil {
			return nil, err
		}
	}
	told, err := tx.Tell()
	if by.told != nil {
		*by.told = told
	}
	return e, err
}

// beside are fields of a step that no plan is made from: another ball of a
// press that has begun moves nothing.
var beside = []string{"Fills", "Made", "Breaks", "Weighed"}

// movesPlan reports whether the plan may look otherwise after an entry.
func (e *Entry) movesPlan() bool {
	for _, t := range e.Rows {
		if t.Noun == "timer" {
			continue
		}
		if t.Noun != "step" || t.made() {
			return true
		}
		for name := range t.After {
			if base, _, _ := strings.Cut(name, "["); !slices.Contains(beside, base) {
				return true
			}
		}
		for name := range t.Before {
			if base, _, _ := strings.Cut(name, "["); !slices.Contains(beside, base) {
				return true
			}
		}
	}
	return false
}

// Relearn keeps what the notes teach of drying: it follows from them, so taking a note back
// takes back what it taught.
func Relearn(tx Tx) error {
	notes, err := tx.TeachingNotes(noun.MostTeaching)
	if err != nil {
		return err
	}
	b := noun.Learn(notes)
	return tx.KeepBelief(&b)
}
