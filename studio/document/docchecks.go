package document

import (
	"fmt"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

func (d *Document) checkCommission(i int) error {
	c, at := &d.Commissions[i], fmt.Sprintf("commissions[%d]", i)
	if len(c.Pieces) > mostOf.pieces || len(c.Steps) > mostOf.steps || len(c.Tiers) > mostOf.lines {
		return fault.New(fault.OutOfRange, at, "At most %d pieces, %d steps and %d tiers.", mostOf.pieces, mostOf.steps, mostOf.lines)
	}
	if err := read.CheckRow(at, slices.Concat(read.CommissionFields, read.LeavesFields), c.Commission); err != nil {
		return err
	}
	for j, t := range c.Tiers {
		if (t.Shape != "round" && t.Shape != "square") || !(t.SizeMM >= 20 && t.SizeMM <= 2000) || !(t.HeightMM >= 0 && t.HeightMM <= 1000) || !(t.CoatingMM >= 0 && t.CoatingMM <= 100) || len(t.Coating) > read.MostText {
			return fault.New(fault.OutOfRange, fmt.Sprintf("%s.tiers[%d]", at, j), "A tier is round or square, 20 to 2000 mm across, at most 1000 mm tall and coated at most 100 mm.")
		}
	}
	for _, x := range []struct {
		name string
		at   *time.Time
	}{{"handOver", c.HandOver}, {"cakeReady", c.CakeReady}} {
		if x.at != nil && (x.at.Year() < 1990 || x.at.After(time.Now().AddDate(read.YearsAhead+1, 0, 0))) {
			return fault.New(fault.OutOfRange, at+"."+x.name, "%s is too far away to be meant.", x.at.Format("2 January 2006"))
		}
	}
	if !slices.Contains([]string{"open", "aside", "handedOver"}, c.State) {
		return fault.New(fault.UnknownValue, at+".state", "A commission is open, aside or handedOver, not %q.", c.State)
	}
	if err := checkLeaves(at, &c.Leaves); err != nil {
		return err
	}
	for j, p := range c.Pieces {
		if err := d.checkPiece(fmt.Sprintf("%s.pieces[%d]", at, j), len(c.Pieces), p); err != nil {
			return err
		}
	}
	begun := map[string]bool{}
	for _, st := range c.Steps {
		if st.Attended && st.ActualStart != nil && st.Piece > 0 {
			begun[noun.BatchOf(st.Op)] = true
		}
	}
	seen := map[string]bool{}
	for j, st := range c.Steps {
		at := fmt.Sprintf("%s.steps[%d]", at, j)
		if seen[st.Op] {
			return fault.New(fault.Contradiction, at+".op", "The step %q stands there twice.", st.Op)
		}
		seen[st.Op] = true
		if err := d.checkStep(at, i+1, len(c.Pieces), begun[noun.BatchOf(st.Op)], st); err != nil {
			return err
		}
	}
	return nil
}

func (d *Document) checkPiece(at string, pieces int, p PieceDoc) error {
	if p.Tool < 0 || p.Tool > len(d.Tools) {
		return fault.New(fault.UnknownValue, at+".tool", "There is no tool number %d.", p.Tool)
	}
	if p.Rack != nil && (*p.Rack < 1 || *p.Rack > int64(len(d.Racks))) {
		return fault.New(fault.UnknownValue, at+".rack", "There is no place number %d to dry in.", *p.Rack)
	}
	for role, no := range p.Tools {
		if no < 1 || no > int64(len(d.Tools)) {
			return fault.New(fault.UnknownValue, at+".tools."+role, "There is no tool number %d.", no)
		}
	}
	if len(p.Joins) > mostOf.joins || len(p.Tools)+len(p.Measures)+len(p.Ways) > mostOf.lines {
		return fault.New(fault.OutOfRange, at+".joins", "At most %d parts.", mostOf.joins)
	}
	for i, j := range p.Joins {
		if j.Part < 1 || j.Part > int64(pieces) || j.Each < 1 || j.Each > noun.MostEach || !(j.Minutes >= 0 && j.Minutes <= 240) || len(j.Says)+len(j.With) > read.MostText {
			return fault.New(fault.OutOfRange, fmt.Sprintf("%s.joins[%d]", at, i), "A part is a piece of the same commission by its number, 1 to %d of it for each.", noun.MostEach)
		}
	}
	if len(p.GelLots) > 14 || slices.ContainsFunc(p.GelLots, func(no int64) bool { return no < 1 || no > int64(len(d.Lots)) || d.Lots[no-1].Kind != "gel" }) {
		return fault.New(fault.UnknownValue, at+".gelLots", "Gels are lots of the document, by their numbers.")
	}
	if err := p.Outline.Check(); err != nil {
		return fault.At(err, at+".outline.")
	}
	if err := noun.CheckPut(p.Laid); err != nil {
		return fault.At(err, at+".")
	}
	if len(p.Strands) > noun.MostStrands {
		return fault.New(fault.OutOfRange, at+".strands", "At most %d colours lie beside a piece's own.", noun.MostStrands)
	}
	for i, s := range p.Strands {
		if err := work.CheckStrand(s); err != nil {
			return fault.New(fault.OutOfRange, fmt.Sprintf("%s.strands[%d]", at, i), "%s", work.Sentence(err))
		}
	}
	if err := d.checkEnding(at, &p); err != nil {
		return err
	}
	for _, g := range []*float64{p.TrialG, p.TrialLowG, p.TrialHighG} {
		if g != nil && !(*g >= 0.01 && *g <= 50000) {
			return fault.New(fault.OutOfRange, at+".trialG", "A piece weighs from 0.01 g to 50 kg.")
		}
	}
	if len(p.Extras) > noun.MostAgain || slices.ContainsFunc(p.Extras, func(n int) bool { return n < 1 || n > 500 }) {
		return fault.New(fault.OutOfRange, at+".extras", "From 1 to 500 pieces are pressed again, %d times at most.", noun.MostAgain)
	}
	if len(p.TrialText) > read.MostText || !slices.Contains([]string{"", work.FromGels, work.FromLeftovers, work.FromNothing}, p.ColourFrom) {
		return fault.New(fault.UnknownValue, at+".colourFrom", "A colour comes from gels, from leftovers, or stays as it is.")
	}
	p.Rack = nil // a number of the document, looked at above
	return read.CheckRow(at, slices.Concat(read.PieceFields, read.PasteFields, read.EndingFields), p.Piece)
}

func (d *Document) checkStep(at string, commission, pieces int, begun bool, st StepDoc) error {
	switch {
	case st.Piece < 0 || st.Piece > pieces:
		return fault.New(fault.UnknownValue, at+".piece", "There is no piece number %d in that commission.", st.Piece)
	case st.PlannedEnd.Before(st.PlannedStart) || st.PlannedStart.Year() < 1990 || st.PlannedEnd.Year() > 2200:
		return fault.New(fault.Contradiction, at+".plannedStart", "A step ends after it begins, in our time.")
	case !st.Attended && (st.ActualStart != nil || st.ActualEnd != nil):
		return fault.New(fault.Contradiction, at+".actualStart", "When a wait began follows from the step before it.")
	case st.ActualStart == nil && st.ActualEnd != nil || st.ActualStart != nil && st.ActualEnd != nil && st.ActualEnd.Before(*st.ActualStart):
		return fault.New(fault.Contradiction, at+".actualStart", "A step ends after it began.")
	case st.Attended && st.ActualStart == nil && !begun:
		return fault.New(fault.Contradiction, at+".actualStart", "A step in a document has begun, or another one of its batch has.")
	case st.Made != nil && (*st.Made < 0 || *st.Made > 100000):
		return fault.New(fault.OutOfRange, at+".made", "From 0 to 100000 pieces.")
	case !opOf(commission, st.Piece, st.Op):
		return fault.New(fault.UnknownValue, at+".op", "%q is no step of that piece: p%d-%d.1.press is wanted, or c%d.pack for the assembly.", st.Op, commission, max(1, st.Piece), commission)
	case slices.ContainsFunc(st.Takes, func(t noun.Taken) bool { return t.Lot < 1 || t.Lot > int64(len(d.Lots)) || !(t.G >= 0 && t.G <= 1e6) }):
		return fault.New(fault.UnknownValue, at+".takes", "Grams are taken out of a lot of the document, by its number.")
	case len(st.Looked) > mostOf.joins:
		return fault.New(fault.OutOfRange, at+".looked", "At most %d checks.", mostOf.joins)
	case len(st.Tended) > noun.MostDone || slices.ContainsFunc(st.Tended, func(t noun.Tended) bool { return t.Rack < 0 || t.Rack > int64(len(d.Racks)) || !t.Known() }) || st.Planned.Body != nil && (st.Planned.Body.Rack < 0 || st.Planned.Body.Rack > int64(len(d.Racks))):
		return fault.New(fault.UnknownValue, at+".tended", "What is done to pieces that dry is turn, bag, unbag, rack, support or tray, with a place of the document.")
	case st.Title == "" || st.Kind == "":
		return fault.New(fault.Required, at+".op", "A step has a kind and a title.")
	case len(st.Fills) > mostOf.fills || len(st.Breaks) > mostOf.fills || len(st.Weighed) > mostOf.fills || len(st.Says)+len(st.Checks)+len(st.Cautions)+len(st.Ways)+len(st.Figures)+len(st.Planned.Marks) > mostOf.lines:
		return fault.New(fault.OutOfRange, at, "Its lists are longer than those of any step.")
	}
	if r := st.Planned.Run; r != nil && (r.Fills < 0 || r.Fills > 100000 || r.Copies < 0 || r.Copies > 1000 || r.FillSec < 0 || r.HoldSec < 0 || r.UnmouldSec < 0 || r.Cavities < 0 || r.Balls < 0 || r.Balls > 100000 || !(r.BallG >= 0 && r.BallG <= 50000)) {
		return fault.New(fault.OutOfRange, at+".planned.run", "Its rounds are of no press.")
	}
	if x := st.Longer; x != nil && (st.Planned.Run == nil || st.ActualStart == nil || x.More < 1 || x.Balls < x.More || x.Balls > 100000 || x.Fills < 0 || x.Fills > 100000) {
		return fault.New(fault.OutOfRange, at+".longer", "Only a press that has begun is gone on with, by 1 piece or more.")
	}
	return nil
}

func (d *Document) checkRest() error {
	for i, t := range d.Timers {
		if (t.Kind == "own") != (t.AnsweredAt == nil) || t.Kind != "own" && !slices.Contains(noun.ClockKinds, t.Kind) {
			return fault.New(fault.UnknownValue, fmt.Sprintf("timers[%d].kind", i), "Timers of a document are one's own that run, and the answers to others: those follow from the steps.")
		}
		if t.Kind != "own" && !slices.ContainsFunc(d.Commissions, func(c CommissionDoc) bool {
			return slices.ContainsFunc(c.Steps, func(s StepDoc) bool { return s.Op == t.Op })
		}) {
			return fault.New(fault.Contradiction, fmt.Sprintf("timers[%d].op", i), "There is no step %q that has begun.", t.Op)
		}
		if t.RingsAt.Before(t.StartsAt) || t.Says == "" || len([]rune(t.Says)) > 80 || t.CommissionID != nil && (*t.CommissionID < 1 || *t.CommissionID > int64(len(d.Commissions))) {
			return fault.New(fault.Contradiction, fmt.Sprintf("timers[%d]", i), "A timer says something, rings after it starts, and names a commission of the document.")
		}
	}
	for i, e := range d.Journal {
		if e.Says == "" || len(e.Says) > 10*read.MostText || len(e.Who) > read.MostText || e.Commission < 0 || e.Commission > len(d.Commissions) || !slices.Contains([]string{"did", "back", "again"}, e.Kind) {
			return fault.New(fault.Contradiction, fmt.Sprintf("journal[%d]", i), "A line says something, is of kind did, back or again, and names a commission of the document.")
		}
	}
	return nil
}

// checkHours refuses hours and places that no line of Kitchen would give.
func checkHours(k *noun.Kitchen) error {
	wrong := func(name, say string) error { return fault.New(fault.OutOfRange, "kitchen."+name, "%s", say) }
	for _, t := range k.Trays {
		if t.Count < 1 || t.Count > 1000 || !(t.LengthMM >= 50 && t.LengthMM <= 3000) || !(t.WidthMM >= 50 && t.WidthMM <= 3000) {
			return wrong("trays", "1 to 1000 trays of 50 to 3000 mm.")
		}
	}
	if !(k.Confidence >= 0.5 && k.Confidence <= 0.99) {
		return wrong("confidence", "Drying is planned at 50 to 99 %.")
	}
	all := slices.Clone(k.Hours)
	for _, x := range k.Exceptions {
		if _, err := time.Parse(time.DateOnly, x.Date); err != nil || len(x.Open) > 24 {
			return wrong("exceptions", "An exception is of a date, such as 2026-12-24.")
		}
		all = append(all, x.Open...)
	}
	for _, h := range all {
		again, _, err := read.ReadHours(h.From + "-" + h.To)
		if err != nil || again.From != h.From || again.To != h.To || h.Weekday < 0 || h.Weekday > 6 || len(h.People) > 4 || slices.ContainsFunc(h.People, func(p string) bool { return p == "" || len(p) > 200 }) {
			return wrong("hours", "Hours run upward within one day, such as 19:00 to 22:00, with 4 people at most.")
		}
	}
	return read.Overlapping(k.Hours)
}
