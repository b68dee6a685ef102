package leaving

import (
	"context"
	"fmt"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/template"
)

// Print is the card of an order on one page of a6 or a4.
func (s *Leaving) Print(ctx context.Context, slug string, id int64, size string) (name string, pdf []byte, err error) {
	err = s.Fresh(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		g, err := gathered(tx, k, now, id)
		if err != nil {
			return err
		}
		card, err := g.card(tx)
		if err != nil {
			return err
		}
		c := template.Card{Title: card.Title, When: strings.TrimSpace(k.Name + ", for " + card.When)}
		if card.When == "" {
			c.When = k.Name
		}
		for _, r := range card.Remove {
			c.Lines = append(c.Lines, template.CardLine{Head: fmt.Sprintf("Take out before serving: %s", r.Says), Says: read.List(r.Where), Warn: true})
		}
		for _, l := range card.Lines {
			c.Lines = append(c.Lines, template.CardLine{Head: l.Head, Says: l.Says, Warn: l.Level == "warn"})
		}
		for _, st := range card.Stops {
			if st.Cleared != "" {
				c.Lines = append(c.Lines, template.CardLine{Head: "The client knows", Says: st.Says + " " + st.Cleared})
			}
		}
		if !card.Ready {
			c.Lines = append(c.Lines, template.CardLine{Head: "Draft: not ready to go", Says: strings.Join(card.Missing, " "), Warn: true})
		}
		name = "Card " + card.Title
		if pdf, err = c.PDF(size); err != nil {
			return fault.New(fault.OutOfRange, "size", "%s.", read.UpperFirst(err.Error()))
		}
		return nil
	})
	return name, pdf, err
}

// Open says what must be settled before an order may leave the house; "" when nothing is.
func Open(a *journal.Acting, id int64) (string, error) {
	g, err := gathered(a.Tx, a.House, a.Now, id)
	if err != nil || len(g.placed()) == 0 {
		return "", err
	}
	card, err := g.card(a.Tx)
	if err != nil || card.Ready {
		return "", err
	}
	return card.Missing[0], nil
}
