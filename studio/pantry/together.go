package pantry

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/paste"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// TogetherView is the fewest pastes that serve all pieces of a commission.
type TogetherView struct {
	Says    string       `json:"says"`
	Pastes  []SharedView `json:"pastes"`
	Moves   []string     `json:"moves" doc:"what each merge costs"`
	LeftOut []string     `json:"leftOut"`
	Fewer   bool         `json:"fewer" doc:"there is something to accept"`
	Why     *noun.Why    `json:"why,omitempty"`
}

// SharedView is one paste of them.
type SharedView struct {
	Name   string   `json:"name"`
	Text   string   `json:"text"`
	Grams  string   `json:"grams"`
	Pieces []string `json:"pieces"`
}

// asked is the pieces of a commission whose paste is a matter of strength.
func asked(b *work.Means, c *noun.Commission, pieces []noun.Piece) (ws []*work.Reckoned, in []paste.Wanted) {
	for i := range pieces {
		p := &pieces[i]
		if b.Needed[p.ID] == 0 || p.Dough != "" {
			continue
		}
		w := b.Mixed(c, p)
		if w.Way == nil || len(w.Advice.Demands) == 0 && w.View.Missing != "" {
			continue
		}
		ws, in = append(ws, w), append(in, paste.Wanted{Advice: w.Advice, Grams: w.Batch.PasteG})
	}
	return ws, in
}

func together(b *work.Means, c *noun.Commission, pieces []noun.Piece) (TogetherView, paste.Together, []*work.Reckoned) {
	ws, in := asked(b, c, pieces)
	t := paste.FewestPastes(in)
	v := TogetherView{Pastes: []SharedView{}, Moves: []string{}, LeftOut: []string{}}
	for _, s := range t.Pastes {
		x := SharedView{Name: b.Reader.Say(strengthName(s.StrengthPercent)), Text: read.Trimmed(s.StrengthPercent, 2) + " % gum", Pieces: []string{}}
		grams := 0.0
		for _, i := range s.Pieces {
			x.Pieces = append(x.Pieces, ws[i].Piece.Name)
			grams += ws[i].Batch.PasteG
		}
		if grams > 0 {
			x.Grams = b.Reader.Paste(grams)
		}
		v.Pastes = append(v.Pastes, x)
	}
	for _, m := range t.Moves {
		say := fmt.Sprintf("from %s to %s %%", read.Trimmed(m.From, 2), read.Trimmed(m.To, 2))
		if len(m.Breaks) == 0 {
			say += ", no wish breaks"
		} else {
			var codes []string
			for _, code := range m.Breaks {
				codes = append(codes, read.DemandSays[code])
			}
			say += ", gives up: " + read.List(codes)
		}
		v.Moves = append(v.Moves, ws[m.Piece].Piece.Name+": "+b.Reader.Say(say))
	}
	for _, i := range t.LeftOut {
		v.LeftOut = append(v.LeftOut, ws[i].Piece.Name+": two of its demands clash")
	}
	now := pastesNow(b, ws)
	v.Fewer = len(t.Pastes) > 0 && len(t.Pastes) < now
	v.Says = fmt.Sprintf("%s for %s; %s at the least.", read.Count(now, "paste"), read.Count(len(ws), "piece"), read.Count(len(t.Pastes), "paste"))
	v.Why = &noun.Why{Rule: "The smallest set of strengths that lies in the hard window of every piece; of those the one that breaks the fewest wishes, then the one that moves the pieces least, by grams.",
		Formula: "each piece takes the strength of the set that costs it least", Values: []noun.Named{{Name: "each at its own best", Text: read.Count(t.Before, "paste")}, {Name: "as chosen now", Text: read.Count(now, "paste")}}}
	return v, t, ws
}

func pastesNow(b *work.Means, ws []*work.Reckoned) int {
	var own []float64
	for _, w := range ws {
		if w.Strength > 0 && !slices.ContainsFunc(own, func(e float64) bool { return math.Abs(e-w.Strength) < 0.005 }) {
			own = append(own, w.Strength)
		}
	}
	return len(own)
}

func strengthName(e float64) string {
	if n := work.NearestPaste(e); n != "" {
		return n
	}
	return "sugar and flower paste blended"
}

// Together shows the fewest pastes of a commission.
func (s *Keeping) Together(ctx context.Context, slug string, id int64) (out TogetherView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		out, _, _, err = s.togetherOf(tx, k, now, id)
		return err
	})
	return out, err
}

func (s *Keeping) togetherOf(tx journal.Tx, k *noun.Kitchen, now time.Time, id int64) (v TogetherView, t paste.Together, ws []*work.Reckoned, err error) {
	b, c, ps, err := plan.GatherOne(tx, k, now, id)
	if err != nil {
		return v, t, ws, err
	}
	v, t, ws = together(b, &c, ps)
	return v, t, ws, nil
}

// AcceptTogether gives every piece of a commission its shared paste.
func (s *Keeping) AcceptTogether(ctx context.Context, slug string, id int64) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		_, t, ws, err := s.togetherOf(a, a.House, a.Now, id)
		if err != nil {
			return err
		}
		a.Say(id, "took %s for all pieces", read.Count(len(t.Pastes), "paste"))
		for _, sh := range t.Pastes {
			for _, i := range sh.Pieces {
				p := *ws[i].Piece
				if math.Abs(ws[i].Strength-sh.StrengthPercent) < 0.005 {
					continue
				}
				p.PegPercent, p.School = new(sh.StrengthPercent), ""
				if err := a.Save(&p); err != nil {
					return err
				}
			}
		}
		return nil
	}, nil)
	return err
}

// mixMeans are the meanings of "modelling paste" in the name of a mix.
var mixMeans = []string{"flowerPaste", "modellingPaste"}

// Mix sets the peg of a piece from the name of a mix: "1:1 with flower paste",
// "3:1", "1.6 %". Where "modelling paste" is said it is asked which of two is
// meant; means answers, and is kept from then on.
func (s *Keeping) Mix(ctx context.Context, slug string, id int64, text, means string) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		p, err := journal.Get[noun.Piece](a, id)
		if err != nil {
			return err
		}
		text = strings.TrimSpace(text)
		if text == "" || len([]rune(text)) > 200 {
			return fault.New(fault.Required, "mix", "Say the mix as you know it: 1:1 with flower paste, 3:1, or 1.6 %%.")
		}
		e, err := strconv.ParseFloat(strings.TrimSpace(strings.TrimSuffix(text, "%")), 64)
		if err != nil || !strings.HasSuffix(text, "%") {
			if e, err = namedMix(a, text, means); err != nil {
				return err
			}
		}
		if !(e >= 0 && e <= 10) {
			return fault.New(fault.OutOfRange, "mix", "Gum strength runs from 0 to 10 %%.")
		}
		p.PegPercent, p.School, p.Dough = &e, "", ""
		a.Say(p.CommissionID, "mixed %s as %s, %s %% gum", p.Name, journal.ShortText(text), read.Trimmed(e, 2))
		return a.Save(&p)
	}, nil)
	return err
}

// namedMix is the strength of a mix by its name.
func namedMix(a *journal.Acting, text, means string) (float64, error) {
	if e, ok, err := namedPaste(a, text, means); ok || err != nil {
		return e, err
	}
	out, err := paste.Strength(paste.StrengthIn{Mix: &text})
	if err != nil {
		return 0, fault.New(fault.Syntax, "mix", "%s", work.Sentence(err))
	}
	if out.Ambiguous == nil || !*out.Ambiguous {
		return *out.StrengthPercent, nil
	}
	if means != "" && !slices.Contains(mixMeans, means) {
		return 0, fault.New(fault.UnknownValue, "mix", "It means flower paste or hardened sugar paste.")
	}
	if means != "" && a.House.MixWith != means {
		k := *a.Kitchen()
		k.MixWith = means
		if err := a.Save(&k); err != nil {
			return 0, err
		}
	}
	if means == "" {
		means = a.House.MixWith
	}
	ask := fault.New(fault.Syntax, "mix", "Of which two? Some say modelling paste for flower paste, others for hardened sugar paste: not the same piece. Your answer is kept from then on.")
	for _, c := range out.Choices {
		if c.With == means {
			return c.StrengthPercent, nil
		}
		ask.Choices = append(ask.Choices, fault.Choice{Say: fmt.Sprintf("%s, %s %% gum", c.Says, read.Trimmed(c.StrengthPercent, 2)), Text: c.With})
	}
	return 0, ask
}

// namedPaste is the strength of one paste by its name, in either's words. Gum
// paste is flower paste in American words; in British ones it is asked, as
// modelling paste is.
func namedPaste(a *journal.Acting, text, means string) (e float64, ok bool, err error) {
	plain := func(name string) string {
		return strings.Join(strings.Fields(strings.ToLower(strings.ReplaceAll(name, "-", " "))), " ")
	}
	name := plain(text)
	if name == "gum paste" && a.House.Words != "us" || name == "modelling paste" || name == "modeling paste" {
		f := fault.New(fault.UnknownValue, "mix", "Some say %s for flower paste, others for hardened sugar paste. Which is meant?", name)
		for _, code := range mixMeans {
			k, _ := paste.KindOf(code)
			if code == means {
				return k.Strength, true, nil
			}
			f.Choices = append(f.Choices, fault.Choice{Say: fmt.Sprintf("%s, %s %% gum", k.Name, read.Trimmed(k.Strength, 2)), Text: code})
		}
		return 0, false, f
	}
	for _, k := range paste.Shelf {
		if says := k.Name; !k.FatSet && k.Code != "halfAndHalf" && (name == plain(says) || name == plain(read.American.Say(says))) {
			return k.Strength, true, nil
		}
	}
	return 0, false, nil
}
