package pantry

import (
	"context"
	"fmt"
	"math"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/piece"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// ToolView is a tool of the drawer: as it is drawn to scale, what it weighs and
// gives, and what it is wanted for.
type ToolView struct {
	ID      int64            `json:"id"`
	Version int64            `json:"version"`
	Name    string           `json:"name"`
	Says    []string         `json:"says"`
	Picture ToolPicture      `json:"picture"`
	Figures []noun.Figure    `json:"figures"`
	Weighed *WeighedView     `json:"weighed,omitempty"`
	Wanted  []WantedFor      `json:"wanted"`
	Broke   string           `json:"broke" doc:"why one copy less cannot be said here; empty: it can"`
	Fields  []read.FieldView `json:"fields"`
}

// ToolPicture is what a tool is drawn from, in mm as it lies before one: what is long
// and slim lies down, a half-ball is seen from the side. Says are its measures.
type ToolPicture struct {
	Shape    string  `json:"shape" enum:"sheet,block,rod,ball,dome,lace,lip"`
	AcrossMM float64 `json:"acrossMM"`
	HighMM   float64 `json:"highMM"`
	Cavities int     `json:"cavities"`
	Lies     bool    `json:"lies"`
	Beaded   bool    `json:"beaded"`
	Veined   bool    `json:"veined"`
	Branches bool    `json:"branches"`
	Says     string  `json:"says"`
}

// How slim a tool lies down, and how slim a rod is drawn as a string of beads: length
// by width.
const (
	liesFrom   = 3
	beadedFrom = 10
)

func pictureOf(t *noun.Tool, r read.Reader) ToolPicture {
	long, wide := math.Max(t.LengthMM, t.WidthMM), math.Min(t.LengthMM, t.WidthMM)
	p := ToolPicture{Shape: t.Shape, AcrossMM: wide, HighMM: long, Cavities: t.Cavities, Lies: long > liesFrom*wide, Beaded: t.Shape == "rod" && long >= beadedFrom*wide,
		Veined: t.Patterned, Branches: t.Branching, Says: fmt.Sprintf("%s × %s, %s deep", r.Length(long), r.Length(wide), r.Length(t.DepthMM))}
	if t.Make == "lace" || t.Make == "lip" {
		p.Shape = t.Make
	}
	switch {
	case p.Shape == "dome":
		p.HighMM, p.Lies = t.DepthMM, false
	case p.Lies:
		p.AcrossMM, p.HighMM = long, wide
	}
	return p
}

// WeighedView is the pieces that were weighed, on a scale from Lo to Hi grams.
type WeighedView struct {
	Grams []float64 `json:"grams"`
	Lo    float64   `json:"lo"`
	Hi    float64   `json:"hi"`
	From  string    `json:"from"`
	To    string    `json:"to"`
	Says  string    `json:"says"`
}

// WantedFor is an open piece that a tool is needed for.
type WantedFor struct {
	CommissionID int64  `json:"commissionId"`
	PieceID      int64  `json:"pieceId"`
	Says         string `json:"says"`
	When         string `json:"when"`
}

// Tools lists the drawer.
func (s *Keeping) Tools(ctx context.Context, slug string) (out []ToolView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		ts, err := tx.Tools()
		if err != nil {
			return err
		}
		cs, err := tx.OpenCommissions()
		if err != nil {
			return err
		}
		ps, err := tx.OpenPieces()
		if err != nil {
			return err
		}
		out = []ToolView{}
		for i := range ts {
			if ts[i].DeletedAt == nil {
				out = append(out, toolView(&ts[i], k, now, wantedFor(ts[i].ID, cs, ps, now)))
			}
		}
		return nil
	})
	return out, err
}

// wantedFor lists the open pieces that are pressed in a mould.
func wantedFor(tool int64, cs []noun.Commission, ps []noun.Piece, now time.Time) []WantedFor {
	out := []WantedFor{}
	for i := range cs {
		for _, p := range ps {
			if p.CommissionID != cs[i].ID || p.MouldID == nil || *p.MouldID != tool {
				continue
			}
			w := WantedFor{CommissionID: cs[i].ID, PieceID: p.ID, Says: fmt.Sprintf("%s: %s, %d", cs[i].Title, p.Name, p.Wanted)}
			if cs[i].HandOver != nil {
				w.When = read.SayDate(*cs[i].HandOver, now)
			}
			out = append(out, w)
		}
	}
	return out
}

// CopyBroke says that one copy of a mould broke.
func (s *Keeping) CopyBroke(ctx context.Context, slug string, id int64) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		t, err := a.Tool(id)
		if err != nil {
			return err
		}
		if t.DeletedAt != nil {
			return journal.ErrNotFound
		}
		if t.Copies < 2 {
			return fault.New(fault.Contradiction, "copies", "%s", read.Reader{K: a.House}.Say(lastCopy))
		}
		t.Copies--
		a.Say(0, "one copy of %s broke: %s", t.Name, read.Count(t.Copies, "copy"))
		return a.SaveTool(&t)
	}, nil)
	return err
}

const lastCopy = "It is the only copy: give its pieces another mould, then take it away."

func toolView(t *noun.Tool, k *noun.Kitchen, now time.Time, wanted []WantedFor) ToolView {
	r := read.Reader{K: k}
	v := ToolView{ID: t.ID, Version: t.Version, Name: t.Name, Figures: []noun.Figure{}, Wanted: wanted, Fields: read.Views(read.ToolFields, r, t, now)}
	v.Says = append(v.Says, fmt.Sprintf("%s × %s, %s deep", r.Length(t.LengthMM), r.Length(t.WidthMM), r.Length(t.DepthMM)))
	switch {
	case t.WeighedG != nil:
		v.Says = append(v.Says, "a piece weighs "+r.Mass(*t.WeighedG))
	case t.CavityML != nil:
		v.Says = append(v.Says, "holds "+read.Trimmed(*t.CavityML, 2)+" ml")
	default:
		v.Says = append(v.Says, "not weighed yet")
	}
	n := ""
	if t.Cavities > 1 {
		n = fmt.Sprintf("%d cavities, ", t.Cavities)
	}
	how := "straight out"
	if t.Chilled {
		how = "chilled"
	}
	v.Says = append(v.Says, n+read.Count(t.Copies, "copy")+", "+how)
	v.Picture = pictureOf(t, r)
	if t.Copies < 2 {
		v.Broke = r.Say(lastCopy)
	}
	v.weigh(t, r)
	v.gives(t, k, r)
	return v
}

// weigh says what a piece weighs: by the pieces weighed, else by the one trial.
func (v *ToolView) weigh(t *noun.Tool, r read.Reader) {
	mean, spread := t.Weighed()
	switch n := len(t.Weighings); {
	case n > 0:
		lo, hi := mean, mean
		w := &WeighedView{}
		for _, x := range t.Weighings {
			w.Grams = append(w.Grams, x.Grams)
			lo, hi = math.Min(lo, x.Grams), math.Max(hi, x.Grams)
		}
		w.Says = fmt.Sprintf("%s, %s to %s", read.Count(n, "piece")+" weighed", r.Mass(lo), r.Mass(hi))
		w.Lo, w.Hi = math.Floor(lo*10-1)/10, math.Ceil(hi*10+1)/10
		w.From, w.To = r.Mass(w.Lo), r.Mass(w.Hi)
		v.Weighed = w
		v.Figures = append(v.Figures, noun.Figure{Value: mean, Unit: w.Says, Text: r.Mass(mean), Why: &noun.Why{Rule: "The mean of the pieces that were weighed.", Formula: "sum / count",
			Values: []noun.Named{{Name: "pieces", Text: fmt.Sprint(n)}, {Name: "mean", Text: read.Trimmed(mean, 2) + " g"}, {Name: "spread", Text: read.Trimmed(spread, 2) + " g"}}}})
	case t.WeighedG != nil:
		v.Figures = append(v.Figures, noun.Figure{Value: *t.WeighedG, Unit: "one trial piece", Text: r.Mass(*t.WeighedG), Why: &noun.Why{Rule: "One good piece, trimmed and weighed.", Formula: "as typed", Values: []noun.Named{{Name: "piece", Text: read.Trimmed(*t.WeighedG, 2) + " g"}}}})
	}
}

// gives says how many pieces an hour gives.
func (v *ToolView) gives(t *noun.Tool, k *noun.Kitchen, r read.Reader) {
	weight := 0.0
	if t.WeighedG != nil {
		weight = *t.WeighedG
	}
	round := (&work.Worked{Mould: t}).CraftMould().RoundOf(t.Chilled, false, "dry", weight)
	fill, freeze, open := float64(round.FillSec)/60, float64(round.HoldSec)/60, float64(round.UnmouldSec)/60
	in := piece.CycleIn{FillMinutes: &fill, FreezeMinutes: &freeze, UnmouldMinutes: &open, Moulds: &t.Copies, Cavities: &t.Cavities}
	if freeze > 0 {
		if k.FreezerPlaces < 1 {
			return
		}
		in.FreezerPlaces = &k.FreezerPlaces
	}
	out, err := piece.Cycle(in)
	if err != nil {
		return
	}
	unit := "an hour"
	if t.Copies > 1 {
		unit = fmt.Sprintf("an hour, all %d copies", t.Copies)
	}
	v.Figures = append(v.Figures, noun.Figure{Value: out.PiecesPerHour, Unit: unit, Text: fmt.Sprint(math.Floor(out.PiecesPerHour)), Why: &noun.Why{Rule: r.Say("Fill, freeze, open, again: hands or moulds set the pace, whichever is slower."),
		Formula: "pieces = cavities × 60 min(1/(fill + open), moulds/(fill + freezer + open))",
		Values:  []noun.Named{{Name: "fill", Text: read.Trimmed(fill, 2) + " min (" + round.Because + ")"}, {Name: "freezer", Text: read.Trimmed(freeze, 1) + " min"}, {Name: "open", Text: read.Trimmed(open, 2) + " min"}, {Name: r.Say("moulds"), Text: fmt.Sprint(t.Copies)}, {Name: "cavities", Text: fmt.Sprint(t.Cavities)}}}})
}
