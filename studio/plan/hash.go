package plan

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
)

// hash of everything that the plan is made from, but the moment.
func (l *liner) hash() (string, error) {
	in := l.in
	in.Now = ""
	in.Windows = nil // they begin at now; the hours they come from count instead
	doc, err := json.Marshal([]any{in, l.b.Kitchen.Hours, l.b.Kitchen.Exceptions, l.b.Kitchen.Busy, l.b.Kitchen.TimeZone, l.b.Kitchen.Words, l.b.Kitchen.Units, l.leftOut, l.wrong, l.words(), l.shelf()})
	sum := sha256.Sum256(doc)
	return hex.EncodeToString(sum[:]), err
}

// shelf is what lies in the pantry of what the steps take: troubles are told by it.
func (l *liner) shelf() []any {
	var out []any
	seen := map[int64]bool{}
	for _, op := range l.order {
		d, draws := l.draws[op]
		if !draws {
			continue
		}
		for _, m := range d.w.Mixing(d.share) {
			out = append(out, m.Kind, m.Grams)
			if m.Lot != nil && !seen[m.Lot.ID] {
				seen[m.Lot.ID] = true
				out = append(out, m.Lot.ID, m.Lot.MassG, m.Lot.BestBefore)
			}
		}
	}
	return out
}

// words of the steps, in their order, with their numbers and reasons.
func (l *liner) words() []any {
	var out []any
	for _, id := range l.order {
		s := l.steps[id]
		out = append(out, s.Title, s.Figures, s.Says, s.Cautions, s.Planned.Uses)
	}
	return out
}
