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
	"dustyfern/studio/read"
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
}

type actorKey struct{}

// As names who acts. act is a number that the sender gives each thing it does,
// so that one that is sent twice is done once; "" for none.
func As(ctx context.Context, who, act string) context.Context {
	by, _ := ctx.Value(actorKey{}).(actor)
	by.who, by.act = who, act
	return context.WithValue(ctx, actorKey{}, by)
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
var beside = []string{"Fills", "Made", "Breaks"}

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

// Recorder notes each row that is made or saved through it.
type Recorder struct {
	Tx
	rows []Touched
}

// kept runs a save between two looks at the row and notes what it changed.
func kept[T any](r *Recorder, of, op string, id int64, version func(*T) int64, get func() (T, error), save func() error) error {
	before, err := get()
	if err != nil {
		return err
	}
	if err := save(); err != nil {
		return err
	}
	after, err := get()
	if err != nil {
		return err
	}
	return r.changed(Touched{Noun: of, ID: id, Op: op, From: version(&before), To: version(&after)}, before, after)
}

// changed notes a row before and after; one that is saved twice keeps its first
// before and its last after.
func (r *Recorder) changed(t Touched, before, after any) error {
	b, err := snapshot(before)
	if err != nil {
		return err
	}
	a, err := snapshot(after)
	if err != nil {
		return err
	}
	for i := range r.rows {
		if o := &r.rows[i]; o.Noun == t.Noun && o.ID == t.ID && o.Op == t.Op {
			o.To = t.To
			if o.Made {
				return nil
			}
			if err := b.restore(o.Before, o.After); err != nil {
				return err
			}
			o.Before, o.After = b.diff(a)
			return nil
		}
	}
	t.Before, t.After = b.diff(a)
	if len(t.Before) > 0 || len(t.After) > 0 {
		r.rows = append(r.rows, t)
	}
	return nil
}

// made notes a new row.
func (r *Recorder) made(of string, id, version int64) {
	r.rows = append(r.rows, Touched{Noun: of, ID: id, To: version, Made: true})
}

func versionOf[T any](v func(*T) *int64) func(*T) int64 { return func(x *T) int64 { return *v(x) } }

func (r *Recorder) SaveKitchen(k *noun.Kitchen) error {
	get := func() (noun.Kitchen, error) { return *r.Tx.Kitchen(), nil }
	return kept(r, "kitchen", "", k.ID, versionOf(Kitchens.ver), get, func() error { return r.Tx.SaveKitchen(k) })
}

func (r *Recorder) SaveCommission(c *noun.Commission) error {
	return kept(r, "commission", "", c.ID, versionOf(Commissions.ver), func() (noun.Commission, error) { return r.Tx.Commission(c.ID) }, func() error { return r.Tx.SaveCommission(c) })
}

func (r *Recorder) SavePiece(p *noun.Piece) error {
	return kept(r, "piece", "", p.ID, versionOf(Pieces.ver), func() (noun.Piece, error) { return r.Tx.Piece(p.ID) }, func() error { return r.Tx.SavePiece(p) })
}

func (r *Recorder) SaveTool(t *noun.Tool) error {
	return kept(r, "tool", "", t.ID, versionOf(Tools.ver), func() (noun.Tool, error) { return r.Tx.Tool(t.ID) }, func() error { return r.Tx.SaveTool(t) })
}

func (r *Recorder) SaveLot(l *noun.Lot) error {
	return kept(r, "lot", "", l.ID, versionOf(Lots.ver), func() (noun.Lot, error) { return r.Tx.Lot(l.ID) }, func() error { return r.Tx.SaveLot(l) })
}

func (r *Recorder) CreateCommission(c *noun.Commission) error {
	err := r.Tx.CreateCommission(c)
	r.made("commission", c.ID, c.Version)
	return err
}

func (r *Recorder) CreatePiece(p *noun.Piece) error {
	err := r.Tx.CreatePiece(p)
	r.made("piece", p.ID, p.Version)
	return err
}

func (r *Recorder) CreateTool(t *noun.Tool) error {
	err := r.Tx.CreateTool(t)
	r.made("tool", t.ID, t.Version)
	return err
}

func (r *Recorder) CreateLot(l *noun.Lot) error {
	err := r.Tx.CreateLot(l)
	r.made("lot", l.ID, l.Version)
	return err
}

// stepFacts is what happened of a step; the rest is planned anew.
type stepFacts struct {
	ActualStart, ActualEnd   *time.Time
	PlannedStart, PlannedEnd time.Time
	Fills                    []noun.Fill
	Breaks                   []noun.Break
	Made                     *int
	Takes                    []noun.Taken
	version                  int64
}

func factsOf(st *noun.Step) stepFacts {
	return stepFacts{st.ActualStart, st.ActualEnd, st.PlannedStart, st.PlannedEnd, st.Fills, st.Breaks, st.Made, st.Takes, st.Version}
}

func (r *Recorder) SaveStep(st *noun.Step) error {
	get := func() (stepFacts, error) {
		now, err := r.Tx.Step(st.Op)
		return factsOf(&now), err
	}
	return kept(r, "step", st.Op, 0, func(f *stepFacts) int64 { return f.version }, get, func() error { return r.Tx.SaveStep(st) })
}

func timerVersion(t *noun.Timer) int64 { return t.Version }

func (r *Recorder) SaveTimer(t *noun.Timer) error {
	return kept(r, "timer", "", t.ID, timerVersion, func() (noun.Timer, error) { return r.Tx.Timer(t.ID) }, func() error { return r.Tx.SaveTimer(t) })
}

func (r *Recorder) CreateTimer(t *noun.Timer) error {
	err := r.Tx.CreateTimer(t)
	r.made("timer", t.ID, t.Version)
	return err
}

// revert puts every row of an entry back to what it was before.
func (a *Acting) revert(e *Entry) error {
	if len(e.Rows) == 0 {
		return fault.New(fault.Unreachable, "entry", "That came with another studio's data: it cannot be taken back.")
	}
	for i := len(e.Rows) - 1; i >= 0; i-- {
		t := &e.Rows[i]
		since, err := a.revertRow(t)
		if errors.Is(err, ErrNotFound) {
			return fault.New(fault.Contradiction, "entry", "That step is no longer in the plan: it cannot be taken back.")
		}
		if err != nil {
			return err
		}
		if since != "" {
			return fault.New(fault.Contradiction, "entry", "It has been changed again since (%s): take that back first.", plainName(since))
		}
	}
	return nil
}

func (a *Acting) revertRow(t *Touched) (since string, err error) {
	switch t.Noun {
	case "kitchen":
		row := *a.Kitchen()
		if since, err = putBack(&row, t, a.Now); err == nil && since == "" {
			err = a.SaveKitchen(&row)
		}
		return since, err
	case "commission":
		return revertOne(a, &Commissions, t)
	case "piece":
		return revertOne(a, &Pieces, t)
	case "tool":
		return revertOne(a, &Tools, t)
	case "lot":
		return revertOne(a, &Lots, t)
	case "timer":
		return a.revertTimer(t)
	}
	st, err := a.Step(t.Op)
	if err != nil {
		return "", err
	}
	if !st.Attended { // a line of before, when waits were kept as facts
		return "", nil
	}
	f := factsOf(&st)
	if since, err = putBack(&f, t, a.Now); err != nil || since != "" {
		return since, err
	}
	st.ActualStart, st.ActualEnd, st.PlannedStart, st.PlannedEnd, st.Fills, st.Breaks, st.Made, st.Takes = f.ActualStart, f.ActualEnd, f.PlannedStart, f.PlannedEnd, f.Fills, f.Breaks, f.Made, f.Takes
	return "", a.SaveStep(&st)
}

// usedSince reports whether somebody did something to a row after it was made,
// but taking that back and doing it again.
func (a *Acting) usedSince(of string, t *Touched) (bool, error) {
	es, err := a.EntriesSince(of, t.ID, t.To)
	return slices.ContainsFunc(es, func(e Entry) bool { return e.Kind == "did" && !e.Undone }), err
}

// revertTimer takes back a clock or the answer to one. Clocks of waits that a
// line of before made follow from their step by now.
func (a *Acting) revertTimer(t *Touched) (since string, err error) {
	x, err := a.Timer(t.ID)
	if errors.Is(err, ErrNotFound) || err == nil && x.Kind != "own" && x.AnsweredAt == nil {
		return "", nil
	}
	if err != nil {
		return "", err
	}
	if since, err = putBack(&x, t, a.Now); err != nil || since != "" {
		return since, err
	}
	return "", a.SaveTimer(&x)
}

// revertOne puts one row back, through the guards of a change by hand.
func revertOne[T any](a *Acting, n *RowKind[T], t *Touched) (since string, err error) {
	row, err := n.Get(a, t.ID)
	if err != nil {
		return "", err
	}
	was := *n.gone(&row)
	if t.made() {
		if used, err := a.usedSince(n.name, t); err != nil || used {
			return "all of it", err
		}
	}
	if since, err = putBack(&row, t, a.Now); err != nil || since != "" {
		return since, err
	}
	if is := *n.gone(&row); is != nil && was == nil && n.MayGo != nil {
		if err := n.MayGo(a, t.ID); err != nil {
			return "", err
		}
	}
	if n.Check != nil && *n.gone(&row) == nil {
		if err := n.Check(a, &row); err != nil {
			return "", err
		}
	}
	return "", n.save(a, &row)
}

// plainName is a field's name as people read it.
func plainName(name string) string {
	var b strings.Builder
	for i, r := range strings.TrimSuffix(strings.TrimSuffix(name, "MM"), "ID") {
		if r >= 'A' && r <= 'Z' && i > 0 {
			b.WriteByte(' ')
		}
		b.WriteRune(r)
	}
	return strings.ToLower(b.String())
}

// TakeBack reverts an entry and says so; one that itself took something back
// is thereby done again.
func (a *Acting) TakeBack(e *Entry) error {
	if err := a.revert(e); err != nil {
		return err
	}
	e.Undone = true
	if err := a.SetUndone(e.ID, true); err != nil {
		return err
	}
	commission := int64(0)
	if e.CommissionID != nil {
		commission = *e.CommissionID
	}
	a.undoes = &e.ID
	if e.Kind == "back" {
		if err := a.SetUndone(*e.Undoes, false); err != nil {
			return err
		}
		a.kind = "again"
		a.Say(commission, "did again: %s", strings.TrimPrefix(e.Says, "took back: "))
		return nil
	}
	a.kind = "back"
	a.Say(commission, "took back: %s", e.Says)
	return nil
}

// EntryView is a line of the journal as people read it.
type EntryView struct {
	ID       int64  `json:"id"`
	When     string `json:"when"`
	Who      string `json:"who"`
	Says     string `json:"says"`
	Undone   bool   `json:"undone"`
	CanUndo  bool   `json:"canUndo"`
	IsReturn bool   `json:"isReturn" doc:"it took something back"`
}

// JournalView is the latest lines of the journal, newest first.
type JournalView struct {
	Entries []EntryView `json:"entries"`
	More    bool        `json:"more" doc:"there are older lines"`
	Undo    string      `json:"undo" doc:"what would be taken back next, in words"`
	UndoID  int64       `json:"undoId" doc:"the line of it"`
	Redo    string      `json:"redo" doc:"what would be done again next"`
	RedoID  int64       `json:"redoId"`
	Keeps   string      `json:"keeps" doc:"for how long lines are kept"`
}

const journalPage = 40

// What the journal keeps, and for how long: the rule that people read.
const (
	benchKept = 180 * 24 * time.Hour
	otherKept = 5 * 366 * 24 * time.Hour
	keepsSay  = "Lines of the bench are kept for half a year after they were written, while their order is open for longer; everything else for five years."
)

// pruneAtOnce bounds how long one write of Prune holds the studio.
const pruneAtOnce = 2000

// Prune forgets the lines of the journal that are kept no longer.
func (s *Desk) Prune(ctx context.Context, slug string) error {
	for {
		var gone int64
		err := s.Store.Write(ctx, slug, func(tx Tx) (err error) {
			now := s.Clock()
			gone, err = tx.Prune(now.Add(-benchKept), now.Add(-otherKept), pruneAtOnce)
			return err
		})
		if err != nil || gone < pruneAtOnce {
			return err
		}
	}
}

// Journal shows the lines of a commission (0: of the studio) before an entry (0:
// the newest).
func (s *Desk) Journal(ctx context.Context, slug string, commission, before int64) (out JournalView, err error) {
	err = s.In(ctx, slug, func(tx Tx, k *noun.Kitchen, now time.Time) error {
		es, err := tx.Entries(commission, before, journalPage+1)
		if err != nil {
			return err
		}
		out.More = len(es) > journalPage
		out.Entries = []EntryView{}
		for _, e := range es[:min(len(es), journalPage)] {
			out.Entries = append(out.Entries, EntryView{ID: e.ID, When: read.SayTime(e.At, now), Who: e.Who, Says: e.Says, Undone: e.Undone, CanUndo: e.Kind == "did" && !e.Undone && len(e.Rows) > 0, IsReturn: e.Kind == "back"})
		}
		if e, err := tx.LastEntry(UndoAny); err == nil {
			out.Undo, out.UndoID = e.Says, e.ID
		} else if !errors.Is(err, ErrNotFound) {
			return err
		}
		if e, err := tx.LastEntry(UndoReturn); err == nil {
			out.Redo, out.RedoID = strings.TrimPrefix(e.Says, "took back: "), e.ID
		} else if !errors.Is(err, ErrNotFound) {
			return err
		}
		out.Keeps = keepsSay
		return nil
	})
	return out, err
}

// Which entry is taken back.
const (
	UndoAny    = "any"    // the last thing that was done and stands
	UndoBench  = "bench"  // the last at the bench, of what is being worked on
	UndoReturn = "return" // the last taking back, with nothing done since
)

// Undo takes an entry back. last: it is meant as the last thing that was done,
// and is refused when something has been done since.
func (s *Desk) Undo(ctx context.Context, slug string, id int64, last bool) error {
	_, err := s.Act(ctx, slug, func(a *Acting) error {
		if last {
			e, err := a.LastIs(UndoAny, id)
			if err != nil {
				return err
			}
			return a.TakeBack(e)
		}
		e, err := a.Entry(id)
		if err != nil || e.Undone {
			return err // a repeat does nothing
		}
		return a.TakeBack(&e)
	}, nil)
	return err
}

// Redo does again what was taken back last, when nothing was done since: id is
// the line that took it back.
func (s *Desk) Redo(ctx context.Context, slug string, id int64) error {
	_, err := s.Act(ctx, slug, func(a *Acting) error {
		e, err := a.LastIs(UndoReturn, id)
		if err != nil {
			return err
		}
		return a.TakeBack(e)
	}, nil)
	return err
}

// LastIs is the last line of its kind, when it is the one that was meant.
func (a *Acting) LastIs(which string, id int64) (*Entry, error) {
	e, err := a.LastEntry(which)
	switch {
	case errors.Is(err, ErrNotFound):
		return nil, fault.New(fault.Unreachable, "entry", "There is nothing to take back.")
	case err != nil:
		return nil, err
	case e.ID != id:
		return nil, TooLate("Meanwhile: %s %s. Look, then take back what you mean.", e.Who, e.Says)
	}
	return &e, nil
}

// short cuts a text for the journal.
func ShortText(s string) string {
	s = strings.Join(strings.Fields(s), " ")
	if r := []rune(s); len(r) > 60 {
		return string(r[:57]) + "..."
	}
	if s == "" {
		return "nothing"
	}
	return s
}

// ChangesSay puts a change of fields into words.
func ChangesSay[T any](n *RowKind[T], r read.Reader, was, is *T, set map[string]string, now time.Time) string {
	var out []string
	for _, f := range n.fields {
		if _, ok := set[f.Name]; !ok {
			continue
		}
		if a, b := f.Text(r, was, now), f.Text(r, is, now); a != b {
			label := f.Label
			if label == "" {
				label = plainName(f.Name)
			}
			out = append(out, fmt.Sprintf("%s from %s to %s", read.LowerFirst(r.Say(label)), ShortText(a), ShortText(b)))
		}
	}
	slices.Sort(out)
	return strings.Join(out, "; ")
}
