package document

import (
	"fmt"
	"slices"

	"dustyfern/craft/fault"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// checkTools refuses tools that no drawer holds.
func (d *Document) checkTools() error {
	for i, t := range d.Tools {
		at := fmt.Sprintf("tools[%d]", i)
		if err := read.CheckRow(at, slices.Concat(read.ToolColumns(), read.ToolFields(&t, nil)), t); err != nil {
			return err
		}
		kind := technique.Ours.Kind(t.Kind)
		if kind == nil {
			return fault.New(fault.UnknownValue, at+".kind", "There is no kind of tool %q.", t.Kind)
		}
		if err := read.CheckMeasures(at+".measures", t.Measures, kind.Measures); err != nil {
			return err
		}
		if t.Photo != nil && (*t.Photo < 1 || *t.Photo > int64(len(d.Photos))) {
			return fault.New(fault.UnknownValue, at+".photo", "There is no photo number %d.", *t.Photo)
		}
		if err := noun.CheckMarks(t.Marks); err != nil {
			return fault.At(err, at+".")
		}
		if err := t.Outline.Check(); err != nil {
			return fault.At(err, at+".outline.")
		}
		if err := t.Roller.Check(); err != nil {
			return fault.At(err, at+".")
		}
		if err := t.Cast.Check(); err != nil {
			return fault.At(err, at+".")
		}
		if t.Lent+t.Broken > t.Copies {
			return fault.New(fault.Contradiction, at+".lent", "Of %d copies no more can be lent or broken.", t.Copies)
		}
		if len(t.Weighings) > noun.MostWeighings {
			return fault.New(fault.OutOfRange, at+".weighings", "At most %d pieces weighed.", noun.MostWeighings)
		}
		for j, w := range t.Weighings {
			if !(w.Grams >= 0.01 && w.Grams <= 50000) {
				return fault.New(fault.OutOfRange, fmt.Sprintf("%s.weighings[%d].grams", at, j), "A piece weighs from 0.01 g to 50 kg.")
			}
		}
	}
	return nil
}
