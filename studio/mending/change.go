package mending

import (
	"context"
	"fmt"
	"maps"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/rescue"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Confirm writes down what the cause was: it counts from then on.
func (s *Mending) Confirm(ctx context.Context, slug string, asked Asked, cause string) error {
	if !rescue.KnowsCause(cause) {
		return fault.New(fault.UnknownValue, "cause", "There is no cause %q.", cause)
	}
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		f, err := about(a.Tx, a.House, a.Now, asked)
		if err != nil {
			return err
		}
		if len(asked.Seen) == 0 {
			return fault.New(fault.Required, "seen", "Say first what was seen.")
		}
		if _, err := rescue.Diagnose(f.in); err != nil {
			return err
		}
		n := f.note(a, "cause", rescue.CauseSays(cause))
		n.Cause, n.Symptoms, n.Technique = cause, asked.Seen, f.about.Technique
		a.Say(f.about.OrderID, "found what it was%s: %s", of(f.about.Name), rescue.CauseSays(cause))
		return a.Create(n)
	}, nil)
	return err
}

func of(name string) string {
	if name == "" {
		return ""
	}
	return " with " + name
}

// note is an empty note of the case.
func (f *found) note(a *journal.Acting, what, says string) *noun.Note {
	n := &noun.Note{Row: noun.Row{Version: 1}, At: a.Now.UTC().Truncate(time.Second), Who: a.By, Op: f.about.Op, Name: f.about.Name, What: what, Says: says, Symptoms: []string{}}
	if n.Name == "" {
		n.Name = "Rescue"
	}
	if f.about.OrderID != 0 {
		n.CommissionID = &f.about.OrderID
	}
	if f.about.PieceID != 0 {
		n.PieceID = &f.about.PieceID
	}
	if f.w != nil && f.w.Tool != nil {
		n.Tool = f.w.Tool.Name
	}
	return n
}

// setsOf is what a change sets of a piece by itself; none: it is remembered.
func setsOf(ch rescue.Change, w *work.Reckoned) map[string]string {
	switch {
	case ch.Target == "mould" && ch.Change == "release starch" && w.Way != nil:
		return map[string]string{"way.release": "starch"}
	case ch.Target == "plan" && strings.HasPrefix(ch.Change, "add a chill"):
		return map[string]string{"chill": "yes"}
	case ch.Target == "paste" && strings.HasPrefix(ch.Change, "strength up"):
		if w.Way == nil {
			return nil
		}
		if need := rescue.Needs(work.TechniqueCode(w.Way)); need > w.Strength && w.Strength > 0 {
			return map[string]string{"peg": fmt.Sprintf("%.2f", need)}
		}
	}
	return nil
}

func keyOf(w *work.Reckoned) string {
	if w.Way == nil {
		return ""
	}
	return w.Way.Key
}

// Take does a change that was offered: it is set where the program can, and remembered where
// it belongs otherwise. It answers what it did.
func (s *Mending) Take(ctx context.Context, slug string, asked Asked, cause string, at int) (says string, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		f, err := about(a.Tx, a.House, a.Now, asked)
		if err != nil {
			return err
		}
		changes := rescue.ChangesOf(cause)
		if at < 0 || at >= len(changes) {
			return fault.New(fault.UnknownValue, "at", "That change is not offered.")
		}
		ch := changes[at]
		if f.w != nil {
			if sets := setsOf(ch, f.w); len(sets) > 0 {
				says, err = f.set(a, sets, ch)
				return err
			}
		}
		n := f.note(a, "remind", ch.Change)
		n.Target, n.Cause = ch.Target, cause
		if f.w != nil {
			n.Technique = keyOf(f.w)
		} else {
			n.Technique = keyOfCode(a, f.about.Technique)
		}
		says = fmt.Sprintf("Kept %s: %s.", targetSays[ch.Target], ch.Change)
		a.Say(f.about.OrderID, "will remember %s: %s", targetSays[ch.Target], ch.Change)
		return a.Create(n)
	}, nil)
	return says, err
}

// keyOfCode is the key of a way of making by its short code.
func keyOfCode(a *journal.Acting, code string) string {
	lib, err := a.Library()
	if err != nil {
		return code
	}
	for _, t := range lib.All() {
		if work.TechniqueCode(t) == code {
			return t.Key
		}
	}
	return code
}

// set changes the piece itself.
func (f *found) set(a *journal.Acting, sets map[string]string, ch rescue.Change) (says string, err error) {
	p, err := journal.Get[noun.Piece](a, f.about.PieceID)
	if err != nil {
		return "", err
	}
	for name, text := range sets {
		if q, way := strings.CutPrefix(name, "way."); way {
			ways := noun.Ways{}
			maps.Copy(ways, p.Ways)
			ways[q] = text
			p.Ways = ways
			continue
		}
		if err := read.Apply(read.PasteFields, read.Reader{K: a.House}, &p, map[string]string{name: text}, a.Now); err != nil {
			return "", err
		}
	}
	a.Say(f.about.OrderID, "changed %s after a failure: %s", p.Name, ch.Change)
	return fmt.Sprintf("Changed for %s: %s.", p.Name, ch.Change), a.Save(&p)
}
