package studio

import (
	"context"
	"fmt"
	"strings"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// FirstIn is what a new studio is asked, as typed: what, by when, and what one weighs.
type FirstIn struct {
	UpTo int               `json:"upTo" minimum:"1" maximum:"3" doc:"the question that was answered last; 3 writes it down"`
	Set  map[string]string `json:"set"`
}

// firstAsked are the fields of each of the three questions.
var firstAsked = [][]string{{"name", "wanted"}, {"handOver", "hours"}, {"weighedG", "lengthMM", "widthMM", "depthMM"}}

// First takes the answers of a new studio: read so far, or, with the last of them, written
// down as one act: the hours, the mould, the order and its piece.
func (s *Service) First(ctx context.Context, slug string, in FirstIn) (commission int64, err error) {
	for name := range in.Set {
		known := false
		for _, q := range firstAsked {
			for _, f := range q {
				known = known || f == name
			}
		}
		if !known {
			return 0, fault.New(fault.Syntax, name, "There is no field %q here.", name)
		}
	}
	k, err := s.house(ctx, slug)
	if err != nil {
		return 0, err
	}
	now := s.Clock().In(k.Zone())
	of := func(names ...string) map[string]string {
		out := map[string]string{}
		for _, n := range names {
			out[n] = strings.TrimSpace(in.Set[n])
		}
		return out
	}
	r, piece, order := read.Reader{K: k}, noun.BlankPiece(), noun.BlankCommission()
	if err := read.Apply(read.PieceFields, r, &piece, of("name", "wanted"), now); err != nil {
		return 0, err
	}
	if in.UpTo == 1 {
		return 0, nil
	}
	switch {
	case of("handOver")["handOver"] == "":
		return 0, fault.New(fault.Required, "handOver", "When is it handed over? Such as Sat week 10:00, or in 9 days.")
	case of("hours")["hours"] == "":
		return 0, fault.New(fault.Required, "hours", "When are you at the bench? Such as Tue, Thu 19:00-22:00.")
	}
	if err := read.Apply(read.CommissionFields, r, &order, of("handOver"), now); err != nil {
		return 0, err
	}
	if err := read.Apply(read.KitchenFields, r, k, of("hours"), now); err != nil {
		return 0, err
	}
	if in.UpTo == 2 {
		return 0, nil
	}
	if of("weighedG")["weighedG"] == "" {
		return 0, fault.New(fault.Required, "weighedG", "What does one weigh? Weigh a finished one, or a ball of paste that fills the mould.")
	}
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		if err := journal.Kitchens.Change(a, a.House.ID, journal.ChangeIn{Version: a.House.Version, Set: of("hours")}); err != nil {
			return err
		}
		mould := of("weighedG", "lengthMM", "widthMM", "depthMM")
		mould["kind"], mould["name"] = "cavityMould", piece.Name
		if err := KindTool.of().Make(a, 0, mould); err != nil {
			return err
		}
		tool := a.LastMade()
		title := fmt.Sprintf("%d %s", piece.Wanted, piece.Name)
		if err := KindCommission.of().Make(a, 0, map[string]string{"title": title, "handOver": in.Set["handOver"]}); err != nil {
			return err
		}
		commission = a.LastMade()
		set := of("name", "wanted")
		set["tool"] = fmt.Sprint(tool)
		if err := KindPiece.of().Make(a, commission, set); err != nil {
			return err
		}
		a.Say(commission, "began with %s", title)
		return nil
	}, nil)
	return commission, err
}
