package pantry

import (
	"context"
	"fmt"
	"maps"
	"math"
	"slices"
	"time"

	"dustyfern/craft/outline"
	"dustyfern/craft/technique"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
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
	Photo   *work.PhotoView  `json:"photo,omitempty"`
	Figures []noun.Figure    `json:"figures"`
	Weighed *WeighedView     `json:"weighed,omitempty"`
	Wanted  []WantedFor      `json:"wanted"`
	Kind    string           `json:"kind" doc:"what it is, in words"`
	Group   string           `json:"group" doc:"where it lies in the drawer"`
	Ways    []string         `json:"ways" doc:"how pieces are made with it"`
	Copies  []CopyDo         `json:"copies" doc:"what can be said of its copies"`
	Fields  []read.FieldView `json:"fields"`
	Roller  *RollerView      `json:"roller,omitempty" doc:"of a rolling machine"`
	Cast    *CastView        `json:"cast,omitempty" doc:"of a home-made mould"`
	Draws   bool             `json:"draws" doc:"it takes an outline of its own from a drawing"`
	Prints  bool             `json:"prints" doc:"its outline can be printed at true size"`
}

// ToolPicture is what a tool is drawn from, in mm as it lies before one: what is long
// and slim lies down, a half-ball is seen from the side. Says are its measures.
type ToolPicture struct {
	Shape    string  `json:"shape" doc:"of the piece as it lies for what paste is pressed into: sheet, block, rod, ball, dome, lace or lip; else its kind"`
	AcrossMM float64 `json:"acrossMM"`
	HighMM   float64 `json:"highMM"`
	Cavities int     `json:"cavities"`
	Lies     bool    `json:"lies"`
	Beaded   bool    `json:"beaded"`
	Veined   bool    `json:"veined"`
	Branches bool    `json:"branches"`
	Outline  string  `json:"outline" doc:"of what cuts: SVG path data in mm as it is drawn; empty: by its shape"`
	Says     string  `json:"says"`
}

// How slim a tool lies down, and how slim a rod is drawn as a string of beads: length
// by width.
const (
	liesFrom   = 3
	beadedFrom = 10
)

// How large a tool is drawn that has no size of its own, mm (assumed).
const (
	plainLong = 60
	plainWide = 18
)

func pictureOf(t *noun.Tool, r read.Reader) ToolPicture {
	long, wide, deep := t.Box()
	p := ToolPicture{Shape: t.Kind, AcrossMM: wide, HighMM: long, Cavities: t.Cavities(), Veined: t.Of("patterned") > 0, Branches: t.Of("branching") > 0}
	if wide == 0 || long == 0 {
		p.AcrossMM, p.HighMM, p.Lies = plainLong, plainWide, true
		p.Says = r.Say(kindName(t, r))
		return p
	}
	p.Lies, p.Beaded = long > liesFrom*wide, t.Of("pitchMM") > 0 && t.Presses()
	p.Says = r.Length(long) + " × " + r.Length(wide)
	if deep > 0 {
		p.Says += ", " + r.Length(deep) + " deep"
	}
	if t.Presses() {
		switch {
		case t.Shape != "":
			p.Shape = t.Shape
			p.Beaded = p.Beaded || t.Shape == "rod" && long >= beadedFrom*wide
		case t.Of("windows") > 0:
			p.Shape = "lip"
		case t.Of("tips") > 0:
			p.Shape = "lace"
		case p.Beaded:
			p.Shape = "rod"
		case t.Round():
			p.Shape = "ball"
		default:
			p.Shape = "block"
		}
	}
	switch {
	case p.Shape == "dome":
		p.HighMM, p.Lies = deep, false
	case p.Lies:
		p.AcrossMM, p.HighMM = long, wide
	}
	if rings := t.Cuts(); rings != nil { // x of an outline is its length, which lies across
		if _, hi := outline.Box(rings); !p.Lies && hi[0] > hi[1] {
			for i := range rings {
				rings[i] = outline.Turned(rings[i], 90)
				for k := range rings[i] {
					rings[i][k][0] += hi[1]
				}
			}
		}
		_, hi := outline.Box(rings)
		p.AcrossMM, p.HighMM, p.Outline = hi[0], hi[1], outline.PathText(rings)
	}
	return p
}

func kindName(t *noun.Tool, r read.Reader) string {
	if k := technique.Ours.Kind(t.Kind); k != nil {
		return work.NameOf(r, k.Names)
	}
	return t.Kind
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

// CopyDo is something to say of one copy, in one press.
type CopyDo struct {
	Do  string `json:"do" enum:"broke,mended,lent,back"`
	Say string `json:"say"`
	Not string `json:"not" doc:"why it cannot be said; empty: it can"`
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
		b, err := plan.Gather(tx, k, now, nil, nil)
		if err != nil {
			return err
		}
		out = []ToolView{}
		for i := range ts {
			if ts[i].DeletedAt == nil {
				out = append(out, toolView(b, &ts[i], wantedFor(ts[i].ID, cs, ps, read.Reader{K: k}, now)))
			}
		}
		slices.SortStableFunc(out, func(a, b ToolView) int { return groupPlace(a.Group) - groupPlace(b.Group) })
		return nil
	})
	return out, err
}

func groupPlace(g string) int { return slices.Index(noun.DrawerGroups, g) }

// MadeView is what a tool has made of late, by what was noted at the bench.
type MadeView struct {
	Says   string       `json:"says"`
	Breaks []noun.Named `json:"breaks" doc:"why pieces broke, and how many"`
	Each   *noun.Figure `json:"each,omitempty" doc:"minutes of a piece, as they were"`
}

// mostMade is over how many batches a tool's work is told.
const mostMade = 50

// Made tells what a tool has made: pieces, breakage and its reasons, minutes.
func (s *Keeping) Made(ctx context.Context, slug string, id int64) (out MadeView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, _ *noun.Kitchen, _ time.Time) error {
		if _, err := journal.Get[noun.Tool](tx, id); err != nil {
			return err
		}
		steps, err := tx.MadeWith(id, mostMade)
		if err != nil {
			return err
		}
		out = madeView(steps)
		return nil
	})
	return out, err
}

func madeView(steps []noun.Step) MadeView {
	v := MadeView{Says: "Nothing was made with it yet.", Breaks: []noun.Named{}}
	made, broken, minutes := 0, 0, 0.0
	why := map[string]int{}
	for i := range steps {
		st := &steps[i]
		made += st.Out()
		minutes += st.ActualEnd.Sub(*st.ActualStart).Minutes()
		for _, b := range st.Breaks {
			broken += b.Count
			why[b.Why] += b.Count
		}
	}
	if made == 0 {
		return v
	}
	v.Says = fmt.Sprintf("%d made in %s", made, read.Count(len(steps), "batch"))
	if broken > 0 {
		v.Says += fmt.Sprintf(", %d broke: %s %%", broken, read.Trimmed(100*float64(broken)/float64(made), 1))
	} else {
		v.Says += ", none broke"
	}
	for _, code := range slices.Sorted(maps.Keys(why)) {
		v.Breaks = append(v.Breaks, noun.Named{Name: work.BreakSay(code), Text: fmt.Sprint(why[code])})
	}
	each := minutes / float64(made)
	v.Each = &noun.Figure{Value: each, Unit: "min for one, as it was", Text: read.Trimmed(each, 1), Why: &noun.Why{Rule: "From the first movement of a batch to its last, freezer and waits of the rounds in it, over the pieces that came out.",
		Formula: "minutes / pieces", Values: []noun.Named{{Name: "minutes", Text: read.Trimmed(minutes, 0)}, {Name: "pieces", Text: fmt.Sprint(made)}}}}
	return v
}

func toolView(b *work.Means, t *noun.Tool, wanted []WantedFor) ToolView {
	r := b.Reader
	v := ToolView{ID: t.ID, Version: t.Version, Name: t.Name, Kind: kindName(t, r), Group: r.Say(noun.DrawerGroup(t.Kind)), Ways: []string{}, Copies: []CopyDo{}, Figures: []noun.Figure{}, Wanted: wanted, Fields: read.Views(read.ToolFields(t, nil), r, t, b.Now)}
	v.Picture, v.Photo = pictureOf(t, r), b.PhotoOf(t)
	if k := technique.Ours.Kind(t.Kind); k != nil {
		for _, m := range k.Measures {
			switch m.Name {
			case "steps":
				v.Roller = rollerView(t, r)
			case "pulls":
				v.Cast = castView(t)
			}
		}
	}
	v.Draws, v.Prints = noun.TakesOutline(t.Kind), v.Picture.Outline != ""
	v.Says = append(v.Says, v.Picture.Says)
	switch {
	case t.WeighedG != nil:
		v.Says = append(v.Says, "a piece weighs "+r.Mass(*t.WeighedG))
	case t.CavityML != nil:
		v.Says = append(v.Says, "holds "+read.Trimmed(*t.CavityML, 2)+" ml")
	case t.Places() > 0:
		v.Says = append(v.Says, read.Count(t.Places(), "place"))
	case t.Presses():
		v.Says = append(v.Says, "not weighed yet")
	default:
		v.Says = append(v.Says, v.Kind)
	}
	n := ""
	if t.Cavities() > 1 {
		n = fmt.Sprintf("%d cavities, ", t.Cavities())
	}
	how := ""
	if t.Presses() {
		how = ", straight out"
		if t.Chilled {
			how = ", chilled"
		}
	}
	copies := read.Count(t.InUse(), "copy")
	if t.Lent > 0 {
		copies += fmt.Sprintf(", %d lent", t.Lent)
	}
	if t.Broken > 0 {
		copies += fmt.Sprintf(", %d broken", t.Broken)
	}
	v.Says = append(v.Says, n+copies+how)
	for _, d := range copyDos {
		if not := copyNot(t, d.lent, d.broken); not == "" || d.do == "broke" {
			v.Copies = append(v.Copies, CopyDo{d.do, d.say, r.Say(not)})
		}
	}
	for _, w := range b.Library.Makes(t.Kind) {
		v.Ways = append(v.Ways, work.NameOf(r, w.Names))
	}
	v.weigh(t, r)
	if f := b.HourOf(t); f != nil {
		v.Figures = append(v.Figures, *f)
	}
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
