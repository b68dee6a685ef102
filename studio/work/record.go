package work

import (
	"slices"

	"dustyfern/craft/rescue"
	"dustyfern/studio/noun"
)

// optionTaken is the option of a question that holds for a piece: the one that was chosen,
// else ours; "" where the way of making does not ask it.
func (b *Means) optionTaken(w *Reckoned, question string) string {
	way := b.Library.Way(w.Way, question)
	if way == nil {
		return ""
	}
	for _, o := range way.Options {
		if o.ID == w.Piece.Ways[question] {
			return o.ID
		}
	}
	for _, o := range way.Options {
		if o.Ours {
			return o.ID
		}
	}
	return ""
}

// releases and dusts are options as the table of rescue calls them.
var (
	releases = map[string]string{"starch": "starch", "lustre": "lustre", "bare": "none", "fat": "fat", "icing": "icingSugar", "spray": "sprayOil"}
	dusts    = map[string]string{"starch": "starch", "icing": "icingSugar", "fat": "fat"}
)

func word(code string) *string {
	if code == "" {
		return nil
	}
	return &code
}

// RecordOf is what a batch knows of itself when something went wrong at one of its steps; mine
// are the steps of its order. Without a step it is what the piece knows.
func (b *Means) RecordOf(w *Reckoned, st *noun.Step, mine []noun.Step) rescue.Record {
	r := rescue.Record{Weighed: new(w.Weighed())}
	tempC, rh := b.Kitchen.AirIn(0, b.Now, b.Now)
	if rh >= 5 && rh <= 99 {
		r.RoomTempC, r.RoomRHPercent = &tempC, &rh
	}
	if w.Strength > 0 && !w.Sets() {
		r.StrengthPercent = &w.Strength
	}
	if slices.Contains([]string{"light", "modelling", "extra"}, w.Piece.School) {
		r.School = &w.Piece.School
	} else if w.dose == nil {
		r.School = new("none")
	}
	if w.plainLot != nil && w.plainLot.Grade != nil && *w.plainLot.Grade >= 1 && *w.plainLot.Grade <= 5 {
		r.SqueezeGrade = w.plainLot.Grade
	}
	if w.Way != nil {
		r.Release, r.BoardDust = word(releases[b.optionTaken(w, "release")]), word(dusts[b.optionTaken(w, "boardDust")])
		if t := w.Fore.Base["thicknessMM"]; t >= 0.2 && t <= 60 {
			r.ThicknessMM = &t
		}
	}
	if w.Piece.Dough != "" {
		r.Paste = &w.Piece.Dough
	} else if w.family != "" {
		r.Paste = word(map[string]string{"sugarPaste": "sugarPaste", "halfAndHalf": "halfAndHalf", "modellingPaste": "modellingPaste", "flowerPaste": "flowerPaste"}[w.family])
	}
	if w.Tool != nil && w.Tool.Presses() {
		before, _ := b.Log(w)
		r.CastsBefore = new(min(1_000_000, before+len(w.Tool.Weighings)))
	}
	if len(w.Piece.Finish.Passes) > 0 {
		r.Locked = new(b.Finishing(w).Lock != "")
	}
	if st != nil {
		b.recordOfBatch(&r, st, mine)
	}
	return r
}

// recordOfBatch is what the steps of a batch say of themselves.
func (b *Means) recordOfBatch(r *rescue.Record, st *noun.Step, mine []noun.Step) {
	batch := noun.BatchOf(st.Op)
	var knead, makes *noun.Step
	for i := range mine {
		x := &mine[i]
		if noun.BatchOf(x.Op) != batch {
			continue
		}
		if x.Kind == "knead" && x.ActualEnd != nil && (knead == nil || x.ActualEnd.After(*knead.ActualEnd)) {
			knead = x
		}
		if x.Makes() {
			makes = x
		}
		if d, lies := DryingOf(x, b.Kitchen, b.Now); lies {
			r.HoursSince = new(within(b.Now.Sub(*x.ActualStart).Hours(), 2000))
			if ready := d.Stages.Of(x.Planned.Body.Until); ready != nil {
				r.ReadyHours = new(within(float64(ready.P90)/60, 2000))
			}
			if bends := d.Stages.Of("firm"); bends != nil {
				r.BendUntilHours = new(within(float64(bends.P10)/60, 2000))
			}
		}
	}
	if makes == nil {
		return
	}
	if run := makes.Run(); run != nil && run.HoldSec > 0 {
		r.ChilledMinutes = new(float64(run.HoldSec) / 60)
	}
	if makes.ActualStart != nil {
		end := b.Now
		if makes.ActualEnd != nil {
			end = *makes.ActualEnd
		}
		r.OpenMinutes = new(within(end.Sub(*makes.ActualStart).Minutes(), 10080))
		if knead != nil && !makes.ActualStart.Before(*knead.ActualEnd) {
			r.RestedMinutes = new(within(makes.ActualStart.Sub(*knead.ActualEnd).Minutes(), 10080))
		}
	}
	if out := makes.Out(); makes.Made != nil && out > 0 {
		r.Made, r.Broken = &out, new(min(out, makes.Broken()))
	}
}

func within(x, most float64) float64 { return min(most, max(0, x)) }
