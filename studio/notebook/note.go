// Package notebook is what happened and what it taught: notes of batches, what is learnt of
// them, what is found again.
package notebook

import (
	"context"
	"math"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Notebook is the use cases of notes.
type Notebook struct{ *plan.Planning }

// NoteIn is one tap: what was seen of the batch of a step. The rest is known.
type NoteIn struct {
	Op    string `json:"op" doc:"a step of the batch"`
	What  string `json:"what" enum:"firm,firmNow,soft,cracked,sagged,stuck,broke,tooHard,tasty,weighed,said"`
	Count int    `json:"count,omitempty" minimum:"0" maximum:"100000" doc:"of how many, or how many were weighed"`
	Grams string `json:"grams,omitempty" maxLength:"40" doc:"of weighed: what they weigh now, as people write it"`
	Says  string `json:"says,omitempty" maxLength:"2000"`
}

// Note keeps what was seen. It hangs on its batch, which knows its paste, its dose, its tool,
// how thick it is and where it lay. It answers its number.
func (s *Notebook) Note(ctx context.Context, slug string, in NoteIn) (id int64, says string, err error) {
	id, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		kind, known := noun.NoteKindOf(in.What)
		if !known || kind.Elsewhere {
			return fault.New(fault.UnknownValue, "what", "Note one of: %s.", read.List(noun.NoteCodes()))
		}
		n, st, c, err := s.about(a, in.Op)
		if err != nil {
			return err
		}
		n.What, n.Count, n.Says = in.What, in.Count, strings.TrimSpace(in.Says)
		switch {
		case kind.Dries && st == nil:
			return fault.New(fault.Contradiction, "what", "They have not been laid out to dry: nothing can be said of how firm they are.")
		case in.What == "said" && n.Says == "":
			return fault.New(fault.Required, "says", "Say in words what was seen.")
		case in.What == "broke" || in.What == "cracked" || in.What == "sagged" || in.What == "stuck":
			n.Count = max(1, in.Count)
		}
		if st != nil && (in.What == "firm" || in.What == "firmNow" || in.What == "soft") {
			if err := s.dries(a, n, st); err != nil {
				return err
			}
		} else {
			n.ModelHours = 0
		}
		if in.What == "weighed" {
			if err := s.weighs(a, n, st, c, in.Grams); err != nil {
				return err
			}
		}
		if in.What == "broke" { // it counts where breaks are counted
			if err := breaks(a, in.Op, n.Count, c); err != nil {
				return err
			}
		}
		a.Bench = true
		says = read.UpperFirst(work.NoteBrief(n, read.Reader{K: a.House}))
		a.Say(*n.CommissionID, "noted of %s: %s", n.Name, work.NoteBrief(n, read.Reader{K: a.House}))
		return a.Create(n)
	}, nil)
	return id, says, err
}

// about is a note with all that is known of its batch; st is its drying that runs or ended
// last, nil when it has not begun.
func (s *Notebook) about(a *journal.Acting, op string) (n *noun.Note, st *noun.Step, c work.Chain, err error) {
	at, err := a.Step(op)
	if err != nil {
		return nil, nil, c, err
	}
	mine, err := a.Steps(at.CommissionID)
	if err != nil {
		return nil, nil, c, err
	}
	steps := work.Derived(mine, a.House, a.Now)
	c = work.ChainOf(steps)
	n = &noun.Note{Row: noun.Row{Version: 1}, At: a.Now.UTC().Truncate(time.Second), Who: a.By, CommissionID: &at.CommissionID, PieceID: at.PieceID, Op: op, Name: at.Planned.Name}
	if k := at.Planned.Kept; k != nil {
		n.Technique = k.Technique
	}
	if at.PieceID != nil {
		if t, err := a.ToolFor(*at.PieceID); err == nil {
			n.Tool = t.Name
		}
	}
	batch := noun.BatchOf(op)
	for i := range steps {
		x := &steps[i]
		if noun.BatchOf(x.Op) != batch || x.Attended || x.Planned.Body == nil || x.ActualStart == nil {
			continue
		}
		if st == nil || x.ActualStart.After(*st.ActualStart) || x.Op == op {
			st = x
		}
	}
	if st == nil {
		return n, nil, c, nil
	}
	d, _ := work.DryingOf(st, a.House, a.Now)
	body := st.Planned.Body
	n.Op = st.Op
	n.Paste, n.GumPercent, n.Shape, n.ThicknessMM, n.Support, n.Rack = body.Paste, body.GumPercent, body.Shape, body.ThicknessMM, d.Support, a.House.RackName(d.Rack)
	n.TempC, n.RHPercent = work.MeanAir(st, a.House, a.Now)
	n.TempC, n.RHPercent = math.Round(n.TempC*10)/10, math.Round(n.RHPercent*10)/10
	n.Hours = round3(a.Now.Sub(*st.ActualStart).Hours())
	return n, st, c, nil
}

func round3(x float64) float64 { return math.Round(x*1000) / 1000 }

// dries says which stage a look was for, and what was foretold of it.
func (s *Notebook) dries(a *journal.Acting, n *noun.Note, st *noun.Step) error {
	n.Stage = st.Planned.Body.Until
	if n.Hours < 0.01 {
		return fault.New(fault.Contradiction, "what", "They were laid out this minute: look again later.")
	}
	band, model := work.Foretold(st, a.House, n.Stage, a.Now)
	if band != nil {
		n.LowHours, n.MidHours, n.HighHours = round3(float64(band.P10)/60), round3(float64(band.P50)/60), round3(float64(band.P90)/60)
	}
	if model >= 0.01 && noun.Dries(n.Paste) {
		n.ModelHours = round3(model)
	}
	return nil
}

// weighs says what they have lost since they were fresh, or since they were weighed last.
func (s *Notebook) weighs(a *journal.Acting, n *noun.Note, st *noun.Step, c work.Chain, text string) error {
	r := read.Reader{K: a.House}
	f := &read.Field[noun.Note]{Name: "grams", Kind: "amount", Dim: "mass", Lo: 0.01, Hi: 50000}
	g, err := f.Number(r, text)
	if err != nil {
		return err
	}
	n.Grams, n.Count = &g, max(1, n.Count)
	before, err := a.NotesOf([]string{n.Op})
	if err != nil {
		return err
	}
	for _, o := range slices.Backward(before) {
		if o.What == "weighed" && o.Count == n.Count && o.Grams != nil {
			n.FromGrams = o.FromGrams
			if n.FromGrams == nil {
				n.FromGrams = o.Grams
			}
			break
		}
	}
	if n.FromGrams == nil {
		c.Earlier(st, func(e *noun.Step) {
			if e.Makes() && e.PieceG() > 0 {
				n.FromGrams = new(math.Round(e.PieceG()*float64(n.Count)*100) / 100)
			}
		})
	}
	if n.FromGrams != nil && g > *n.FromGrams*1.5 {
		return fault.New(fault.Contradiction, "grams", "%s are weighed at %s: fresh they were %s. Say how many lie on the scale.", read.Count(n.Count, "piece"), r.Mass(g), r.Mass(*n.FromGrams))
	}
	return nil
}

// breaks counts pieces that broke at the step that made them, or at their drying.
func breaks(a *journal.Acting, op string, count int, c work.Chain) error {
	st, err := a.Step(op)
	if err != nil {
		return err
	}
	press := &st
	if !press.Makes() {
		for _, o := range c.ByOp {
			if noun.BatchOf(o.Op) == noun.BatchOf(op) && o.Makes() {
				x, err := a.Step(o.Op)
				if err != nil {
					return err
				}
				press = &x
			}
		}
	}
	if !press.Makes() || press.Made == nil {
		return nil
	}
	if left := *press.Made - press.Broken(); count > left {
		return fault.New(fault.OutOfRange, "count", "Only %d of them are whole.", max(0, left))
	}
	press.Breaks = append(slices.Clone(press.Breaks), noun.Break{At: a.Now.Truncate(time.Second), Count: count, Why: "snapped", Who: a.By})
	return a.SaveStep(press)
}

// Photograph puts a photo to a note.
func (s *Notebook) Photograph(ctx context.Context, slug string, id int64, jpeg []byte) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		n, err := journal.Get[noun.Note](a, id)
		if err != nil {
			return err
		}
		photo, err := a.KeepPhoto(jpeg)
		if err != nil {
			return err
		}
		n.Photo = &photo
		_, c := n.Called()
		a.Say(c, "put a photo to a note of %s", n.Name)
		return a.Save(&n)
	}, nil)
	return err
}

// Leave leaves a note out of what is learnt, or takes it in again.
func (s *Notebook) Leave(ctx context.Context, slug string, id int64, out bool) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		n, err := journal.Get[noun.Note](a, id)
		if err != nil || n.LeftOut == out {
			return err
		}
		n.LeftOut = out
		_, c := n.Called()
		a.Say(c, "%s a note of %s", map[bool]string{true: "left out of what is learnt", false: "took into what is learnt again"}[out], n.Name)
		return a.Save(&n)
	}, nil)
	return err
}

// SetBack leaves out every note of a paste, so that it is believed of it what is believed
// before any; "": of all. One undo takes that back.
func (s *Notebook) SetBack(ctx context.Context, slug, paste string) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		all, err := a.TeachingNotes(noun.MostTeaching)
		if err != nil {
			return err
		}
		of := "this kitchen"
		if paste != "" {
			of = read.PasteName(paste)
		}
		a.Say(0, "set back what was learnt of how %s dries", of)
		for i := range all {
			if n := &all[i]; !n.LeftOut && (paste == "" || n.Paste == paste) {
				n.LeftOut = true
				if err := a.Save(n); err != nil {
					return err
				}
			}
		}
		return nil
	}, nil)
	return err
}
