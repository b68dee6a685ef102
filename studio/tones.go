package studio

import (
	"context"
	"fmt"
	"reflect"
	"slices"
	"time"

	"dustyfern/craft/colour"
	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// SetTones says what comes on to a piece, tone by tone: all of them, in any order. A dust that
// this table does not take is refused with its reason. Faults: passes[i]...
func (s *Service) SetTones(ctx context.Context, slug string, id int64, version int64, passes []noun.Pass) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		p, err := journal.Get[noun.Piece](a, id)
		if err != nil {
			return err
		}
		if p.DeletedAt != nil {
			return journal.ErrNotFound
		}
		if p.Version != version { // other fields of the piece may have changed since
			was, err := journal.RowAt(a, id, version, &p)
			if err != nil {
				return err
			}
			if was == nil || !reflect.DeepEqual(was.Finish.Passes, p.Finish.Passes) {
				return journal.ErrStale
			}
		}
		c, err := journal.Get[noun.Commission](a, p.CommissionID)
		if err != nil {
			return err
		}
		if len(passes) > noun.MostPasses {
			return fault.New(fault.OutOfRange, "passes", "At most %d tones on one piece.", noun.MostPasses)
		}
		lots, err := a.Lots()
		if err != nil {
			return err
		}
		was := p.Finish.Passes
		for i := range passes {
			at := fmt.Sprintf("passes[%d].", i)
			if err := read.CheckPass(&passes[i]); err != nil {
				return fault.At(err, at)
			}
			for _, d := range passes[i].Lots {
				k := slices.IndexFunc(lots, func(l noun.Lot) bool { return l.ID == d.Lot && read.Dusts(l.Kind) && l.Swatch != nil })
				if k < 0 {
					return fault.New(fault.UnknownValue, at+"lots", "One of these dusts is not in the pantry, or has no swatch: choose another.")
				}
				refused, _ := c.Meets(lots[k].Label())
				old := slices.ContainsFunc(was, func(o noun.Pass) bool {
					return slices.ContainsFunc(o.Lots, func(x noun.DustPart) bool { return x.Lot == d.Lot })
				})
				if len(refused) > 0 && !old {
					return fault.New(fault.Contradiction, at+"lots", "%s holds %s, which this table avoids.", lots[k].Name, read.List(refused))
				}
			}
		}
		p.Finish.Passes = noun.Finish{Passes: passes}.Clone().Passes
		a.Say(p.CommissionID, "said what comes on to %s: %s", p.Name, read.Count(len(passes), "tone"))
		return a.Save(&p)
	}, nil)
	return err
}

// DustMixView is a mix of dusts for a tone.
type DustMixView struct {
	Says     string          `json:"says"`
	Lots     []noun.DustPart `json:"lots"`
	Hex      string          `json:"hex" doc:"as it looks on the piece"`
	Pot      string          `json:"pot"`
	Reach    string          `json:"reach"`
	Distance string          `json:"distance"`
	Sheen    string          `json:"sheen"`
}

// MixTone finds mixes of the dusts of the pantry for a tone on a piece after some passes, the
// nearest first. Dusts that this table does not take are left out.
func (s *Service) MixTone(ctx context.Context, slug string, id int64, target string, passes int) (out []DustMixView, err error) {
	out = []DustMixView{}
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, _ time.Time) error {
		p, err := journal.Get[noun.Piece](tx, id)
		if err != nil {
			return err
		}
		c, err := journal.Get[noun.Commission](tx, p.CommissionID)
		if err != nil {
			return err
		}
		lots, err := tx.Lots()
		if err != nil {
			return err
		}
		var hex string
		if err := read.ReadSwatch("target", target, &hex); err != nil {
			return err
		}
		in := colour.DustIn{Target: &hex, Ground: &p.Swatch, Passes: &passes}
		var of []*noun.Lot
		for i := range lots {
			l := &lots[i]
			if l.Kind != "petalDust" && l.Kind != "lustreDust" || l.Swatch == nil || len(of) == mostDusts {
				continue
			}
			if refused, _ := c.Meets(l.Label()); len(refused) > 0 {
				continue
			}
			of = append(of, l)
			in.Dusts = append(in.Dusts, colour.Dust{Name: new(fmt.Sprint(l.ID)), Hex: l.Swatch, Lustre: l.Kind == "lustreDust"})
		}
		if len(of) == 0 {
			return fault.New(fault.Required, "target", "There is no dust in the pantry that this table takes: add one with its swatch.")
		}
		found, err := colour.MixDusts(in)
		if err != nil {
			return err
		}
		for _, m := range append([]colour.DustMix{found.DustMix}, found.Alternatives...) {
			out = append(out, mixView(m, of))
		}
		return nil
	})
	return out, err
}

// mostDusts are how many dusts a mix is sought among.
const mostDusts = 20

func mixView(m colour.DustMix, of []*noun.Lot) DustMixView {
	v := DustMixView{Lots: []noun.DustPart{}, Hex: m.Hex, Pot: m.PotHex, Reach: map[string]string{"reached": "reached", "near": "near", "far": "out of reach"}[m.Reach], Distance: "ΔE " + read.Trimmed(m.De00, 1) + ", about ±3 until a scrap was dusted"}
	var parts []string
	for _, p := range m.Parts {
		i := slices.IndexFunc(of, func(l *noun.Lot) bool { return fmt.Sprint(l.ID) == p.Dust })
		v.Lots = append(v.Lots, noun.DustPart{Lot: of[i].ID, Parts: p.Parts})
		if len(m.Parts) == 1 {
			parts = append(parts, of[i].Name)
		} else {
			parts = append(parts, fmt.Sprintf("%d %s", p.Parts, of[i].Name))
		}
	}
	for i, p := range parts {
		if i > 0 {
			v.Says += " : "
		}
		v.Says += p
	}
	if m.SheenShare != nil {
		v.Sheen = fmt.Sprintf("%s %% of it are flakes: their part of the tone is a guess", read.Trimmed(*m.SheenShare*100, 0))
	}
	return v
}
