package studio

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dustyfern/craft/drying"
	"dustyfern/craft/paste"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

var stageSays = [4][3]string{
	{"skin", "skin", "until then it bends freely"},
	{"hold", "hold", "keeps its curve, still bends"},
	{"firm", "firm", "lift, join, assemble"},
	{"hard", "hard", "dry through"},
}

// predict asks the model for a piece with this thickness, gum and room.
func (b *benchOf) predict(w *worked, thickness, gum, rh float64, family string) (drying.Forecast, error) {
	shape := w.mould.Shape
	support := w.p.Support
	in := drying.PredictIn{Paste: &family, GumPercent: &gum, Shape: &shape, ThicknessMM: &thickness, Support: &support,
		TempC: &b.k.TempC, RHPercent: &rh, HorizonHours: new(drying.LongestHours)}
	f, err := once(fmt.Sprintf("dry|%s|%v|%s|%v|%s|%v|%v", family, gum, shape, thickness, support, b.k.TempC, rh), func() (drying.Forecast, error) { return drying.Predict(in) })
	f.Notes = slices.Clone(f.Notes) // many read it
	return f, err
}

// dry says when the pieces pass their stages in this room, and what would help
// where they never do.
func (b *benchOf) dry(w *worked) {
	v := &DryView{Room: fmt.Sprintf("%s, %s %% humidity", b.r.Temp(b.k.TempC), read.Trimmed(b.k.RHPercent, 0)), Stages: []StageView{}, Help: []string{}, Notes: []string{}, Dew: []string{}}
	w.view.Dry = v
	if w.chilled {
		b.thaw(w, v)
	}
	if k, ok := paste.KindOf(w.p.Dough); ok && k.SoftPoint > 0 {
		b.set(w, v)
		return
	}
	if w.p.Dough == "marzipan" {
		w.family = "marzipan"
	}
	if w.family == "" {
		w.family = "halfAndHalf"
	}
	if w.strength == 0 && w.p.Dough == "" {
		v.Notes = append(v.Notes, b.r.Say("Settle its paste first: without it no time can be said."))
		return
	}
	gum := math.Min(w.strength, 8)
	f, err := b.predict(w, w.mould.DepthMM, gum, b.k.RHPercent, w.family)
	if err != nil {
		v.Never = sentence(err)
		w.never = v.Never
		return
	}
	for i, s := range []drying.Stage{f.Skin, f.Hold, f.Firm, f.Hard} {
		sv := StageView{Code: stageSays[i][0], Say: stageSays[i][1], Means: b.r.Say(stageSays[i][2]), P10: -1, P50: -1, P90: -1, Status: s.Status}
		for _, x := range []struct {
			to   *float64
			from *float64
		}{{&sv.P10, s.P10Hours}, {&sv.P50, s.P50Hours}, {&sv.P90, s.P90Hours}} {
			if x.from != nil {
				*x.to = *x.from
			}
		}
		switch {
		case s.Status == "never":
			sv.Text = "never in this room"
		case s.P50Hours == nil:
			sv.Text = "later than two weeks"
		default:
			sv.Text = read.Hours(*s.P50Hours)
			sv.Band = read.Hours(*s.P10Hours) + " to "
			if s.P90Hours != nil {
				sv.Band += read.Hours(*s.P90Hours)
			} else {
				sv.Band += "over two weeks"
			}
		}
		v.Stages = append(v.Stages, sv)
	}
	if firm := f.Firm; firm.P90Hours != nil {
		v.EndHour = math.Max(4, *firm.P90Hours*1.25)
	} else {
		v.EndHour = 72
	}
	v.Why = &noun.Why{Rule: "Water leaves by diffusion inside and through a film at the faces; the room sets the balance it tends to. The band holds 8 of 10 kitchens.",
		Formula: "dX/dt = div(D grad X); at a face D dX/dn = k (X - X of the room)", Values: []noun.Named{{"paste", b.r.Say(read.PasteName(w.family)) + ", " + read.Trimmed(gum, 2) + " % gum"},
			{"shape as it lies", w.mould.Shape + ", " + b.r.Length(w.mould.DepthMM) + " thick"}, {"dries on", w.p.Support}, {"room", v.Room}}}
	minutes := func(s drying.Stage) *band {
		if s.P10Hours == nil || s.P50Hours == nil || s.P90Hours == nil {
			return nil
		}
		up := func(h float64) int { return int(math.Ceil(h*60 - 1e-9)) }
		return &band{int(math.Floor(*s.P10Hours * 60)), up(*s.P50Hours), up(*s.P90Hours)}
	}
	w.stages = [3]*band{minutes(f.Hold), minutes(f.Firm), minutes(f.Skin)}
	needed := w.stages[1]
	if w.p.Joined == "semiDry" {
		needed = w.stages[0]
	}
	if (w.p.Joined == "dry" || w.p.Joined == "semiDry") && needed == nil {
		w.never = fmt.Sprintf("%s will not set here: at %s %% humidity it takes too long or never comes to it.", w.p.Name, read.Trimmed(b.k.RHPercent, 0))
		v.Never = w.never
		b.help(w, v, gum)
	}
	if b.k.RHPercent >= 60 {
		v.Notes = append(v.Notes, "Over 60 % humidity everything dries slowly.")
	}
	if w.p.Joined == "semiDry" && w.stages[0] != nil && w.stages[1] != nil && w.stages[0].p90 >= w.stages[1].p10 {
		v.Notes = append(v.Notes, "The semi-dry window is empty at the ends of the band: look and touch, the clock alone cannot tell.")
	}
}

// help tries drier air, a thinner piece and stiffer paste, with the new times.
func (b *benchOf) help(w *worked, v *DryView, gum float64) {
	say := func(what string, f drying.Forecast, err error) {
		s := f.Firm
		if w.p.Joined == "semiDry" {
			s = f.Hold
		}
		if err == nil && s.P90Hours != nil {
			v.Help = append(v.Help, b.r.Say(fmt.Sprintf("%s: ready after %s, at the latest after %s.", what, read.Hours(*s.P50Hours), read.Hours(*s.P90Hours))))
		}
	}
	for _, rh := range []float64{55, 45} {
		if rh < b.k.RHPercent {
			f, err := b.predict(w, w.mould.DepthMM, gum, rh, w.family)
			say(fmt.Sprintf("Drier air, %.0f %% humidity", rh), f, err)
		}
	}
	thin := math.Max(0.5, w.mould.DepthMM*0.6)
	f, err := b.predict(w, thin, gum, b.k.RHPercent, w.family)
	say("Thinner, "+b.r.Length(thin), f, err)
	if w.family != "flowerPaste" && len(b.usualAllergens(w, "flowerPaste")) == 0 {
		f, err := b.predict(w, w.mould.DepthMM, paste.FlowerStrength, b.k.RHPercent, "flowerPaste")
		say("Flower paste instead", f, err)
	}
	if len(v.Help) == 0 {
		v.Help = append(v.Help, "Nothing short of a drying box helps: chocolate dough sets by temperature instead.")
	}
}

// thaw says how a chilled piece warms: dew, dusting, and how long it is stiff.
func (b *benchOf) thaw(w *worked, v *DryView) {
	r := w.craftMould().RoundOf(true, w.p.Dough != "", w.p.Joined, w.pieceG)
	in := drying.DewIn{TempC: &b.k.TempC, RHPercent: &b.k.RHPercent, ThicknessMM: &w.mould.DepthMM, FreezerMinutes: &r.FreezeMinutes}
	if w.p.Dough != "" {
		in.DrinksGPerM2 = new(0.0)
	}
	d, err := once(fmt.Sprintf("dew|%v|%v|%v|%v|%v", b.k.TempC, b.k.RHPercent, w.mould.DepthMM, r.FreezeMinutes, w.p.Dough != ""), func() (drying.DewOut, error) { return drying.Dew(in) })
	if err != nil {
		v.Dew = append(v.Dew, sentence(err))
		return
	}
	w.dew = d
	if *d.DustableAfterMinutes > 0 {
		v.Dew = append(v.Dew, fmt.Sprintf("Dew after %s min in the freezer: dust or paint after %s.", read.Trimmed(r.FreezeMinutes, 1), read.SayMinutes(int(math.Ceil(*d.DustableAfterMinutes)))))
	} else {
		v.Dew = append(v.Dew, fmt.Sprintf("After %s min in the freezer no dew to speak of: dust at once.", read.Trimmed(r.FreezeMinutes, 1)))
	}
	if *d.ColdUntilMinutes > 0 {
		v.Dew = append(v.Dew, fmt.Sprintf("Stiff from cold for %s; after that it stretches.", read.SayMinutes(int(math.Floor(*d.ColdUntilMinutes)))))
	} else if w.p.Joined == "cold" {
		v.Dew = append(v.Dew, "It is not cold through: place it as a piece that was never chilled.")
	}
	v.Dew = append(v.Dew, fmt.Sprintf("Dew point of the room: %s.", b.r.Temp(d.DewPointC)))
}

// set is chocolate dough: it does not dry, it sets by temperature.
func (b *benchOf) set(w *worked, v *DryView) {
	v.Sets = true
	c, err := drying.Cool(drying.CoolIn{Dough: &w.p.Dough, ThicknessMM: &w.mould.DepthMM, AirTempC: &b.k.TempC})
	if err != nil {
		v.Never = sentence(err)
		w.never = v.Never
		return
	}
	add := func(i int, code, say, means string, m *float64) {
		s := StageView{Code: code, Say: say, Means: means, P10: -1, P50: -1, P90: -1, Status: "never", Text: "never in this room"}
		if m != nil {
			slow := drying.CoolSlow(*m)
			quick := *m * *m / slow
			s.P10, s.P50, s.P90, s.Status, s.Text = quick/60, *m/60, slow/60, "reached", read.SayMinutes(int(math.Ceil(*m)))
			s.Band = read.SayMinutes(int(math.Floor(quick))) + " to " + read.SayMinutes(int(math.Ceil(slow)))
			if i >= 0 {
				w.stages[i] = &band{int(quick), int(math.Ceil(*m)), int(math.Ceil(slow))}
			}
			v.EndHour = math.Max(v.EndHour, slow/60*1.25)
		}
		v.Stages = append(v.Stages, s)
	}
	add(0, "hold", "hold", "keeps its shape", c.HoldMinutes)
	add(1, "firm", "firm", "lift, cut clean, stack", c.FirmMinutes)
	v.Why = &noun.Why{Rule: "Chocolate dough sets by temperature: it counts kelvin-hours below its soft point.", Formula: "firm when the integral of (soft point - temperature), at most 8 K, comes to 24 K h",
		Values: []noun.Named{{"soft point", b.r.Temp(c.SoftPointC)}, {"room", b.r.Temp(b.k.TempC)}, {"thickness", b.r.Length(w.mould.DepthMM)}, {"time constant", read.Trimmed(c.TimeConstantMinutes, 1) + " min"}}}
	end := map[string]string{"sags": "In this room it sags, set or not.", "soft": "In this room it stays soft.", "softFirm": "It stays a little soft: lay it, lean it, eat it; no uprights.", "firm": "It comes out firm."}
	v.Notes = append(v.Notes, end[c.EndState])
	if c.FirmMinutes == nil && (w.p.Joined == "dry" || w.p.Joined == "semiDry") {
		w.never = strings.TrimSpace(w.p.Name + " will not set here: the room is too warm for " + read.PasteName(w.p.Dough) + ".")
		v.Never = w.never
		v.Help = append(v.Help, fmt.Sprintf("Cool the room to %s or below.", b.r.Temp(c.SoftPointC-4)))
	}
}
