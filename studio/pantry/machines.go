package pantry

import (
	"context"
	"fmt"
	"maps"
	"math"
	"slices"

	"dustyfern/craft/fault"
	"dustyfern/craft/mix"
	"dustyfern/craft/ribbon"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// RollerView are the settings of a rolling machine, each with its thickness.
type RollerView struct {
	Says     string        `json:"says"`
	Settings []SettingView `json:"settings"`
	Wear     []string      `json:"wear" doc:"what strips weighed over time say"`
}

// SettingView is one setting.
type SettingView struct {
	At      float64 `json:"at"`
	MM      float64 `json:"mm"`
	Says    string  `json:"says"`
	Weighed bool    `json:"weighed" doc:"known by a weighed strip"`
}

// mostSettings of a machine are drawn.
const mostSettings = 24

// wearFromMM is from what change on a setting is said to have worn (assumed: less is the
// spread of one strip).
const wearFromMM = 0.1

func rollerView(t *noun.Tool, r read.Reader) *RollerView {
	v := &RollerView{Settings: []SettingView{}, Wear: []string{}, Says: "As such machines usually are: type your own settings, or weigh a strip."}
	anchors := t.Roller.Anchors()
	if anchors != nil {
		v.Says = "Your own settings, straight between those that are known."
	} else {
		anchors = ribbon.UsualAnchors
	}
	first, last := anchors[0][0], anchors[0][0]
	for _, a := range anchors {
		first, last = math.Min(first, a[0]), math.Max(last, a[0])
	}
	for at := math.Ceil(first); at <= last && len(v.Settings) < mostSettings; at++ {
		out, err := ribbon.Roller(ribbon.RollerIn{Anchors: t.Roller.Anchors(), Setting: &at})
		if err != nil {
			continue
		}
		v.Settings = append(v.Settings, SettingView{At: at, MM: out.ThicknessMM, Says: r.Length(out.ThicknessMM), Weighed: slices.ContainsFunc(t.Roller.Strips, func(s noun.Strip) bool { return s.At == at })})
	}
	since, now := map[float64]noun.Strip{}, map[float64]noun.Strip{}
	for _, s := range t.Roller.Strips {
		if _, known := since[s.At]; !known {
			since[s.At] = s
		}
		now[s.At] = s
	}
	for _, at := range slices.Sorted(maps.Keys(now)) {
		if was, is := since[at], now[at]; math.Abs(is.MM-was.MM) >= wearFromMM {
			v.Wear = append(v.Wear, fmt.Sprintf("Setting %g rolls %s now, %s on %s.", at, r.Length(is.MM), r.Length(was.MM), r.Day(was.When, true)))
		}
	}
	return v
}

// StripIn is a strip that was rolled and weighed, as people type it.
type StripIn struct {
	Setting string `json:"setting" maxLength:"20"`
	Length  string `json:"length" maxLength:"40"`
	Width   string `json:"width" maxLength:"40"`
	Grams   string `json:"grams" maxLength:"40"`
}

// WeighStrip keeps what a strip says of the setting that it was rolled at: that setting
// is known by it from now on. Faults: setting, length, width, grams.
func (s *Keeping) WeighStrip(ctx context.Context, slug string, id int64, in StripIn) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		t, err := ofDrawer(a, id)
		if err != nil {
			return err
		}
		strip, err := readStrip(read.Reader{K: a.House}, in)
		if err != nil {
			return err
		}
		strip.When = a.Now
		next := noun.Roller{Strips: append(slices.Clone(t.Roller.Strips), strip)}
		next.Strips = next.Strips[max(0, len(next.Strips)-noun.MostStrips):]
		had := t.Roller.Settings
		if len(had) == 0 {
			for _, x := range ribbon.UsualAnchors {
				had = append(had, noun.Setting{At: x[0], MM: x[1]})
			}
		}
		for _, x := range had {
			if x.At != strip.At {
				next.Settings = append(next.Settings, x)
			}
		}
		next.Settings = append(next.Settings, noun.Setting{At: strip.At, MM: math.Round(strip.MM*100) / 100})
		slices.SortFunc(next.Settings, func(a, b noun.Setting) int {
			if a.At < b.At {
				return -1
			}
			return 1
		})
		if err := next.Check(); err != nil {
			return err
		}
		t.Roller = next
		a.Say(0, "weighed a strip of %s at setting %g: %.2f mm", t.Name, strip.At, strip.MM)
		return a.Save(&t)
	}, nil)
	return err
}

func readStrip(r read.Reader, in StripIn) (noun.Strip, error) {
	at, err := read.Amount(r, "setting", "number", in.Setting, -1000, 1000)
	if err != nil {
		return noun.Strip{}, err
	}
	long, err := read.Amount(r, "length", "length", in.Length, 10, 10000)
	if err != nil {
		return noun.Strip{}, err
	}
	wide, err := read.Amount(r, "width", "length", in.Width, 2, 1000)
	if err != nil {
		return noun.Strip{}, err
	}
	g, err := read.Amount(r, "grams", "mass", in.Grams, 0.01, 5000)
	if err != nil {
		return noun.Strip{}, err
	}
	out, err := ribbon.Roller(ribbon.RollerIn{MassG: &g, LengthMM: &long, WidthMM: &wide})
	if err != nil {
		return noun.Strip{}, err
	}
	if out.ThicknessMM < 0.2 || out.ThicknessMM > 20 {
		return noun.Strip{}, fault.New(fault.OutOfRange, "grams", "That would be %.2f mm thick: a strip is from 0.2 to 20 mm. Length, width and grams of the same strip?", out.ThicknessMM)
	}
	return noun.Strip{At: at, MM: out.ThicknessMM}, nil
}

// CastView is what a home-made mould has been through, and whether it was worth it.
type CastView struct {
	Says   string       `json:"says"`
	Worth  string       `json:"worth" doc:"bought or made?"`
	Figure *noun.Figure `json:"figure,omitempty" doc:"pulls at which it has cost as much as a bought one"`
	Worn   bool         `json:"worn" doc:"time to mix a new one"`
}

func castView(t *noun.Tool) *CastView {
	c := &t.Cast
	remelts := min(noun.MostRemelts, c.Remelts)
	in := mix.GelatineIn{NeededML: new(1.0), Remelts: &remelts, BoughtCost: c.Bought, MixCost: c.Mix, RemeltCost: c.Remelt, PullsPerCasting: new(max(1, int(t.Of("pulls"))))}
	said := c.Bought != nil && c.Mix != nil && c.Remelt != nil && *c.Remelt > 0
	if !said {
		in.BoughtCost, in.MixCost, in.RemeltCost = nil, nil, nil
	}
	v := &CastView{Says: "Cast once, not melted again yet.", Worth: "Say what a bought mould, the mix and melting it again cost: then it says when it has paid."}
	if c.Remelts > 0 {
		v.Says = fmt.Sprintf("Melted and cast again %s.", read.Count(c.Remelts, "time"))
	}
	out, err := mix.Gelatine(in)
	if err != nil {
		v.Worth = work.Sentence(err)
		return v
	}
	if out.KeptShare != nil && c.Remelts > 0 {
		v.Says += fmt.Sprintf(" About %s %% of the mix is left.", read.Trimmed(*out.KeptShare*100, 0))
	}
	if v.Worn = c.Remelts >= noun.MostRemelts; v.Worn {
		v.Says += fmt.Sprintf(" After %d times it tears and smells: mix a new one.", noun.MostRemelts)
	}
	if out.BreakEvenPulls == nil {
		return v
	}
	spent := *c.Mix + float64(c.Remelts)**c.Remelt
	n := *out.BreakEvenPulls
	v.Figure = &noun.Figure{Value: float64(n), Unit: "pulls, then a bought one had been cheaper", Text: fmt.Sprint(n), Why: &noun.Why{Rule: "Each casting gives so many pulls; melting it again costs a little each time, until it has cost as much as a bought mould.",
		Formula: "pulls of one casting × (1 + whole((bought − mix) / melting again))", Values: []noun.Named{{Name: "bought", Text: read.Trimmed(*c.Bought, 2)}, {Name: "mix", Text: read.Trimmed(*c.Mix, 2)}, {Name: "melting again", Text: read.Trimmed(*c.Remelt, 2)}, {Name: "pulls of one casting", Text: fmt.Sprint(*in.PullsPerCasting)}}}}
	switch {
	case n == 0:
		v.Worth = "The mix alone costs more than a bought mould: buy one."
	case spent > *c.Bought:
		v.Worth = fmt.Sprintf("So far it has cost %s, more than the %s of a bought one.", read.Trimmed(spent, 2), read.Trimmed(*c.Bought, 2))
	default:
		v.Worth = fmt.Sprintf("So far it has cost %s; a bought one %s. Made is cheaper up to %d pulls.", read.Trimmed(spent, 2), read.Trimmed(*c.Bought, 2), n)
	}
	return v
}

// Recast counts that a home-made mould was melted and cast again.
func (s *Keeping) Recast(ctx context.Context, slug string, id int64) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		t, err := ofDrawer(a, id)
		if err != nil {
			return err
		}
		t.Cast.Remelts++
		if err := t.Cast.Check(); err != nil {
			return err
		}
		a.Say(0, "melted %s and cast it again: %s by now", t.Name, read.Count(t.Cast.Remelts, "time"))
		return a.Save(&t)
	}, nil)
	return err
}
