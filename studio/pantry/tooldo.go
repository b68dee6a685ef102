package pantry

import (
	"context"
	"fmt"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/technique"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Kinds of tools that a drawer can hold, each with what it is drawn from.
func (s *Keeping) Kinds(ctx context.Context, slug string) (out []KindView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, _ time.Time) error {
		lib, err := tx.Library()
		if err != nil {
			return err
		}
		r := read.Reader{K: k}
		out = []KindView{}
		for _, o := range read.KindOptions() {
			kind := technique.Ours.Kind(o.Code)
			t := noun.BlankTool(o.Code)
			for _, m := range kind.Measures { // drawn as it usually is
				t.Measures[m.Name] = m.Default
			}
			v := KindView{Kind: o.Code, Name: work.NameOf(r, kind.Names), Group: r.Say(noun.DrawerGroup(o.Code)), Picture: pictureOf(&t, r), Ways: []string{}}
			for _, w := range lib.Makes(o.Code) {
				v.Ways = append(v.Ways, work.NameOf(r, w.Names))
			}
			out = append(out, v)
		}
		slices.SortStableFunc(out, func(a, b KindView) int {
			return groupPlace(noun.DrawerGroup(a.Kind)) - groupPlace(noun.DrawerGroup(b.Kind))
		})
		return nil
	})
	return out, err
}

// KindView is a kind of tool to choose by its picture.
type KindView struct {
	Kind    string      `json:"kind"`
	Name    string      `json:"name"`
	Group   string      `json:"group"`
	Picture ToolPicture `json:"picture"`
	Ways    []string    `json:"ways" doc:"how pieces are made with it"`
}

// Sketch draws a tool from what is typed of it so far; what cannot be read is left as
// it usually is.
func (s *Keeping) Sketch(ctx context.Context, slug, kind string, set map[string]string) (out ToolPicture, err error) {
	err = s.In(ctx, slug, func(_ journal.Tx, k *noun.Kitchen, now time.Time) error {
		if !slices.ContainsFunc(read.KindOptions(), func(o read.Option) bool { return o.Code == kind }) {
			return fault.New(fault.UnknownValue, "kind", "Choose one of: %s.", read.List(read.Says(read.KindOptions())))
		}
		r := read.Reader{K: k}
		t := noun.BlankTool(kind)
		for _, m := range technique.Ours.Kind(kind).Measures {
			if _, said := t.Measures[m.Name]; !said && m.Name != "copies" {
				t.Measures[m.Name] = m.Default
			}
		}
		fields := read.ToolFields(&t, nil)
		for name, text := range set {
			next := t
			if text == "" || read.Apply(fields, r, &next, map[string]string{name: text}, now) != nil {
				continue
			}
			t = next
		}
		out = pictureOf(&t, r)
		return nil
	})
	return out, err
}

// wantedFor lists the open pieces that are made with a tool.
func wantedFor(tool int64, cs []noun.Commission, ps []noun.Piece, r read.Reader, now time.Time) []WantedFor {
	out := []WantedFor{}
	uses := func(p *noun.Piece) bool {
		if p.ToolID != nil && *p.ToolID == tool {
			return true
		}
		for _, id := range p.Tools {
			if id == tool {
				return true
			}
		}
		return false
	}
	needed := noun.Needed(ps)
	for i := range cs {
		for j := range ps {
			p := &ps[j]
			if p.CommissionID != cs[i].ID || !uses(p) {
				continue
			}
			w := WantedFor{CommissionID: cs[i].ID, PieceID: p.ID, Says: fmt.Sprintf("%s: %s, %d", cs[i].Title, p.Name, needed[p.ID])}
			if cs[i].HandOver != nil {
				w.When = r.Date(*cs[i].HandOver, now)
			}
			out = append(out, w)
		}
	}
	return out
}

// copyDos are what can be said of one copy: how lent and broken change, and in words.
var copyDos = []struct {
	do, say, past string
	lent, broken  int
}{
	{"broke", "One copy broke", "put a broken copy of %s aside", 0, 1},
	{"mended", "One was mended", "mended one copy of %s", 0, -1},
	{"lent", "Lend one", "lent one copy of %s", 1, 0},
	{"back", "One came back", "took one copy of %s back", -1, 0},
}

// CopySays says of one copy of a tool that it broke, was mended, was lent or came
// back.
func (s *Keeping) CopySays(ctx context.Context, slug string, id int64, do string) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		t, err := journal.Get[noun.Tool](a, id)
		if err != nil {
			return err
		}
		if t.DeletedAt != nil {
			return journal.ErrNotFound
		}
		for i := range copyDos {
			d := &copyDos[i]
			if d.do != do {
				continue
			}
			if not := copyNot(&t, d.lent, d.broken); not != "" {
				return fault.New(fault.Contradiction, "copies", "%s", read.Reader{K: a.House}.Say(not))
			}
			t.Lent, t.Broken = t.Lent+d.lent, t.Broken+d.broken
			a.Say(0, d.past+": %s to work with", t.Name, read.Count(t.InUse(), "copy"))
			return a.Save(&t)
		}
		return fault.New(fault.UnknownValue, "do", "A copy broke, was mended, is lent or came back.")
	}, nil)
	return err
}

// copyNot tells why something cannot be said of a copy.
func copyNot(t *noun.Tool, lent, broken int) string {
	switch {
	case (lent > 0 || broken > 0) && t.InUse() < 1:
		return "No copy is left to say that of."
	case lent < 0 && t.Lent < 1:
		return "None is lent."
	case broken < 0 && t.Broken < 1:
		return "None is broken."
	}
	return ""
}
