package work

import (
	"fmt"
	"math"
	"strings"
	"time"

	"dustyfern/craft/drying"
	"dustyfern/craft/paste"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

var stageSays = [4][3]string{
	{"skin", "skin", "until then it bends freely"},
	{"hold", "hold", "keeps its curve, still bends"},
	{"firm", "firm", "lift, join, assemble"},
	{"hard", "hard", "dry through"},
}

// willNotSet stands between the name of a piece that cannot be made in this room, and why.
const willNotSet = " will not set here: "

// predict asks the model for a piece with this thickness and gum, in an air.
func predict(body *technique.Dries, thickness, gum float64, air Air, family string) (drying.Forecast, error) {
	return forecast(&noun.Body{Paste: family, GumPercent: gum, Shape: body.Shape, ThicknessMM: thickness, BodyMM: body.BodyMM, Support: body.Support}, air)
}

// airSays is an air in words: where, and within what it stays over the next day.
func (b *Means) airSays(rack int64, air *Air) string {
	lowT, highT, lowR, highR := air.Series[0].TempC, air.Series[0].TempC, air.Series[0].RHPercent, air.Series[0].RHPercent
	for _, p := range air.Series {
		if p.At.Sub(air.Series[0].At) <= 24*time.Hour {
			lowT, highT, lowR, highR = min(lowT, p.TempC), max(highT, p.TempC), min(lowR, p.RHPercent), max(highR, p.RHPercent)
		}
	}
	out := fmt.Sprintf("%s, %s %% humidity", b.Reader.Temp(lowT), read.Trimmed(lowR, 0))
	if lowT != highT || lowR != highR {
		out = fmt.Sprintf("%s to %s, %s to %s %% humidity", b.Reader.Temp(lowT), b.Reader.Temp(highT), read.Trimmed(lowR, 0), read.Trimmed(highR, 0))
	}
	if r := b.Kitchen.RackOf(rack); r != nil {
		out = r.Name + ": " + out
	}
	return out
}

// dry says when the pieces pass their stages in this room, and what would help
// where they never do.
func (b *Means) dry(w *Reckoned) {
	body := w.dries()
	if body == nil { // coats on it dry all the same
		w.Moments = map[string]*float64{}
		b.coats(w)
		return
	}
	w.air = b.AirNow(w.Piece, w.family)
	v := &DryView{Room: b.airSays(rackOf(w.Piece), &w.air), Stages: []StageView{}, Tries: []Try{}, Habits: []Habit{}, Help: []string{}, Notes: []string{}, Dew: []string{}}
	w.View.Dry = v
	w.Moments = map[string]*float64{}
	b.coats(w)
	if w.Fore.Chills >= 1 {
		b.thaw(w, v, body)
	}
	if isSetting(w.Piece.Dough) {
		b.set(w, v, body)
		return
	}
	if w.Piece.Dough == "marzipan" {
		w.family = "marzipan"
	}
	if w.family == "" {
		w.family = "halfAndHalf"
	}
	if w.Strength == 0 && w.Piece.Dough == "" {
		v.Notes = append(v.Notes, b.Reader.Say("Settle its paste first: without it no time can be said."))
		return
	}
	gum := math.Min(w.Strength, 8)
	w.air.Factor, w.air.LogSd = b.Kitchen.Pace(w.family, b.Now)
	f, err := predict(body, body.ThicknessMM, gum, w.air, w.family)
	if err != nil {
		v.Never = Sentence(err)
		w.Never = v.Never
		return
	}
	for i, s := range []drying.Stage{f.Skin, f.Hold, f.Firm, f.Hard} {
		v.Stages = append(v.Stages, b.stageView(i, s))
	}
	if firm := f.Firm; firm.P90Hours != nil {
		v.EndHour = math.Max(4, *firm.P90Hours*1.25)
	} else {
		v.EndHour = 72
	}
	v.Why = &noun.Why{Rule: "Water leaves by diffusion inside and through a film at the faces; the room sets the balance it tends to. The band is our estimate until your notes narrow it.",
		Formula: "dX/dt = div(D grad X); at a face D dX/dn = k (X - X of the room)", Values: []noun.Named{{Name: "paste", Text: b.Reader.Say(read.PasteName(w.family)) + ", " + read.Trimmed(gum, 2) + " % gum"},
			{Name: "shape as it lies", Text: body.Shape + ", " + b.Reader.Length(body.ThicknessMM) + " thick"}, {Name: "dries on", Text: body.Support}, {Name: "room", Text: v.Room}}}
	w.Stages = bandsOf(f)
	b.moments(w, "", f)
	b.others(w, gum)
	b.enoughDry(w, v, body, gum)
}

// stageView is when a stage (its place in stageSays) comes.
func (b *Means) stageView(i int, s drying.Stage) StageView {
	v := StageView{Code: stageSays[i][0], Say: stageSays[i][1], Means: b.Reader.Say(stageSays[i][2]), P10: -1, P50: -1, P90: -1, Status: s.Status}
	for _, x := range []struct {
		to   *float64
		from *float64
	}{{&v.P10, s.P10Hours}, {&v.P50, s.P50Hours}, {&v.P90, s.P90Hours}} {
		if x.from != nil {
			*x.to = *x.from
		}
	}
	switch {
	case s.Status == "never":
		v.Text = "never in this room"
	case s.P50Hours == nil:
		v.Text = "later than two weeks"
	default:
		v.Text, v.Band = read.Estimate(*s.P50Hours, s.P10Hours, s.P90Hours)
		if s.P90Hours == nil {
			from, _ := read.Estimate(*s.P10Hours, nil, nil)
			v.Band = "from " + from + " to over two weeks"
		}
	}
	return v
}

// enoughDry says where pieces never come to the state in which they are needed, what would help,
// and what the air does to the rest.
func (b *Means) enoughDry(w *Reckoned, v *DryView, body *technique.Dries, gum float64) {
	needed := w.Stages.Firm
	if w.State == "S" {
		needed = w.Stages.Hold
	}
	if (w.State == "D" || w.State == "S") && needed == nil {
		_, rh := meanOf(w.air.Series, 72)
		w.Never = fmt.Sprintf("%s%sat %s %% humidity it takes too long or never comes to it.", w.Piece.Name, willNotSet, read.Trimmed(rh, 0))
		v.Never = w.Never
		b.help(w, v, body, gum)
	}
	if _, rh := meanOf(w.air.Series, 72); rh >= 60 {
		v.Notes = append(v.Notes, "Over 60 % humidity everything dries slowly.")
	}
	if w.State == "S" && w.Stages.Hold != nil && w.Stages.Firm != nil && w.Stages.Hold.P90 >= w.Stages.Firm.P10 {
		v.Notes = append(v.Notes, "The semi-dry window is empty at the ends of the band: look and touch, the clock alone cannot tell.")
	}
}

// ready says when something is ready after a change.
func ready(what string, s drying.Stage) string {
	text, band := read.Estimate(*s.P50Hours, s.P10Hours, s.P90Hours)
	return fmt.Sprintf("%s: ready after %s (%s).", what, text, band)
}

// help tries drier air, a thinner piece and stiffer paste, with the new times.
func (b *Means) help(w *Reckoned, v *DryView, body *technique.Dries, gum float64) {
	say := func(what string, f drying.Forecast, err error) {
		s := f.Firm
		if w.State == "S" {
			s = f.Hold
		}
		if err == nil && s.P90Hours != nil {
			v.Help = append(v.Help, b.Reader.Say(ready(what, s)))
		}
	}
	tempC, rhPercent := meanOf(w.air.Series, 72)
	for _, rh := range []float64{55, 45} {
		if rh < rhPercent {
			f, err := predict(body, body.ThicknessMM, gum, w.air.as(tempC, rh), w.family)
			say(fmt.Sprintf("Drier air, %.0f %% humidity", rh), f, err)
		}
	}
	thin := math.Max(0.5, body.ThicknessMM*0.6)
	f, err := predict(body, thin, gum, w.air, w.family)
	say("Thinner, "+b.Reader.Length(thin), f, err)
	if w.family != "flowerPaste" && len(b.usualAllergens(w, "flowerPaste")) == 0 {
		f, err := predict(body, body.ThicknessMM, paste.FlowerStrength, w.air, "flowerPaste")
		say("Flower paste instead", f, err)
	}
	if len(v.Help) == 0 {
		v.Help = append(v.Help, "Nothing short of a drying box helps: chocolate dough sets by temperature instead.")
	}
}

// thaw says how a chilled piece warms: dew, dusting, and how long it is stiff.
func (b *Means) thaw(w *Reckoned, v *DryView, body *technique.Dries) {
	freeze := w.Fore.Chills
	tempC, rhPercent := b.RoomFor(w.Piece)
	in := drying.DewIn{TempC: &tempC, RHPercent: &rhPercent, ThicknessMM: &body.ThicknessMM, FreezerMinutes: &freeze}
	if w.Piece.Dough != "" {
		in.DrinksGPerM2 = new(0.0)
	}
	d, err := once(fmt.Sprintf("dew|%v|%v|%v|%v|%v", tempC, rhPercent, body.ThicknessMM, freeze, w.Piece.Dough != ""), func() (drying.DewOut, error) { return drying.Dew(in) })
	if err != nil {
		v.Dew = append(v.Dew, Sentence(err))
		return
	}
	w.Dew = d
	w.Moments["dew.dustable"], w.Moments["dew.cold"] = d.DustableAfterMinutes, d.ColdUntilMinutes
	if *d.DustableAfterMinutes > 0 {
		v.Dew = append(v.Dew, fmt.Sprintf("Dew after %s min in the freezer: dust or paint after %s.", read.Trimmed(freeze, 1), read.SayMinutes(int(math.Ceil(*d.DustableAfterMinutes)))))
	} else {
		v.Dew = append(v.Dew, fmt.Sprintf("After %s min in the freezer no dew to speak of: dust at once.", read.Trimmed(freeze, 1)))
	}
	if *d.ColdUntilMinutes > 0 {
		v.Dew = append(v.Dew, fmt.Sprintf("Stiff from cold for %s; after that it stretches.", read.SayMinutes(int(math.Floor(*d.ColdUntilMinutes)))))
	} else if w.State == "C" {
		v.Dew = append(v.Dew, "It is not cold through: place it as a piece that was never chilled.")
	}
	v.Dew = append(v.Dew, fmt.Sprintf("Dew point of the room: %s.", b.Reader.Temp(d.DewPointC)))
}

// set is chocolate dough: it does not dry, it sets by temperature.
func (b *Means) set(w *Reckoned, v *DryView, body *technique.Dries) {
	v.Sets = true
	tempC, _ := meanOf(w.air.Series, 24)
	c, err := drying.Cool(drying.CoolIn{Dough: &w.Piece.Dough, ThicknessMM: &body.ThicknessMM, AirTempC: &tempC})
	if err != nil {
		v.Never = Sentence(err)
		w.Never = v.Never
		return
	}
	sets, err := setsIn(&noun.Body{Paste: w.Piece.Dough, ThicknessMM: body.ThicknessMM}, w.air)
	if err != nil {
		v.Never = Sentence(err)
		w.Never = v.Never
		return
	}
	add := func(band **Band, code, say, means string, at drying.Moment) {
		m := at.Minutes
		for _, q := range []string{".p10", ".p50", ".p90"} {
			w.Moments[code+q], w.Moments[map[string]string{"hold": "skin", "firm": "hard"}[code]+q] = nil, nil
		}
		s := StageView{Code: code, Say: say, Means: means, P10: -1, P50: -1, P90: -1, Status: "never", Text: "never in this room"}
		if m != nil && at.SlowMinutes != nil {
			slow := *at.SlowMinutes
			quick := *m * *m / slow
			s.P10, s.P50, s.P90, s.Status, s.Text = quick/60, *m/60, slow/60, "reached", read.SayMinutes(int(math.Ceil(*m)))
			s.Text, s.Band = read.Estimate(*m/60, &s.P10, &s.P90)
			*band = setBand(at)
			for q, x := range map[string]float64{".p10": quick, ".p50": *m, ".p90": slow} {
				w.Moments[code+q] = &x
				// dough has no skin and is no harder than firm: the same words stand for these
				w.Moments[map[string]string{"hold": "skin", "firm": "hard"}[code]+q] = &x
			}
			v.EndHour = math.Max(v.EndHour, slow/60*1.25)
		}
		v.Stages = append(v.Stages, s)
	}
	add(&w.Stages.Hold, "hold", "hold", "keeps its shape", sets.Hold)
	add(&w.Stages.Firm, "firm", "firm", "lift, cut clean, stack", sets.Firm)
	v.Why = &noun.Why{Rule: "Chocolate dough sets by temperature: it counts kelvin-hours below its soft point.", Formula: "firm when the integral of (soft point - temperature), at most 8 K, comes to 24 K h",
		Values: []noun.Named{{Name: "soft point", Text: b.Reader.Temp(c.SoftPointC)}, {Name: "room", Text: b.Reader.Temp(tempC)}, {Name: "thickness", Text: b.Reader.Length(body.ThicknessMM)}, {Name: "time constant", Text: read.Trimmed(c.TimeConstantMinutes, 1) + " min"}}}
	end := map[string]string{"sags": "In this room it sags, set or not.", "soft": "In this room it stays soft.", "softFirm": "It stays a little soft: lay it, lean it, eat it; no uprights.", "firm": "It comes out firm."}
	v.Notes = append(v.Notes, end[c.EndState])
	if sets.Firm.Minutes == nil && (w.State == "D" || w.State == "S") {
		w.Never = strings.TrimSpace(w.Piece.Name + willNotSet + "the room is too warm for " + read.PasteName(w.Piece.Dough) + ".")
		v.Never = w.Never
		v.Help = append(v.Help, fmt.Sprintf("Cool the room to %s or below.", b.Reader.Temp(c.SoftPointC-4)))
	}
	b.doughRefused(w, v, c.SoftPointC)
}

// doughRefused says of a dough that Paste refuses that it does not do, and what helps: for
// the drying and the plan as for the paste.
func (b *Means) doughRefused(w *Reckoned, v *DryView, softPointC float64) {
	by := w.Advice.FatSet.ExcludedBy
	if len(by) == 0 || w.Never != "" {
		return
	}
	var why []string
	cooler := true
	for _, code := range by {
		why = append(why, b.Reader.Say(doughNot[code]))
		cooler = cooler && (code == "roomAboveSoftPoint" || code == "standsDry" || code == "upright" && w.Piece.HeldUp)
	}
	w.Never = fmt.Sprintf("%s will not do in %s: %s.", w.Piece.Name, read.PasteName(w.Piece.Dough), read.List(dedupe(why)))
	v.Never = w.Never
	if cooler {
		v.Help = append(v.Help, fmt.Sprintf("Cool the room to %s or below.", b.Reader.Temp(softPointC-4)))
	}
	v.Help = append(v.Help, "Take another paste for it, or lay it flat or held.")
}

// dries is what dries of the piece, as the decorator said it: its tool's shape, and
// what it lies on, where they are not the usual ones of its way of making.
func (w *Reckoned) dries() *technique.Dries {
	body := w.body()
	if body == nil {
		return nil
	}
	out := *body
	if w.Tool != nil && w.Tool.Shape != "" {
		out.Shape = w.Tool.Shape
	}
	if w.Piece.Support != "" {
		out.Support = w.Piece.Support
	}
	return &out
}

// moments of a body in minutes, by the names that a way of making asks for; nil:
// never.
func (b *Means) moments(w *Reckoned, prefix string, f drying.Forecast) {
	for name, s := range map[string]drying.Stage{"skin": f.Skin, "hold": f.Hold, "firm": f.Firm, "hard": f.Hard} {
		for q, hours := range map[string]*float64{".p10": s.P10Hours, ".p50": s.P50Hours, ".p90": s.P90Hours} {
			var at *float64
			if hours != nil {
				at = new(*hours * 60)
			}
			w.Moments[prefix+name+q] = at
		}
	}
	if prefix == "" {
		w.Moments["open.p10"] = w.Moments["skin.p10"]
	}
}

// others are the bodies beside the piece itself: the sheet it is cut from, a centre.
func (b *Means) others(w *Reckoned, gum float64) {
	for i := range w.Fore.Bodies {
		body := &w.Fore.Bodies[i]
		if body.ID == "main" {
			continue
		}
		f, err := predict(body, body.ThicknessMM, gum, w.air, w.family)
		if err != nil {
			continue // what asks for it says that it is missing
		}
		b.moments(w, body.ID+".", f)
		if w.Others == nil {
			w.Others = map[string]Bands{}
		}
		w.Others[body.ID] = bandsOf(f)
		if body.ID == "sheet" {
			w.Moments["open.p10"] = w.Moments["sheet.skin.p10"]
		}
	}
}

// coats are when paint and lacquer take the next coat in this room.
func (b *Means) coats(w *Reckoned) {
	tempC, rhPercent := b.RoomFor(w.Piece)
	for _, kind := range drying.Coats() {
		c, err := drying.Coat(drying.CoatIn{Coat: &kind, TempC: &tempC, RHPercent: &rhPercent})
		if err == nil {
			for name, x := range map[string]float64{".next": c.NextCoatMinutes, ".p50": c.P50Minutes, ".p90": c.P90Minutes} {
				w.Moments["coat."+kind+name] = &x
			}
		}
	}
}
