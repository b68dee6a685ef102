package document

import (
	"fmt"
	"slices"

	"dustyfern/craft/caution"
	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// finish is what comes on to a piece, with the numbers of its lots; what was of a lot that
// is gone goes with it.
func (w *whole) finish(f noun.Finish) noun.Finish {
	out := f.Clone()
	for i := range out.Passes {
		var kept []noun.DustPart
		for _, d := range out.Passes[i].Lots {
			if no, known := w.lotNo[d.Lot]; known {
				kept = append(kept, noun.DustPart{Lot: no, Parts: d.Parts})
			}
		}
		out.Passes[i].Lots = kept
	}
	out.Passes = slices.DeleteFunc(out.Passes, func(p noun.Pass) bool { return len(p.Lots) == 0 })
	return out
}

func leavesUTC(l noun.Leaves) noun.Leaves {
	l.Cleared = slices.Clone(l.Cleared)
	for i := range l.Cleared {
		l.Cleared[i].At = l.Cleared[i].At.UTC()
	}
	return l
}

// finish is the same with the lots that the numbers stand for.
func (f *filling) finish(in noun.Finish) noun.Finish {
	out := in.Clone()
	for i := range out.Passes {
		for k := range out.Passes[i].Lots {
			d := &out.Passes[i].Lots[k]
			d.Lot = f.lots[d.Lot]
		}
	}
	return out
}

// checkEnding looks over what comes on to a piece and how it goes on the cake.
func (d *Document) checkEnding(at string, p *PieceDoc) error {
	if len(p.Finish.Passes) > noun.MostPasses {
		return fault.New(fault.OutOfRange, at+".finish.passes", "At most %d tones.", noun.MostPasses)
	}
	for i := range p.Finish.Passes {
		x := &p.Finish.Passes[i]
		if err := read.CheckPass(x); err != nil {
			return fault.At(err, fmt.Sprintf("%s.finish.passes[%d].", at, i))
		}
		for _, l := range x.Lots {
			if l.Lot < 1 || l.Lot > int64(len(d.Lots)) || !read.Dusts(d.Lots[l.Lot-1].Kind) {
				return fault.New(fault.UnknownValue, fmt.Sprintf("%s.finish.passes[%d].lots", at, i), "A tone is of dusts and paints of the document, by their numbers.")
			}
		}
	}
	if len(p.Goes.Inserts) > len(caution.Items) {
		return fault.New(fault.OutOfRange, at+".goes.inserts", "At most %d kinds.", len(caution.Items))
	}
	for i, x := range p.Goes.Inserts {
		if !slices.Contains(caution.Items, x.Item) || x.Each < 1 || x.Each > noun.MostEach {
			return fault.New(fault.UnknownValue, fmt.Sprintf("%s.goes.inserts[%d]", at, i), "It is one of %v, 1 to %d in each.", caution.Items, noun.MostEach)
		}
	}
	return nil
}

// checkLeaves looks over what is settled before an order leaves the house.
func checkLeaves(at string, l *noun.Leaves) error {
	if len(l.Cleared) > mostOf.lines {
		return fault.New(fault.OutOfRange, at+".leaves.cleared", "At most %d.", mostOf.lines)
	}
	for i, c := range l.Cleared {
		if c.Stop == "" || len(c.Stop)+len(c.Because)+len(c.Says)+len(c.Who) > read.MostText || c.At.Year() < 1 || c.At.Year() > 9999 {
			return fault.New(fault.Syntax, fmt.Sprintf("%s.leaves.cleared[%d]", at, i), "A stop that the client knows of has its name and its day.")
		}
	}
	for item, n := range l.Counted {
		if !slices.Contains(caution.Items, item) || n < 0 || n > 100_000 {
			return fault.New(fault.UnknownValue, at+".leaves.counted."+item, "Counted are %v, from 0 to 100000.", caution.Items)
		}
	}
	return nil
}
