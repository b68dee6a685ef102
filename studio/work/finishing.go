package work

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"dustyfern/craft/caution"
	"dustyfern/craft/colour"
	"dustyfern/craft/fault"
	"dustyfern/craft/finish"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// Finished is what comes on to the pieces of an order when they are made: the order of the
// tones, what they take of lots and of minutes, and what fixes them.
type Finished struct {
	Dust      float64      // minutes of a piece at the step that dusts it
	Wipes     float64      // and once, for the brush
	Uses      []noun.Taken // what that step takes of lots, for all pieces
	Coats     int          // of metallic paint; 0: none
	CoatEach  float64      // minutes of a piece for one coat
	NextCoat  float64      // minutes until the next may go on
	CoatDry   float64      // and until the last is dry
	CoatUses  []noun.Taken
	CoatSays  []string
	Lock      string  // "" where nothing wants fixing
	LockDry   float64 // minutes until it is dry
	LockSays  string
	Materials []string // of caution, of all that comes on to it

	CoatCautions, LockCautions []string
}

// finishMinutes are the minutes of what comes on to a piece, and whether it is fixed, in
// place of the usual ones.
func (b *Means) finishMinutes(w *Reckoned, in *technique.ChainIn) {
	if len(w.Piece.Finish.Passes) == 0 {
		return
	}
	f := b.Finishing(w)
	in.Manner["dusted"], in.Manner["locked"] = yes(f.Dust > 0), yes(f.Lock != "" && f.Dust > 0)
	for i := range w.Way.Steps {
		s := &w.Way.Steps[i]
		if s.Verb != "dust" || f.Dust == 0 || s.Minutes["piece"] == "" {
			continue
		}
		in.Minutes[s.ID+".piece"] = math.Min(1440, f.Dust)
		if s.Minutes["batch"] != "" {
			in.Minutes[s.ID+".batch"] = math.Min(1440, 0.5+f.Wipes)
		}
	}
}

// kindOfDust is how a kind of lot comes on.
var kindOfDust = map[string]string{"petalDust": "petalDust", "lustreDust": "lustre", "metalPowder": "metal", "gel": "pen"}

// Surface is what is seen of one piece, mm2: by its way of making, else of its box.
func (w *Reckoned) Surface() float64 {
	if a := w.Fore.Names["dustMM2"]; a > 0 {
		return a
	}
	across, high := w.Lying()
	return seenOfBox * across * high
}

// seenOfBox is how much of its box a piece shows, as a rule (assumed).
const seenOfBox = 0.7

// tone is one pass with its lots.
type tone struct {
	at     int
	pass   *noun.Pass
	lots   []*noun.Lot
	kind   string
	pot    string
	area   float64
	absent string
}

// tones of a piece with their lots, as they are kept.
func (b *Means) tones(w *Reckoned) (out []tone) {
	surface := w.Surface()
	for i := range w.Piece.Finish.Passes {
		p := &w.Piece.Finish.Passes[i]
		t := tone{at: i, pass: p, area: surface * p.Percent / 100}
		var hexes []string
		var parts []float64
		for _, d := range p.Lots {
			l := b.lotOf(d.Lot)
			if l == nil || l.Swatch == nil {
				t.absent = "A dust of it is no longer in the pantry: choose another."
				continue
			}
			t.lots = append(t.lots, l)
			if k := kindOfDust[l.Kind]; t.kind == "" || k == "petalDust" {
				t.kind = k
			}
			hexes, parts = append(hexes, *l.Swatch), append(parts, float64(d.Parts))
		}
		if pot, err := potOf(hexes, parts); err == nil {
			t.pot = pot
		} else {
			t.absent = cmp.Or(t.absent, "None of its dusts is in the pantry.")
		}
		out = append(out, t)
	}
	return out
}

// potOf is the colour of dusts mixed by their parts; it is reckoned once.
func potOf(hexes []string, parts []float64) (string, error) {
	return once(fmt.Sprintf("pot|%v|%v", hexes, parts), func() (string, error) {
		var ps []colour.Paste
		for _, h := range hexes {
			c, err := colour.PasteOf(h)
			if err != nil {
				return "", err
			}
			ps = append(ps, c)
		}
		if len(ps) == 0 {
			return "", fault.New(fault.Required, "lots", "None of its dusts is in the pantry.")
		}
		return colour.Blend(ps, parts).Hex(), nil
	})
}

func (b *Means) lotOf(id int64) *noun.Lot {
	for i := range b.Lots {
		if b.Lots[i].ID == id && b.Lots[i].DeletedAt == nil {
			return &b.Lots[i]
		}
	}
	return nil
}

// shaded puts the tones in their order.
func (b *Means) shaded(w *Reckoned, tones []tone) (finish.ShadeOut, bool) {
	in := finish.ShadeIn{Ground: &w.Piece.Swatch, Pieces: new(max(1, w.Made()))}
	for _, t := range tones {
		if t.absent != "" || t.area < 0.01 {
			continue
		}
		in.Areas = append(in.Areas, finish.Area{ID: new(fmt.Sprint(t.at)), Role: &t.pass.Role, AreaMM2: &t.area, Hex: &t.pot, Dust: new(mixOf(t)), Kind: &t.kind, Passes: &t.pass.Times})
	}
	if len(in.Areas) == 0 {
		return finish.ShadeOut{}, false
	}
	out, err := finish.Shade(in)
	return out, err == nil
}

// Made is how many pieces the order makes, spares among them.
func (w *Reckoned) Made() int { return max(w.Batch.Make, w.Wanted) }

func mixOf(t tone) string {
	var parts []string
	for i, l := range t.lots {
		if len(t.lots) == 1 {
			return l.Name
		}
		parts = append(parts, fmt.Sprintf("%d %s", t.pass.Lots[i].Parts, l.Name))
	}
	return strings.Join(parts, " : ")
}

// Finishing is what comes on to the pieces, for the plan, the pantry and the label.
func (b *Means) Finishing(w *Reckoned) Finished {
	var out Finished
	made := float64(max(1, w.Made()))
	tones := b.tones(w)
	if len(tones) == 0 && w.Piece.Dusted {
		out.Materials = append(out.Materials, "petalDust")
	}
	if shade, ok := b.shaded(w, tones); ok {
		for _, p := range shade.Order {
			t := toneOf(tones, p.ID)
			if t.kind == "metal" { // in coats of its own
				continue
			}
			out.Dust += (p.Minutes - finish.WipeMinutes) / made
			out.Wipes += finish.WipeMinutes
			for i, l := range t.lots {
				if g := t.area * finish.LoadMG(t.kind) * float64(t.pass.Times) * made / 1000 * share(t, i); g > 0 {
					out.Uses = taking(out.Uses, l, g)
				}
			}
		}
	}
	for _, t := range tones {
		for _, l := range t.lots {
			if m := noun.MaterialOf(l.Kind); !slices.Contains(out.Materials, m) {
				out.Materials = append(out.Materials, m)
			}
		}
		if t.kind == "metal" && t.absent == "" {
			b.metal(w, &t, &out, made)
		}
	}
	if lock := b.lock(w, tones); lock != nil && lock.Fits && lock.Code != "none" {
		out.Lock, out.LockSays, out.LockCautions = lock.Code, lock.Says, lock.Cautions
		if lock.Code != "steam" {
			out.Materials = append(out.Materials, map[string]string{"glazeMist": "glaze", "lacquer": "lacquer", "shineSpray": "shineSpray"}[lock.Code])
		}
		out.LockDry = lock.dry
	}
	return out
}

func toneOf(tones []tone, id string) *tone {
	for i := range tones {
		if fmt.Sprint(tones[i].at) == id {
			return &tones[i]
		}
	}
	return &tone{pass: &noun.Pass{}}
}

func share(t *tone, i int) float64 {
	sum := 0.0
	for _, d := range t.pass.Lots {
		sum += float64(d.Parts)
	}
	return float64(t.pass.Lots[i].Parts) / sum
}

func taking(all []noun.Taken, l *noun.Lot, g float64) []noun.Taken {
	for i := range all {
		if all[i].Lot == l.ID {
			all[i].G += g
			return all
		}
	}
	return append(all, noun.Taken{Lot: l.ID, Name: l.Name, G: g})
}

// metal is the paint of a tone, its coats and its waits.
func (b *Means) metal(w *Reckoned, t *tone, out *Finished, made float64) {
	area := t.area * made
	tempC, rh := b.RoomFor(w.Piece)
	in := finish.MetalIn{AreaMM2: &area, NoAlcohol: slices.Contains(w.order.Without, "alcohol"), RoomTempC: &tempC, RoomRHPercent: &rh, DarkGround: LightOf(w.Piece.Swatch) < DarkEnough}
	if medium := w.Piece.Finish.Medium; medium != "" {
		in.Medium = &medium
	}
	m, err := finish.Metal(in)
	if err != nil && in.Medium != nil { // what was chosen carries what this table does not take
		out.CoatSays = append(out.CoatSays, Sentence(err))
		in.Medium = nil
		m, err = finish.Metal(in)
	}
	if err != nil {
		return
	}
	out.Coats = max(out.Coats, m.Coats)
	out.CoatEach += finish.ReachMinutes + t.area/finish.PassMM2
	out.NextCoat, out.CoatDry = math.Max(out.NextCoat, m.NextCoatMinutes), math.Max(out.CoatDry, m.NextCoatMinutes/finish.NextCoat)
	for i, l := range t.lots {
		out.CoatUses = taking(out.CoatUses, l, m.PowderG*share(t, i))
	}
	medium := map[string]string{"citrusExtract": "citrus extract", "clearSpirit": "clear spirit", "pipingGel": "thinned piping gel"}[m.Medium]
	out.CoatSays = append(out.CoatSays, fmt.Sprintf("Stir %s of %s into about %s ml of %s (%s g to a ml): %s.", read.AboutG(m.PowderG), mixOf(*t), read.Trimmed(math.Max(0.1, m.LiquidML), 1), medium, read.Trimmed(m.PowderGPerML, 1), read.Count(m.Coats, "coat")))
	words := []string{"dust"}
	if m.Alcohol {
		words = append(words, "spirit")
	}
	for _, say := range b.cautionsAt(words...) {
		if !slices.Contains(out.CoatCautions, say) {
			out.CoatCautions = append(out.CoatCautions, say)
		}
	}
	if !slices.Contains(out.Materials, m.Medium) {
		out.Materials = append(out.Materials, m.Medium)
	}
}

// lockFound is a lock with its wait.
type lockFound struct {
	LockView
	dry float64
}

// cautionsAt are what the rules say at a step that brings some words.
func (b *Means) cautionsAt(words ...string) []string {
	out := []string{}
	for _, word := range words {
		for _, say := range caution.Word(word) {
			if say = b.Reader.Say(say); !slices.Contains(out, say) {
				out = append(out, say)
			}
		}
	}
	return out
}

// lock is what fixes the finish; nil where there is none.
func (b *Means) lock(w *Reckoned, tones []tone) *lockFound {
	var on []string
	for _, t := range tones {
		k := map[string]string{"petalDust": "petalDust", "lustre": "lustre", "metal": "metallic", "pen": "gelPaint"}[t.kind]
		if t.absent == "" && k != "" && !slices.Contains(on, k) {
			on = append(on, k)
		}
	}
	if len(on) == 0 {
		return nil
	}
	tempC, rh := b.RoomFor(w.Piece)
	thick := math.Min(500, math.Max(0.1, w.Thick()))
	in := finish.LockIn{Finishes: on, FatSet: w.Sets(), ThicknessMM: &thick, RoomTempC: &tempC, RoomRHPercent: &rh}
	for _, a := range w.order.Without {
		if a == "alcohol" || a == "animal" {
			in.Avoid = append(in.Avoid, a)
		}
	}
	if g := w.Piece.Finish.Gloss; g != "" {
		in.Gloss = &g
	}
	out, err := finish.Lock(in)
	if err != nil {
		return nil
	}
	v := &lockFound{LockView: LockView{Fits: out.Fits, Code: out.Lock, Others: []string{}, Refused: []RefusedBy{}, Cautions: []string{}}}
	if own := w.Piece.Finish.Lock; own != "" && own != out.Lock {
		have := []string{own}
		in.Have = &have
		chosen, err := finish.Lock(in)
		if err == nil && chosen.Fits && chosen.Lock == own || own == "none" {
			chosen.Lock = own
			v.Fits, v.Code, v.Own, out.Others = true, own, true, append([]string{out.Lock}, slices.DeleteFunc(slices.Clone(out.Others), func(o string) bool { return o == own })...)
			out.DryMinutes, out.Seconds = chosen.DryMinutes, chosen.Seconds
			if own == "none" {
				out.DryMinutes, out.Seconds = new(0.0), nil
			}
		}
	}
	for _, o := range out.Others {
		if o != "" && o != v.Code {
			v.Others = append(v.Others, b.Reader.Say(read.LockSay(o)))
		}
	}
	for _, r := range out.Refused {
		if r.Lock != v.Code {
			v.Refused = append(v.Refused, RefusedBy{b.Reader.Say(read.LockSay(r.Lock)), b.Reader.Say(lockWhy[r.Why])})
		}
	}
	if out.DryMinutes != nil {
		v.dry = *out.DryMinutes
	}
	switch {
	case !v.Fits:
		v.Says = "Nothing fixes this finish here: handle it as little as can be, by its back."
	case v.Code == "none":
		v.Says = "Nothing: leave it as it is."
	case v.Code == "steam":
		v.Says = fmt.Sprintf("%s s of steam at arm's length, then %s until it is matt again.", read.Trimmed(*cmp.Or(out.Seconds, new(4.0)), 0), read.SayMinutes(read.UpMinutes(v.dry)))
	default:
		v.Says = fmt.Sprintf("%s in one thin coat, then %s until it is dry.", read.UpperFirst(b.Reader.Say(read.LockSay(v.Code))), read.SayMinutes(read.UpMinutes(v.dry)))
	}
	switch v.Code {
	case "", "none":
	case "steam":
		v.Cautions = b.cautionsAt("steam")
	default:
		v.Cautions = b.cautionsAt("aerosol")
	}
	return v
}

// lockWhy is why something does not fix a finish.
var lockWhy = map[string]string{"notAtHand": "is not at hand", "rubsOff": "dust rubs off where hands hold it", "meltsDough": "melts chocolate dough", "colourRuns": "wet colour would run", "dampRoom": "the room is over 65 %: it stays sticky",
	"tooThin": "so thin a piece goes soft", "dullsGlitter": "dulls glitter", "forGlitter": "is for glitter", "tooGlossy": "shines, and matt or satin is wanted", "tooMatt": "does not shine, and gloss is wanted", "avoided": "carries what these guests do not take"}

// Thick is how thick a piece is as it lies, mm; 0 while it is not known.
func (w *Reckoned) Thick() float64 {
	for _, body := range w.Fore.Bodies {
		return body.ThicknessMM
	}
	return w.Fore.Names["thicknessMM"]
}
