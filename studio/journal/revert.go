package journal

import (
	"context"
	"encoding/json"
	"errors"
	"slices"
	"strings"

	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
)

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
	if n := Kinds[t.Noun]; n != nil {
		return n.revert(a, t)
	}
	if t.Noun == "timer" {
		return a.revertTimer(t)
	}
	st, err := a.Step(t.Op)
	if errors.Is(err, ErrNotFound) && t.only("Pinned") {
		return "", nil // the pin went with its step
	}
	if err != nil {
		return "", err
	}
	if !st.Attended && !t.only("Tended") { // a line of before, when waits were kept as facts
		return "", nil
	}
	f := factsOf(&st)
	if f.Pinned == nil { // a plan that could not keep a pin has let it go: nobody did that
		if raw := t.After["Pinned"]; raw != nil {
			if err := json.Unmarshal(raw, &f.Pinned); err != nil {
				return "", err
			}
		}
	}
	if since, err = putBack(&f, t, a.Now); err != nil || since != "" {
		return since, err
	}
	st.Pinned, st.Away, st.Tended, st.Looked = f.Pinned, f.Away, f.Tended, f.Looked
	st.ActualStart, st.ActualEnd, st.PlannedStart, st.PlannedEnd, st.Fills, st.Breaks, st.Made, st.Takes, st.Longer, st.Weighed, st.Who, st.Clocked = f.ActualStart, f.ActualEnd, f.PlannedStart, f.PlannedEnd, f.Fills, f.Breaks, f.Made, f.Takes, f.Longer, f.Weighed, f.Who, f.Clocked
	return "", a.SaveStep(&st)
}

// only tells that nothing but one fact of a step was touched.
func (t *Touched) only(fact string) bool {
	for _, side := range []fields{t.Before, t.After} {
		for name := range side {
			if base, _, _ := strings.Cut(name, "["); base != fact {
				return false
			}
		}
	}
	return true
}

// usedSince reports whether somebody did something to a row after it was made,
// but taking that back and doing it again.
func (a *Acting) usedSince(t *Touched) (bool, error) {
	es, err := a.EntriesSince(t.Noun, t.ID, t.To)
	return slices.ContainsFunc(es, func(e Entry) bool { return e.Kind == "did" && !e.Undone }), err
}

// revertTimer takes back a clock or the answer to one. Clocks of waits that a
// line of before made follow from their step by now.
func (a *Acting) revertTimer(t *Touched) (since string, err error) {
	x, err := Get[noun.Timer](a, t.ID)
	if errors.Is(err, ErrNotFound) || err == nil && x.Kind != "own" && x.AnsweredAt == nil {
		return "", nil
	}
	if err != nil {
		return "", err
	}
	if since, err = putBack(&x, t, a.Now); err != nil || since != "" {
		return since, err
	}
	return "", a.Save(&x)
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
