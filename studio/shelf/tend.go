package shelf

import (
	"context"
	"fmt"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// TendIn is what hands do to a batch that dries.
type TendIn struct {
	Do      string `json:"do" enum:"turn,bag,unbag,rack,support,tray"`
	Rack    int64  `json:"rack,omitempty" doc:"of rack and tray: where it goes; 0: the kitchen"`
	Support string `json:"support,omitempty" doc:"of support: on what it lies from now on"`
	Tray    int    `json:"tray,omitempty" doc:"of tray: which, from 1"`
}

// Tend notes what hands did to a batch that dries: everything that follows from it, its
// hours, its clocks and the plan, follows from when they did it.
//
// anyway: although it is not usual for such a piece.
func (s *Shelf) Tend(ctx context.Context, slug, op string, in TendIn, anyway bool) (out ShelfView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		st, err := a.Step(op)
		if err != nil {
			return err
		}
		mine, err := a.Steps(st.CommissionID)
		if err != nil {
			return err
		}
		steps := work.Derived(mine, a.House, a.Now)
		c := work.ChainOf(steps)
		is := c.ByOp[op]
		if is == nil || !lies(is, c) {
			return journal.TooLate("They no longer lie there: hands have gone on with them.")
		}
		d, _ := work.DryingOf(is, a.House, a.Now)
		if err := allowed(a.House, is, &d, in, anyway, a.Now); err != nil {
			return err
		}
		if len(st.Tended) >= noun.MostDone {
			return fault.New(fault.OutOfRange, "do", "More than %d things were done to them: no more is kept.", noun.MostDone)
		}
		now := a.Now.UTC().Truncate(time.Second)
		t := noun.Tended{At: now, Do: in.Do, Who: a.By}
		says := ""
		switch in.Do {
		case noun.Turn:
			says = "turned over"
		case noun.Bag:
			says = "put into a bag"
		case noun.Unbag:
			says = "took out of the bag"
		case noun.OnTo:
			t.Support, says = in.Support, "laid on "+supportSays(in.Support)
		case noun.ToRack:
			t.Rack, says = in.Rack, "moved to "+a.House.RackName(in.Rack)
		case noun.ToTray:
			if in.Rack != there(a.House, d.Rack) {
				st.Tended = append(slices.Clone(st.Tended), noun.Tended{At: now, Do: noun.ToRack, Rack: in.Rack, Who: a.By})
			}
			t.Tray, says = in.Tray, fmt.Sprintf("put on tray %d of %s", in.Tray, a.House.RackName(in.Rack))
		}
		st.Tended = append(slices.Clone(st.Tended), t)
		a.Bench = true
		a.Say(st.CommissionID, "%s: %s", says, st.Planned.What())
		return a.SaveStep(&st)
	}, func(tx journal.Tx, k *noun.Kitchen, now time.Time) (err error) {
		out, err = look(tx, k, now)
		return err
	})
	return out, err
}

// allowed refuses what cannot be done to them, and asks first about what is not usual.
func allowed(k *noun.Kitchen, st *noun.Step, d *work.Drying, in TendIn, anyway bool, now time.Time) error {
	flat := st.Planned.Body.Shape == "sheet" || st.Planned.Body.Shape == "block"
	firm := d.Stages.Of("firm")
	switch in.Do {
	case noun.Turn:
		switch {
		case !flat:
			return fault.New(fault.Contradiction, "do", "Only what is flat or solid has two faces to turn.")
		case anyway:
		case d.Support == "foam":
			return fault.New(fault.Contradiction, "anyway", "On foam what dries stays put: it dries from both sides. Turned all the same?")
		case firm == nil || now.Sub(*st.ActualStart).Minutes() < float64(firm.P10):
			return fault.New(fault.Contradiction, "anyway", "They are hardly firm yet: turned now they bend or stick. Turned all the same?")
		}
	case noun.Bag, noun.Unbag:
		if d.Bagged == (in.Do == noun.Bag) {
			return journal.TooLate("That was noted already.")
		}
	case noun.OnTo:
		if !(noun.Tended{Do: noun.OnTo, Support: in.Support}).Known() {
			return fault.New(fault.UnknownValue, "support", "They lie on a board, foam, a rack, cups, a dowel or hooks.")
		}
	case noun.ToRack, noun.ToTray:
		if in.Rack != 0 && k.RackOf(in.Rack) == nil {
			return fault.New(fault.UnknownValue, "rack", "There is no such place: Kitchen lists them.")
		}
		n := 0
		for _, t := range k.TraysOf(in.Rack) {
			n += t.Count
		}
		if in.Do == noun.ToTray && (in.Tray < 1 || in.Tray > n) {
			return fault.New(fault.OutOfRange, "tray", "There %s in %s.", map[bool]string{true: "is 1 tray", false: "are " + read.Count(n, "tray")}[n == 1], k.RackName(in.Rack))
		}
	default:
		return fault.New(fault.UnknownValue, "do", "Hands turn, bag, unbag, or move pieces that dry.")
	}
	return nil
}

// RackMoved keeps what a place was like before it was said otherwise.
func RackMoved(a *journal.Acting, was, is *noun.Rack) error {
	if was.TempC == is.TempC && was.RHPercent == is.RHPercent {
		return nil
	}
	is.Says(was.TempC, was.RHPercent, a.Now)
	return a.Save(is)
}
