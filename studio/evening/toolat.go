package evening

import (
	"errors"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// tool that pieces are made with now, and its photo.
func (v *BenchView) tool(tx journal.Tx, k *noun.Kitchen) error {
	if v.Now == nil || !v.Now.Makes() || v.Now.PieceID == nil {
		return nil
	}
	t, err := tx.ToolFor(*v.Now.PieceID)
	if errors.Is(err, journal.ErrNotFound) {
		return nil
	}
	v.Photo = (&work.Means{Reader: read.Reader{K: k}}).PhotoOf(&t)
	if t.Presses() {
		v.Tool = &ToolAt{ID: t.ID, Name: t.Name, Copies: t.InUse(), Says: read.Count(t.InUse(), "copy") + " to work with"}
		if t.InUse() == 0 {
			v.Tool.Says = "no copy is left to work with"
		}
	}
	return err
}

// ToolAt is the mould that is worked with, and how many copies of it there are now.
type ToolAt struct {
	ID     int64  `json:"id"`
	Name   string `json:"name"`
	Copies int    `json:"copies"`
	Says   string `json:"says"`
}

// withCopies lets a press that has begun go on with the copies that are there now: one
// may have torn since.
func withCopies(tx journal.Tx, st *noun.Step) error {
	if !st.Makes() || st.ActualStart == nil || st.ActualEnd != nil || st.PieceID == nil || st.Planned.Run.Copies < 2 {
		return nil
	}
	t, err := tx.ToolFor(*st.PieceID)
	if errors.Is(err, journal.ErrNotFound) {
		return nil
	}
	if err == nil && t.Presses() && t.InUse() < st.Planned.Run.Copies {
		run := *st.Planned.Run
		run.Copies = max(1, t.InUse())
		st.Planned.Run = &run
	}
	return err
}
