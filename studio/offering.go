package studio

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// OffersView is what a new piece can begin from: ways that this drawer can make, and
// pieces of orders that are done.
type OffersView struct {
	Ways   []work.WayOffer `json:"ways"`
	Before []work.Before   `json:"before"`
}

// WishIn is what is wanted, as people type it; empty for what is not said.
type WishIn struct {
	Look  string `query:"look" maxLength:"80" doc:"words of how it looks"`
	Count string `query:"count" maxLength:"10"`
	Size  string `query:"size" maxLength:"20" doc:"how long, with its unit"`
	Eaten string `query:"eaten" enum:",mouthful,nibbled,shown"`
}

// read reads a wish. Faults: count, size.
func (in *WishIn) read(r read.Reader) (w work.Wish, err error) {
	w.Look, w.Eaten = in.Look, in.Eaten
	if strings.TrimSpace(in.Count) != "" {
		n, err := strconv.Atoi(strings.TrimSpace(in.Count))
		if err != nil || n < 1 || n > 5000 {
			return w, fault.New(fault.OutOfRange, "count", "How many: from 1 to 5000.")
		}
		w.Count = n
	}
	if strings.TrimSpace(in.Size) != "" {
		w.MM, err = read.Amount(r, "size", "length", in.Size, 1, 2000)
	}
	return w, err
}

// mostBefore is how many pieces of before are shown.
const mostBefore = 24

// Offers tells what a new piece of a commission can begin from.
func (s *Service) Offers(ctx context.Context, slug string, commission int64, in WishIn) (out OffersView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		b, c, _, err := plan.GatherOne(tx, k, now, commission)
		if err != nil {
			return err
		}
		wish, err := in.read(b.Reader)
		if err != nil {
			return err
		}
		out.Ways = b.Offers(&c, wish)
		if err := yours(tx, b, out.Ways); err != nil {
			return err
		}
		out.Before, err = before(tx, b)
		return err
	})
	return out, err
}

// yours says of ways what broke of their pieces in the tool that is offered.
func yours(tx journal.Tx, b *work.Means, ways []work.WayOffer) error {
	var tools []int64
	for _, w := range ways {
		if w.ToolID > 0 && !slices.Contains(tools, w.ToolID) {
			tools = append(tools, w.ToolID)
		}
	}
	broke, err := tx.BreakageIn(tools, nil)
	if err != nil {
		return err
	}
	for i := range ways {
		made, broken := 0, 0
		usual := ""
		if tool := b.Tools[ways[i].ToolID]; tool != nil {
			if t := b.WayOf(&noun.Piece{ToolID: &tool.ID}, tool); t != nil {
				usual = t.Key
			}
		}
		for _, x := range broke {
			if x.Tool == ways[i].ToolID && (x.Technique == ways[i].Key || x.Technique == "" && usual == ways[i].Key) {
				made, broken = made+x.Made, broken+x.Broken
			}
		}
		if made > 0 {
			ways[i].Yours = fmt.Sprintf("yours: %d of %d broke", broken, made)
		}
	}
	return nil
}

// before are pieces of the orders that were done last, one of each name, with how
// they went.
func before(tx journal.Tx, b *work.Means) ([]work.Before, error) {
	out := []work.Before{}
	cs, err := tx.ClosedCommissions(0, closedPage)
	if err != nil {
		return nil, err
	}
	ids := []int64{}
	for _, c := range cs {
		ids = append(ids, c.ID)
	}
	if len(ids) == 0 {
		return out, nil
	}
	ps, err := tx.PiecesOf(ids)
	if err != nil {
		return nil, err
	}
	seen := map[string]bool{}
	for _, c := range cs {
		var steps []noun.Step
		for i := range ps {
			p := &ps[i]
			if p.CommissionID != c.ID || p.DeletedAt != nil || seen[p.Name] || len(out) >= mostBefore {
				continue
			}
			if steps == nil {
				if steps, err = tx.Steps(c.ID); err != nil {
					return nil, err
				}
			}
			seen[p.Name] = true
			x := work.Before{PieceID: p.ID, Name: p.Name, Swatch: p.Swatch, Order: c.Title}
			if c.HandOver != nil {
				x.When = b.Reader.Date(*c.HandOver, b.Now)
			}
			if p.ToolID != nil && b.Tools[*p.ToolID] != nil {
				x.With = b.Tools[*p.ToolID].Name
			}
			mine := slices.DeleteFunc(slices.Clone(steps), func(st noun.Step) bool { return st.PieceID == nil || *st.PieceID != p.ID || !st.Makes() })
			x.Went = work.WentSays(mine)
			out = append(out, x)
		}
	}
	return out, nil
}

// LikeBefore puts a piece of another order on the list of this one: made as it was
// made then.
func (s *Service) LikeBefore(ctx context.Context, slug string, id, commission int64) (out int64, err error) {
	return s.Act(ctx, slug, func(a *journal.Acting) error {
		p, err := journal.Get[noun.Piece](a, id)
		if err != nil {
			return err
		}
		c, err := journal.Get[noun.Commission](a, commission)
		if err != nil {
			return err
		}
		if c.DeletedAt != nil {
			return journal.ErrNotFound
		}
		ps, err := a.Pieces(commission)
		if err != nil {
			return err
		}
		p.ID, p.Version, p.DeletedAt, p.CommissionID, p.Position = 0, 1, nil, commission, journal.NextPosition(ps)
		p.Extras, p.Joins = []int{}, []noun.Join{} // parts are of their own order
		if p.ToolID != nil {
			if t, err := journal.Get[noun.Tool](a, *p.ToolID); err != nil || t.DeletedAt != nil {
				p.ToolID, p.Tools = nil, noun.ToolsOf{}
			}
		}
		a.Say(commission, "put %d %s on the list, like last time", p.Wanted, p.Name)
		return a.Create(&p)
	}, nil)
}
