package work

import (
	"errors"
	"fmt"
	"math"
	"strings"

	"dustyfern/craft/fault"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// isNever tells whether a part cannot be made because a moment never comes here.
func isNever(err error) bool {
	var f *fault.Fault
	return errors.As(err, &f) && f.Code == fault.Unreachable && strings.Contains(f.Field, "stages.")
}

func (b *Means) wayView(t *technique.Technique) *WayOfMaking {
	v := &WayOfMaking{Key: t.Key, Name: NameOf(b.Reader, t.Names), About: b.Reader.Say(t.About), Limit: b.Reader.Say(t.Limit), Faults: []string{}}
	seen := map[string]bool{}
	for _, f := range t.Faults {
		if s := t.Step(f.Step); s != nil && !seen[f.Step] && len(s.Says) > 0 {
			seen[f.Step] = true
			v.Faults = append(v.Faults, b.Reader.Say(s.Says[0]))
		}
	}
	return v
}

// Makes finds the step in which the pieces of a batch come to be: the rounds of a
// mould, else the run that is worked round by round, else the first that is shaped.
func Makes(t *technique.Technique, batch *technique.Batch) int {
	for i := range batch.Ops {
		if batch.Ops[i].Cycle != nil {
			return i
		}
	}
	for i := range batch.Ops {
		if len(batch.Ops[i].Steps) > 0 {
			return i
		}
	}
	for i := range batch.Ops {
		o := &batch.Ops[i]
		if s := t.Step(o.Op); o.Attended && !o.NoPaste && !o.Assembly && s != nil && s.Minutes["piece"] != "" {
			return i
		}
	}
	for i := range batch.Ops {
		if o := &batch.Ops[i]; o.Attended && !o.NoPaste && !o.Assembly {
			return i
		}
	}
	return -1
}

// MoveOf is how the hands of the making step are counted: how often they move, how
// many pieces each movement makes, and what it is called.
func MoveOf(t *technique.Technique, o *technique.Op, pieces, cavities int) (moves, each int, word string) {
	switch {
	case o.Cycle != nil:
		each = (pieces + o.Cycle.Pieces - 1) / max(1, o.Cycle.Pieces)
		return o.Cycle.Pieces, max(1, each), "ball"
	case len(o.Steps) == 0:
		return pieces, 1, "piece"
	}
	most := (pieces + max(1, o.Rounds) - 1) / max(1, o.Rounds)
	for _, id := range o.Steps {
		s := t.Step(id)
		if s == nil {
			continue
		}
		if s.Minutes["fill"] != "" { // a mould that is filled and turned out: one by one
			return (pieces + cavities - 1) / cavities, cavities, "ball"
		}
		if s.Minutes["round"] != "" && s.Hands && most > 1 {
			return o.Rounds, most, "sheet"
		}
	}
	return pieces, 1, "piece"
}

// makeViews tells how a piece is made: rounds, what limits them, the chain.
func (b *Means) makeViews(w *Reckoned) {
	mk := w.View.Make
	if mk == nil || w.Chain == nil {
		return
	}
	mk.Batches = []ChainBatch{}
	mk.Pictures = b.pictures(w)
	mk.RollOut, mk.Learnt, mk.Shortcuts = b.rollOutView(w), b.learnt(w), b.Shortcuts(w)
	if w.Way.Rolls != nil && w.Way.Rolls.Cuts[0].Role != "" {
		mk.Draws = w.Way.Rolls.Cuts[0].Says
	}
	mk.Drawn, mk.OnTiers = w.Piece.Outline.Path, w.order.Carrier == "tiers" && len(w.order.Tiers) > 0
	across, high := w.Lying()
	mk.LengthMM, mk.WidthMM, mk.Round = math.Max(across, high), math.Min(across, high), 0.3
	if w.Tool != nil && w.Tool.Round() || mk.LengthMM > 3*mk.WidthMM {
		mk.Round = 0.5
	}
	for i := range w.Chain.Batches {
		mk.Batches = append(mk.Batches, b.chainBatch(w, &w.Chain.Batches[i]))
	}
	if n := len(w.Chain.Batches); n > 1 {
		mk.SplitSays = b.Reader.Say(fmt.Sprintf("In %d batches, each with its own kneading and drying: %s.", n, b.splitWord(w)))
	}
	if m := w.Chain.LongestWaitMinutes; m > 0 {
		mk.Longest = b.Reader.Say(fmt.Sprintf("Longest wait: %s.", read.EstimateMinutes(m)))
	}
	if !w.stateOwn && w.Piece.Joined != "" {
		mk.Note = strings.TrimSpace(mk.Note + " " + b.Reader.Say(fmt.Sprintf("Made this way it does not go on %s: it is planned %s.", stateSay(w.Piece.Joined), stateWords[w.State].Say)))
	}
	b.rounds(w, mk)
}

func stateSay(joined string) string {
	for _, o := range stateWords {
		if o.Code == joined {
			return o.Say
		}
	}
	return joined
}

func (b *Means) splitWord(w *Reckoned) string {
	_, by, _ := strings.Cut(w.Chain.SplitBy, ": ")
	switch by {
	case "window":
		return "one stretch at the bench is too short for all"
	case "halfWindow":
		return "nobody sits longer than half a stretch beside one mould"
	case "limit":
		return w.Way.Limit
	case "waits":
		return "the pieces would lie longer than they keep"
	}
	for _, r := range b.Library.Roles(w.Way) {
		if r.Role == by {
			return "there are only so many " + NameOf(b.Reader, b.Library.Kind(r.Kind).Names)
		}
	}
	return by
}

func (b *Means) chainBatch(w *Reckoned, batch *technique.Batch) ChainBatch {
	v := ChainBatch{Pieces: batch.Pieces, Steps: []ChainStep{}}
	for i := range batch.Ops {
		o := &batch.Ops[i]
		text := read.SayMinutes(o.Length())
		if o.Dry != nil {
			text = read.EstimateMinutes(o.Dry.P50) + ", at the latest " + strings.TrimPrefix(read.EstimateMinutes(o.Dry.P90), "about ")
		}
		s := ChainStep{Op: o.Op, Say: b.Reader.Say(read.UpperFirst(VerbSay(o.Kind))), Hands: o.Attended, Text: text, Minutes: o.Length()}
		if o.Rounds > 1 {
			s.Rounds = fmt.Sprintf("%d rounds", o.Rounds)
		}
		var uses []string
		for _, u := range o.Uses {
			uses = append(uses, fmt.Sprintf("%d × %s", u.Count, b.roleSays(w, u.Resource)))
		}
		s.Uses = b.Reader.Say(strings.Join(uses, ", "))
		v.Steps = append(v.Steps, s)
	}
	return v
}

func (b *Means) roleSays(w *Reckoned, role string) string {
	for _, r := range b.Library.Roles(w.Way) {
		if r.Role == role {
			return b.Library.Kind(r.Kind).Names.UK
		}
	}
	return role
}

// VerbSay is a verb of the data as people say it.
func VerbSay(verb string) string {
	if s, ok := verbSays[verb]; ok {
		return s.name
	}
	return verb
}

// rounds of the making step, and what limits them.
func (b *Means) rounds(w *Reckoned, mk *MakeView) {
	var fills, length, hands int
	var one technique.Op
	for i := range w.Chain.Batches {
		batch := &w.Chain.Batches[i]
		at := Makes(w.Way, batch)
		if at < 0 {
			return
		}
		o := &batch.Ops[at]
		moves, _, _ := MoveOf(w.Way, o, batch.Pieces, w.cavities())
		fills += moves
		length += o.Length()
		hands += int(math.Ceil(o.HandsMinutes - 1e-9))
		if i == 0 {
			one = *o
		}
	}
	_, _, word := MoveOf(w.Way, &one, w.Chain.Batches[0].Pieces, w.cavities())
	if c := one.Cycle; c != nil {
		fill, freeze, open := float64(c.FillSec)/60, float64(c.HoldSec)/60, float64(c.UnmouldSec)/60
		values := []noun.Named{{Name: "fill", Text: read.Trimmed(fill, 2) + " min"}, {Name: "freezer", Text: read.Trimmed(freeze, 1) + " min"}, {Name: "unmould", Text: read.Trimmed(open, 2) + " min"}, {Name: "moulds at once", Text: fmt.Sprint(c.Copies)}}
		busy := (c.FillSec + c.HoldSec + c.UnmouldSec + c.FillSec + c.UnmouldSec - 1) / max(1, c.FillSec+c.UnmouldSec)
		mk.Rounds = &noun.Figure{Value: float64(fills), Unit: "fills", Text: fmt.Sprint(fills), Why: &noun.Why{Rule: b.Reader.Say("Open the mould that is ready, refill it, else fill an empty one, else wait."),
			Formula: "rate per hour = min(60/(fill + unmould), moulds × 60/(fill + freezer + unmould))", Values: values}}
		limit := "your hands set the pace: more copies would not help"
		owned := c.Copies
		if w.Tool != nil {
			owned = max(1, w.Tool.InUse())
		}
		switch {
		case c.HoldSec > 0 && b.Kitchen.FreezerPlaces < min(owned, busy):
			limit = fmt.Sprintf("the freezer sets the pace: %d places of %d", b.Kitchen.FreezerPlaces, busy)
		case owned < min(busy, fills):
			limit = fmt.Sprintf("the moulds set the pace: %d copies would keep one pair of hands busy", busy)
		}
		mk.LimitedBy = b.Reader.Say(limit)
	} else {
		mk.Rounds = &noun.Figure{Value: float64(fills), Unit: word + "s", Text: fmt.Sprint(fills), Why: &noun.Why{Rule: b.Reader.Say(runSays(w.Way, &one)), Formula: "pieces / pieces of one round", Values: []noun.Named{{Name: "pieces", Text: fmt.Sprint(w.Chain.Made)}, {Name: word + "s", Text: fmt.Sprint(fills)}}}}
		mk.LimitedBy = b.Reader.Say("the pace is set by: " + w.Way.Limit)
	}
	values := []noun.Named{{Name: "hands", Text: read.SayMinutes(hands)}, {Name: "length of the rounds", Text: read.SayMinutes(length)}}
	mk.Bench = &noun.Figure{Value: float64(hands), Unit: "min", Text: read.SayMinutes(hands), Why: &noun.Why{Rule: "Hands-on minutes of all the rounds.", Formula: "sum of minutes for each piece, fill and round, times their counts", Values: values}}
	mk.Waiting = &noun.Figure{Value: float64(max(0, length-hands)), Unit: "min", Text: read.SayMinutes(max(0, length-hands)), Why: &noun.Why{Rule: "The rounds last from the first movement to the last; what hands do not take is waiting.", Formula: "length of the rounds - hands", Values: values}}
}

func runSays(t *technique.Technique, o *technique.Op) string {
	if r := t.Run(o.Op); r != nil {
		return r.Says
	}
	return "One after the other."
}

func (w *Reckoned) cavities() int {
	if w.Tool == nil {
		return 1
	}
	return w.Tool.Cavities()
}

// ToolOf is the tool that works in a role; nil when there is none in the drawer.
func (w *Reckoned) ToolOf(role string) *noun.Tool { return w.roles[role] }

// Capacity is how many of a role's usual tool may be in use at once; 0: without
// limit.
func (w *Reckoned) Capacity(lib *technique.Library, role string) int {
	for _, r := range lib.Roles(w.Way) {
		if r.Role != role {
			continue
		}
		k := lib.Kind(r.Kind)
		for _, m := range k.Measures {
			if k.Capacity != "" && m.Name == k.Capacity {
				return int(m.Default)
			}
		}
	}
	return 0
}

// DriesOn is what a piece dries on as is usual for it.
func (w *Reckoned) DriesOn() string {
	if body := w.dries(); body != nil {
		return body.Support
	}
	return ""
}

// HourOf is how many pieces an hour of one pair of hands gives with a tool, as it is
// usually worked with; nil when that cannot be said.
func (b *Means) HourOf(t *noun.Tool) *noun.Figure {
	p := noun.BlankPiece()
	p.ToolID, p.Wanted = &t.ID, 12*t.Cavities()
	if t.InUse() < 1 || t.Chilled && b.Kitchen.FreezerPlaces < 1 {
		return nil
	}
	w := &Reckoned{Piece: &p, order: &noun.Commission{}}
	means := *b
	means.Tools = map[int64]*noun.Tool{t.ID: t}
	means.madeAs(w)
	if w.Way == nil || len(w.Fore.Names) == 0 {
		return nil
	}
	w.Moments = map[string]*float64{}
	for _, s := range b.Library.Common.Stages { // nothing presses: a long day
		w.Moments[s.Name] = new(unhurried)
		for _, body := range w.Way.Bodies {
			w.Moments[body.ID+"."+s.Name] = new(unhurried)
		}
	}
	chain, err := b.Library.Chain(means.Question(w, p.Wanted, p.Wanted, 1440))
	if err != nil || len(chain.Batches) == 0 {
		return nil
	}
	batch := &chain.Batches[0]
	at := Makes(w.Way, batch)
	if at < 0 {
		return nil
	}
	o := &batch.Ops[at]
	perHour := float64(batch.Pieces) * 60 / math.Max(1, float64(o.Length()))
	values := []noun.Named{{Name: "made as", Text: NameOf(b.Reader, w.Way.Names)}, {Name: b.Reader.Say("copies"), Text: fmt.Sprint(t.InUse())}, {Name: "cavities", Text: fmt.Sprint(t.Cavities())}}
	formula := "pieces = 60 / minutes for one, all its movements together"
	switch c := o.Cycle; {
	case c != nil:
		fill, freeze, open := float64(c.FillSec)/60, float64(c.HoldSec)/60, float64(c.UnmouldSec)/60
		perHour = float64(t.Cavities()) * 60 * math.Min(1/(fill+open), float64(c.Copies)/(fill+freeze+open))
		formula = "pieces = cavities × 60 min(1/(fill + open), moulds/(fill + freezer + open))"
		values = append(values, noun.Named{Name: "fill", Text: read.Trimmed(fill, 2) + " min"}, noun.Named{Name: "freezer", Text: read.Trimmed(freeze, 1) + " min"}, noun.Named{Name: "open", Text: read.Trimmed(open, 2) + " min"})
	case o.HandsMinutes > 0:
		perHour = float64(batch.Pieces) * 60 / o.HandsMinutes
	}
	unit := "an hour"
	if n := t.InUse(); n > 1 {
		unit = fmt.Sprintf("an hour, all %d copies", n)
	}
	return &noun.Figure{Value: perHour, Unit: unit, Text: fmt.Sprint(math.Floor(perHour + 1e-9)), Why: &noun.Why{Rule: b.Reader.Say("Fill, freeze, open, again: hands or moulds set the pace, whichever is slower."), Formula: formula, Values: values}}
}

// unhurried is a moment so late that nothing is hurried by it, minutes.
const unhurried = 600.0
