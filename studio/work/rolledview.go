package work

import (
	"fmt"
	"math"

	"dustyfern/craft/outline"
	"dustyfern/craft/piece"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// rollOutView shows how the pieces of a batch are cut; nil where nothing is.
func (b *Means) rollOutView(w *Reckoned) *RollOutView {
	c := b.cuttingOf(w, w.Batch.Make)
	if c == nil {
		return nil
	}
	v := &RollOutView{Outlines: []string{}, BoardLongMM: c.boardL, BoardWideMM: c.boardW, ThicknessMM: c.thick, Full: []Laid{}, Sheets: []RolledSheet{}, Turns: []float64{}, Notes: []string{}, ByHand: len(w.Piece.Laid) > 0}
	most := b.atOnce(w, c, v)
	var err error
	if c.rings != nil {
		err = b.outlineSheets(w, c, v, most)
	} else {
		err = b.stripSheets(w, c, v, most)
	}
	if err != nil {
		v.Says = b.Reader.Say(Sentence(err))
		return v
	}
	if c.overhang {
		v.Notes = append(v.Notes, fmt.Sprintf("Longer than the board, %s: guide it off the end, on film.", b.Reader.Length(c.boardL)))
	}
	return v
}

// atOnce is how many may lie cut while the sheet stays open, said with its reason; 0: that
// is not known or does not limit.
func (b *Means) atOnce(w *Reckoned, c *cutting, v *RollOutView) int {
	r := w.Way.Rolls
	name, each := r.MostStrips, 1.0
	if name == "" {
		name, each = r.MostPieces, c.each
	}
	x, ok := b.numberOf(w, name)
	if name == "" || !ok || w.Chain == nil {
		return 0
	}
	most := int(math.Max(1, math.Floor(x*each+1e-9)))
	values := []noun.Named{}
	if open := w.Moments["open.p10"]; open != nil {
		values = append(values, noun.Named{Name: "the sheet stays open, min", Text: read.Trimmed(*open, 0)})
	}
	for _, n := range []struct{ name, says string }{{"eachMin", "minutes for one piece"}, {"stripMin", "minutes for one strip"}, {"openStrips", "strips in that time"}, {"perSheet", "on one sheet"}} {
		if x, ok := b.numberOf(w, n.name); ok {
			values = append(values, noun.Named{Name: n.says, Text: read.Trimmed(x, 1)})
		}
	}
	v.AtOnce = &noun.Figure{Value: float64(most), Unit: "cut at once, at most", Text: fmt.Sprint(most), Why: &noun.Why{Rule: "A sheet is used up before it skins: no more is cut of it than hands can work in that time.", Formula: "(open time − setting up) / minutes for one, no more than a sheet holds", Values: values}}
	return most
}

func (b *Means) outlineSheets(w *Reckoned, c *cutting, v *RollOutView, most int) error {
	out, err := c.rollOut(w, most)
	if err != nil {
		return err
	}
	v.Outlines, v.Turns = []string{outline.PathText(c.rings)}, handTurns(w)
	held := 0
	for _, ok := range out.Fits {
		if ok {
			held++
		}
	}
	for i, p := range out.Full {
		v.Full = append(v.Full, Laid{XMM: p.XMM, YMM: p.YMM, Deg: p.Deg, Held: i < held})
	}
	for i, p := range w.Piece.Laid {
		if i < len(out.Fits) && !out.Fits[i] {
			v.Full = append(v.Full, Laid{XMM: p.XMM, YMM: p.YMM, Deg: p.Deg, Held: true, Off: true})
		}
	}
	turned := "turned as they fit"
	if w.Fore.Base["along"] > 0 {
		turned = "all along the sheet"
	}
	v.PerSheet = &noun.Figure{Value: float64(out.PerSheet), Unit: "on a full sheet", Text: fmt.Sprint(out.PerSheet), Why: &noun.Why{Rule: "The outlines are laid by rows, by columns and in pairs on a grid of 1 mm, so that none overlap; the best of these. By hand expect about nine in ten.",
		Formula: "the most that were laid", Values: []noun.Named{{Name: "board", Text: b.Reader.Length(c.boardL) + " × " + b.Reader.Length(c.boardW)}, {Name: "rim left free", Text: b.Reader.Length(rimMM)}, {Name: "between two", Text: b.Reader.Length(gapMM)},
			{Name: "one outline covers", Text: read.Trimmed(c.area/100, 1) + " cm²"}, {Name: "turned", Text: turned}}}}
	for i, s := range out.Sheets {
		r := RolledSheet{LongMM: s.LongMM, WideMM: s.WideMM, Roll: s.Roll, Grams: b.Reader.Paste(s.G), Scrap: b.Reader.Paste(s.ScrapG), Laid: []Laid{}}
		for _, p := range s.Laid {
			r.Laid = append(r.Laid, Laid{XMM: p.XMM, YMM: p.YMM, Deg: p.Deg})
		}
		r.Says = fmt.Sprintf("Sheet %d, %s: %s, %s × %s, %s; %s over", i+1, rollSays(s.Roll), read.Count(len(s.Laid), c.says), b.Reader.Length(s.LongMM), b.Reader.Length(s.WideMM), r.Grams, r.Scrap)
		v.Sheets = append(v.Sheets, r)
	}
	v.Grams = b.rolledFigure(w, c, out)
	b.enough(w, v, out.NeedG)
	rolls := 0
	if n := len(out.Sheets); n > 0 {
		rolls = out.Sheets[n-1].Roll
	}
	v.Says = fmt.Sprintf("%s from %s", read.Count(out.Cut, c.says), read.Count(len(out.Sheets), "sheet"))
	if rolls > 0 {
		v.Says += fmt.Sprintf(", the scraps rolled %s", map[int]string{1: "once more", 2: "twice more"}[min(2, rolls)])
	} else if len(out.Sheets) > 0 {
		v.Says += ", no scraps rolled again"
	}
	v.Says += fmt.Sprintf("; %s are over at the end.", b.Reader.Paste(out.LeftG))
	return nil
}

// enough says when sheets that are used up before they skin take more than is kneaded: small
// ones have more rim.
func (b *Means) enough(w *Reckoned, v *RollOutView, grams float64) {
	if more := grams - w.Batch.PasteG; w.rolledG > 0 && more > 0.5 {
		v.Notes = append(v.Notes, fmt.Sprintf("In sheets so small they take %s more than is kneaded: roll the last scraps once more.", b.Reader.Paste(more)))
	}
}

func rollSays(roll int) string {
	return []string{"fresh", "scraps once", "scraps twice", "scraps three times", "scraps four times"}[min(4, roll)]
}

func (b *Means) rolledFigure(w *Reckoned, c *cutting, out piece.RollOutOut) *noun.Figure {
	return &noun.Figure{Value: out.NeedG, Unit: "rolled out in all", Text: b.Reader.Paste(out.NeedG), Why: &noun.Why{Rule: "The least paste with which all are cut, scraps rolled again while that saves a sixth and the paste bears it; a little more where that saves a sheet. 3 % more is kneaded.",
		Formula: "sheets × thickness × density; scraps lose 5 % at each kneading", Values: []noun.Named{{Name: "thickness", Text: b.Reader.Length(c.thick)}, {Name: "density", Text: read.Trimmed(c.density, 2) + " g/ml"},
			{Name: "rolled again at most", Text: read.Count(rerolls(w), "time")}, {Name: "left at the end", Text: read.Trimmed(out.LeftG, 0) + " g"}}}}
}

func (b *Means) stripSheets(w *Reckoned, c *cutting, v *RollOutView, most int) error {
	sheets, err := c.strips(most)
	if err != nil {
		return err
	}
	lengths := map[float64]int{}
	total := 0.0
	for i, s := range sheets {
		g := c.grams(s.LongMM, s.WideMM)
		cut := 0.0
		r := RolledSheet{LongMM: s.LongMM, WideMM: s.WideMM, Grams: b.Reader.Paste(g), Laid: []Laid{}}
		for _, p := range s.Strips {
			l := c.lengths[p.Of]
			of, known := lengths[l]
			if !known {
				of = len(v.Outlines)
				lengths[l] = of
				v.Outlines = append(v.Outlines, outline.PathText([]outline.Ring{{{0, 0}, {l, 0}, {l, c.wideMM}, {0, c.wideMM}}}))
			}
			cut += l * c.wideMM
			r.Laid = append(r.Laid, Laid{Of: of, XMM: p.XMM, YMM: p.YMM})
		}
		total += g
		r.Scrap = b.Reader.Paste(math.Max(0, g-c.grams(cut, 1)))
		r.Says = fmt.Sprintf("Sheet %d: %s, %s × %s, %s; %s over", i+1, read.Count(len(s.Strips), "strip"), b.Reader.Length(s.LongMM), b.Reader.Length(s.WideMM), r.Grams, r.Scrap)
		v.Sheets = append(v.Sheets, r)
	}
	v.Says = fmt.Sprintf("%s from %s, each %s wide.", read.Count(c.pieces, "strip"), read.Count(len(sheets), "sheet"), b.Reader.Length(c.wideMM))
	b.enough(w, v, total)
	v.Grams = &noun.Figure{Value: total, Unit: "rolled out in all", Text: b.Reader.Paste(total), Why: &noun.Why{Rule: "The sheets, each no larger than its strips with their rim.", Formula: "length × width × thickness × density, over all sheets",
		Values: []noun.Named{{Name: "thickness", Text: b.Reader.Length(c.thick)}, {Name: "density", Text: read.Trimmed(c.density, 2) + " g/ml"}, {Name: "rim cut off", Text: b.Reader.Length(stripRimMM)}}}}
	return nil
}
