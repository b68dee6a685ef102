package pantry

import (
	"context"
	"fmt"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Tools lists the drawer.
func (s *Keeping) Tools(ctx context.Context, slug string) (out []work.RowView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		ts, err := tx.Tools()
		out = []work.RowView{}
		for i := range ts {
			if ts[i].DeletedAt == nil {
				out = append(out, toolView(&ts[i], k, now))
			}
		}
		return err
	})
	return out, err
}

func toolView(t *noun.Tool, k *noun.Kitchen, now time.Time) work.RowView {
	r := read.Reader{k}
	v := work.RowView{ID: t.ID, Version: t.Version, Name: t.Name, Fields: read.Views(read.ToolFields, r, t, now)}
	v.Says = append(v.Says, fmt.Sprintf("%s × %s, %s deep", r.Length(t.LengthMM), r.Length(t.WidthMM), r.Length(t.DepthMM)))
	switch {
	case t.WeighedG != nil:
		v.Says = append(v.Says, "a piece weighs "+r.Mass(*t.WeighedG))
	case t.CavityML != nil:
		v.Says = append(v.Says, "holds "+read.Trimmed(*t.CavityML, 2)+" ml")
	default:
		v.Says = append(v.Says, "not weighed yet")
	}
	n := ""
	if t.Cavities > 1 {
		n = fmt.Sprintf("%d cavities, ", t.Cavities)
	}
	how := "straight out"
	if t.Chilled {
		how = "chilled"
	}
	copies := "1 copy"
	if t.Copies > 1 {
		copies = fmt.Sprintf("%d copies", t.Copies)
	}
	v.Says = append(v.Says, n+copies+", "+how)
	return v
}
