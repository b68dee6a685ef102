package studio

import (
	"context"
	"fmt"
	"strings"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
)

// Found is something whose name holds what was looked for.
type Found struct {
	Kind string `json:"kind" enum:"commission,piece,lot,tool"`
	Name string `json:"name"`
	Says string `json:"says" doc:"where it belongs"`
	To   string `json:"to" doc:"its page in the studio"`
}

// How much is looked for, and found, at once.
const (
	mostSought = 60 // characters
	mostFound  = 12
)

// Find looks for commissions, pieces, lots and tools by name: what is open first. All
// words must be in it, in any order; nothing is found for nothing.
func (s *Service) Find(ctx context.Context, slug, text string) (out []Found, err error) {
	out = []Found{}
	words := strings.Fields(text)
	if len(words) == 0 || len([]rune(text)) > mostSought {
		return out, nil
	}
	err = s.In(ctx, slug, func(tx journal.Tx, _ *noun.Kitchen, _ time.Time) error {
		all, err := tx.Find(words, mostFound)
		for _, x := range all {
			f := Found{Kind: x.Kind, Name: x.Name, Says: x.Of}
			switch x.Kind {
			case "commission":
				f.To = fmt.Sprintf("commissions/%d", x.ID)
			case "piece":
				f.To = fmt.Sprintf("commissions/%d/pieces?piece=%d", x.Parent, x.ID)
			case "lot":
				f.To = fmt.Sprintf("pantry?lot=%d", x.ID)
			case "tool":
				f.To = fmt.Sprintf("drawer?tool=%d", x.ID)
			}
			out = append(out, f)
		}
		return err
	})
	return out, err
}
