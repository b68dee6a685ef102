package studio

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"maps"
	"math"
	"reflect"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/fault"
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

// Touched is a row before and after an entry, by field; before is empty when
// the entry made it.
type Touched struct {
	Noun   string `json:"noun"`
	ID     int64  `json:"id"`
	Op     string `json:"op,omitempty"` // of a step, whose id changes with each plan
	From   int64  `json:"from"`         // version before
	To     int64  `json:"to"`
	Before fields `json:"before,omitempty"`
	After  fields `json:"after"`
}

type fields map[string]json.RawMessage

// snapshot of a row as it stands in the store.
func snapshot(row any) (fields, error) {
	b, err := json.Marshal(row)
	if err != nil {
		return nil, err
	}
	var f fields
	return f, json.Unmarshal(b, &f)
}

// actor says who does something, and the sender's own number of the act.
type actor struct{ who, act string }

type actorKey struct{}

// As names who acts. act is a number that the sender gives each thing it does,
// so that one that is sent twice is done once; "" for none.
func As(ctx context.Context, who, act string) context.Context {
	return context.WithValue(ctx, actorKey{}, actor{who, act})
}

// acting is one use case that changes something, while it runs.
type acting struct {
	*recorder
	k          *Kitchen
	now        time.Time
	says       string
	commission *int64
	bench      bool
	kind       string
	undoes     *int64
	by         string
}

// say puts what is done into the words of the journal, without who did it.
func (a *acting) say(commission int64, format string, args ...any) {
	a.says = fmt.Sprintf(format, args...)
	if commission != 0 {
		a.commission = &commission
	}
}

// act runs a use case that changes something, alone in its studio, writes it
// into the journal and makes the plan anew. An act that was done already, by
// its number, is not done again. then reads what the caller shows. made is the
// row that it made, if it made one.
func (s *Service) act(ctx context.Context, slug string, do func(a *acting) error, then func(tx Tx, k *Kitchen, now time.Time) error) (made int64, err error) {
	by, _ := ctx.Value(actorKey{}).(actor)
	err = s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		var e Entry
		err := ErrNotFound
		if by.act != "" {
			e, err = tx.EntryOf(by.act)
		}
		if err != nil && !errors.Is(err, ErrNotFound) {
			return err
		}
		if err != nil {
			who := by.who
			if who == "" {
				who = k.personAt(now)
			}
			a := &acting{recorder: &recorder{Tx: tx}, k: k, now: now, kind: "did", by: who}
			if err := do(a); err != nil {
				return err
			}
			k = tx.Kitchen()
			if len(a.rows) > 0 {
				e = Entry{At: now.Truncate(time.Microsecond), Who: who, Says: a.says, Act: by.act, CommissionID: a.commission, Bench: a.bench, Kind: a.kind, Undoes: a.undoes, Rows: a.rows}
				if err := tx.AddEntry(&e); err != nil {
					return err
				}
				if err := s.replan(tx, k, now, who+" "+a.says); err != nil {
					return err
				}
				if err := tx.Tell(); err != nil {
					return err
				}
			}
		}
		for _, t := range e.Rows {
			if t.Before == nil && made == 0 {
				made = t.ID
			}
		}
		if then == nil {
			return nil
		}
		return then(tx, k, now)
	})
	return made, err
}

// personAt is who is at the bench, as the hours say.
func (k *Kitchen) personAt(now time.Time) string {
	for _, w := range k.openHours(now.Add(-24*time.Hour), now.Add(24*time.Hour)) {
		if !w.start.After(now) && w.end.After(now) && len(w.names) > 0 {
			return w.names[0]
		}
	}
	for _, h := range k.Hours {
		if len(h.People) > 0 {
			return h.People[0]
		}
	}
	return "Somebody"
}

// recorder notes each row that is made or saved through it.
type recorder struct {
	Tx
	rows []Touched
}

// note keeps a row before and after; one that is saved twice keeps its first
// before and its last after.
func (r *recorder) note(t Touched) {
	for i := range r.rows {
		if o := &r.rows[i]; o.Noun == t.Noun && o.ID == t.ID && o.Op == t.Op {
			o.To, o.After = t.To, t.After
			return
		}
	}
	r.rows = append(r.rows, t)
}

// kept runs a save between two looks at the row.
func kept[T any](r *recorder, noun, op string, id int64, version func(*T) int64, get func() (T, error), save func() error) error {
	before, err := get()
	if err != nil {
		return err
	}
	b, err := snapshot(before)
	if err != nil {
		return err
	}
	if err := save(); err != nil {
		return err
	}
	return madeOr(r, noun, op, id, version(&before), b, version, get)
}

// madeOr looks at the row as it is now.
func madeOr[T any](r *recorder, noun, op string, id, from int64, before fields, version func(*T) int64, get func() (T, error)) error {
	after, err := get()
	if err != nil {
		return err
	}
	a, err := snapshot(after)
	if err != nil {
		return err
	}
	r.note(Touched{Noun: noun, ID: id, Op: op, From: from, To: version(&after), Before: before, After: a})
	return nil
}

func versionOf[T any](v func(*T) *int64) func(*T) int64 { return func(x *T) int64 { return *v(x) } }

func (r *recorder) SaveKitchen(k *Kitchen) error {
	get := func() (Kitchen, error) { return *r.Tx.Kitchen(), nil }
	return kept(r, "kitchen", "", k.ID, versionOf(kitchens.ver), get, func() error { return r.Tx.SaveKitchen(k) })
}

func (r *recorder) SaveCommission(c *Commission) error {
	return kept(r, "commission", "", c.ID, versionOf(commissions.ver), func() (Commission, error) { return r.Tx.Commission(c.ID) }, func() error { return r.Tx.SaveCommission(c) })
}

func (r *recorder) SavePiece(p *Piece) error {
	return kept(r, "piece", "", p.ID, versionOf(pieces.ver), func() (Piece, error) { return r.Tx.Piece(p.ID) }, func() error { return r.Tx.SavePiece(p) })
}

func (r *recorder) SaveTool(t *Tool) error {
	return kept(r, "tool", "", t.ID, versionOf(tools.ver), func() (Tool, error) { return r.Tx.Tool(t.ID) }, func() error { return r.Tx.SaveTool(t) })
}

func (r *recorder) SaveLot(l *Lot) error {
	return kept(r, "lot", "", l.ID, versionOf(lots.ver), func() (Lot, error) { return r.Tx.Lot(l.ID) }, func() error { return r.Tx.SaveLot(l) })
}

func (r *recorder) CreateCommission(c *Commission) error {
	if err := r.Tx.CreateCommission(c); err != nil {
		return err
	}
	return madeOr(r, "commission", "", c.ID, 0, nil, versionOf(commissions.ver), func() (Commission, error) { return r.Tx.Commission(c.ID) })
}

func (r *recorder) CreatePiece(p *Piece) error {
	if err := r.Tx.CreatePiece(p); err != nil {
		return err
	}
	return madeOr(r, "piece", "", p.ID, 0, nil, versionOf(pieces.ver), func() (Piece, error) { return r.Tx.Piece(p.ID) })
}

func (r *recorder) CreateTool(t *Tool) error {
	if err := r.Tx.CreateTool(t); err != nil {
		return err
	}
	return madeOr(r, "tool", "", t.ID, 0, nil, versionOf(tools.ver), func() (Tool, error) { return r.Tx.Tool(t.ID) })
}

func (r *recorder) CreateLot(l *Lot) error {
	if err := r.Tx.CreateLot(l); err != nil {
		return err
	}
	return madeOr(r, "lot", "", l.ID, 0, nil, versionOf(lots.ver), func() (Lot, error) { return r.Tx.Lot(l.ID) })
}

// stepFacts is what happened of a step; the rest is planned anew.
type stepFacts struct {
	ActualStart, ActualEnd   *time.Time
	PlannedStart, PlannedEnd time.Time
	Fills                    []Fill
	Breaks                   []Break
	Made                     *int
	Takes                    []Taken
	version                  int64
}

func (st *Step) facts() stepFacts {
	return stepFacts{st.ActualStart, st.ActualEnd, st.PlannedStart, st.PlannedEnd, st.Fills, st.Breaks, st.Made, st.Takes, st.Version}
}

func (r *recorder) SaveStep(st *Step) error {
	get := func() (stepFacts, error) {
		now, err := r.Tx.Step(st.Op)
		return now.facts(), err
	}
	return kept(r, "step", st.Op, 0, func(f *stepFacts) int64 { return f.version }, get, func() error { return r.Tx.SaveStep(st) })
}

func timerVersion(t *Timer) int64 { return t.Version }

func (r *recorder) SaveTimer(t *Timer) error {
	return kept(r, "timer", "", t.ID, timerVersion, func() (Timer, error) { return r.Tx.Timer(t.ID) }, func() error { return r.Tx.SaveTimer(t) })
}

func (r *recorder) CreateTimer(t *Timer) error {
	if err := r.Tx.CreateTimer(t); err != nil {
		return err
	}
	return madeOr(r, "timer", "", t.ID, 0, nil, timerVersion, func() (Timer, error) { return r.Tx.Timer(t.ID) })
}

// same compares two values; the store may have put the names within them into
// another order.
func same(a, b json.RawMessage) bool {
	if a == nil {
		a = json.RawMessage("null")
	}
	if b == nil {
		b = json.RawMessage("null")
	}
	if bytes.Equal(a, b) {
		return true
	}
	var x, y any
	return json.Unmarshal(a, &x) == nil && json.Unmarshal(b, &y) == nil && reflect.DeepEqual(x, y)
}

// givenBack is a mass now, without what an entry changed of it.
func givenBack(now, before, after json.RawMessage) (json.RawMessage, error) {
	var g [3]float64
	for i, x := range []json.RawMessage{now, before, after} {
		if x == nil {
			continue // nothing is left out
		}
		if err := json.Unmarshal(x, &g[i]); err != nil {
			return nil, err
		}
	}
	return json.Marshal(math.Max(0, g[0]+g[1]-g[2]))
}

// putBack gives a row the fields that it had before an entry. A field that has
// been changed since is not touched over: the name of it is returned.
func putBack(row any, t *Touched, at time.Time) (since string, err error) {
	now, err := snapshot(row)
	if err != nil {
		return "", err
	}
	before := t.Before
	if before == nil { // the entry made the row: it goes, and can come back
		before = fields{}
		for name, x := range t.After {
			before[name] = x
		}
		before["deletedAt"], _ = json.Marshal(at.UTC())
	}
	names := maps.Clone(t.After)
	maps.Copy(names, before)
	for name := range names {
		after := t.After[name] // what is empty is left out
		if name == "version" || same(before[name], after) {
			continue
		}
		if t.Noun == "lot" && t.Before != nil && (name == "massG" || name == "owesG") {
			// grams are given back, whatever else was taken since
			if now[name], err = givenBack(now[name], before[name], after); err != nil {
				return "", err
			}
			continue
		}
		if planned := name == "PlannedStart" || name == "PlannedEnd"; planned && t.Noun == "step" {
			if start := before["ActualStart"]; start == nil || string(start) == "null" {
				continue // what has not begun is planned anew
			}
		} else if !same(now[name], after) {
			return name, nil
		}
		if now[name] = before[name]; now[name] == nil {
			delete(now, name)
		}
	}
	b, err := json.Marshal(now)
	if err != nil {
		return "", err
	}
	fresh := reflect.New(reflect.TypeOf(row).Elem()) // lists of the old row are not written into
	if err := json.Unmarshal(b, fresh.Interface()); err != nil {
		return "", err
	}
	reflect.ValueOf(row).Elem().Set(fresh.Elem())
	return "", nil
}

// revert puts every row of an entry back to what it was before.
func (a *acting) revert(e *Entry) error {
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

func (a *acting) revertRow(t *Touched) (since string, err error) {
	switch t.Noun {
	case "kitchen":
		row := *a.Kitchen()
		if since, err = putBack(&row, t, a.now); err == nil && since == "" {
			err = a.SaveKitchen(&row)
		}
		return since, err
	case "commission":
		return revertOne(a.now, t, a.Commission, a.SaveCommission)
	case "piece":
		return revertOne(a.now, t, a.Piece, a.SavePiece)
	case "tool":
		return revertOne(a.now, t, a.Tool, a.SaveTool)
	case "lot":
		return revertOne(a.now, t, a.Lot, a.SaveLot)
	case "timer":
		return revertOne(a.now, t, a.Timer, a.SaveTimer)
	}
	st, err := a.Step(t.Op)
	if err != nil {
		return "", err
	}
	f := st.facts()
	if since, err = putBack(&f, t, a.now); err != nil || since != "" {
		return since, err
	}
	st.ActualStart, st.ActualEnd, st.PlannedStart, st.PlannedEnd, st.Fills, st.Breaks, st.Made, st.Takes = f.ActualStart, f.ActualEnd, f.PlannedStart, f.PlannedEnd, f.Fills, f.Breaks, f.Made, f.Takes
	return "", a.SaveStep(&st)
}

func revertOne[T any](at time.Time, t *Touched, get func(int64) (T, error), save func(*T) error) (since string, err error) {
	row, err := get(t.ID)
	if err != nil {
		return "", err
	}
	if since, err = putBack(&row, t, at); err != nil || since != "" {
		return since, err
	}
	return "", save(&row)
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

// takeBack reverts an entry and says so; one that itself took something back
// is thereby done again.
func (a *acting) takeBack(e *Entry) error {
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
		a.say(commission, "did again: %s", strings.TrimPrefix(e.Says, "took back: "))
		return nil
	}
	a.kind = "back"
	a.say(commission, "took back: %s", e.Says)
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
	Redo    string      `json:"redo" doc:"what would be done again next"`
}

const journalPage = 40

// Journal shows the lines of a commission (0: of the studio) before an entry (0:
// the newest).
func (s *Service) Journal(ctx context.Context, slug string, commission, before int64) (out JournalView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		es, err := tx.Entries(commission, before, journalPage+1)
		if err != nil {
			return err
		}
		out.More = len(es) > journalPage
		out.Entries = []EntryView{}
		for _, e := range es[:min(len(es), journalPage)] {
			out.Entries = append(out.Entries, EntryView{ID: e.ID, When: SayTime(e.At, now), Who: e.Who, Says: e.Says, Undone: e.Undone, CanUndo: e.Kind == "did" && !e.Undone && len(e.Rows) > 0, IsReturn: e.Kind == "back"})
		}
		if e, err := tx.LastEntry(UndoAny); err == nil {
			out.Undo = e.Says
		}
		if e, err := tx.LastEntry(UndoReturn); err == nil {
			out.Redo = strings.TrimPrefix(e.Says, "took back: ")
		}
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

// Undo takes an entry back: id 0 is the last that was done.
func (s *Service) Undo(ctx context.Context, slug string, id int64) error {
	return s.undo(ctx, slug, id, UndoAny)
}

// Redo does again what was taken back last, when nothing was done since.
func (s *Service) Redo(ctx context.Context, slug string) error {
	return s.undo(ctx, slug, 0, UndoReturn)
}

func (s *Service) undo(ctx context.Context, slug string, id int64, which string) error {
	_, err := s.act(ctx, slug, func(a *acting) error {
		var e Entry
		var err error
		if id != 0 {
			e, err = a.Entry(id)
		} else {
			e, err = a.LastEntry(which)
		}
		if errors.Is(err, ErrNotFound) && id == 0 {
			return fault.New(fault.Unreachable, "entry", "There is nothing to take back.")
		}
		if err != nil {
			return err
		}
		if e.Undone {
			return nil // a repeat does nothing
		}
		return a.takeBack(&e)
	}, nil)
	return err
}

// short cuts a text for the journal.
func shortText(s string) string {
	s = strings.Join(strings.Fields(s), " ")
	if r := []rune(s); len(r) > 60 {
		return string(r[:57]) + "..."
	}
	if s == "" {
		return "nothing"
	}
	return s
}

// changesSay puts a change of fields into words.
func changesSay[T any](n *noun[T], r reader, was, is *T, set map[string]string, now time.Time) string {
	var out []string
	for _, f := range n.fields {
		if _, ok := set[f.name]; !ok {
			continue
		}
		if a, b := f.text(r, was, now), f.text(r, is, now); a != b {
			label := f.label
			if label == "" {
				label = plainName(f.name)
			}
			out = append(out, fmt.Sprintf("%s from %s to %s", lowerFirst(r.say(label)), shortText(a), shortText(b)))
		}
	}
	slices.Sort(out)
	return strings.Join(out, "; ")
}
