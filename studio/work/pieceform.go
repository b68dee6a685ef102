package work

import (
	"fmt"
	"slices"
	"sort"
	"strings"

	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// waysOf are the ways in which this drawer can make something, for a choice.
func (b *Means) waysOf(p *noun.Piece) []read.Option {
	var tool *noun.Tool
	if p.ToolID != nil {
		tool = b.Tools[*p.ToolID]
	}
	out := []read.Option{{Code: "", Say: "as its tool is used"}}
	if tool != nil {
		if t := b.WayOf(&noun.Piece{ToolID: p.ToolID, Dough: p.Dough, Joined: p.Joined}, tool); t != nil {
			out[0].Say = "as is usual: " + read.LowerFirst(NameOf(b.Reader, t.Names))
		}
	}
	for _, t := range b.Library.All() {
		lead := b.Library.Leading(t)
		if !t.OfPieces() && t.Key != p.Technique {
			continue
		}
		if tool != nil && (lead == nil || !lead.Takes(tool.Kind)) && t.Key != p.Technique {
			continue
		}
		out = append(out, read.Option{Code: t.Key, Say: NameOf(b.Reader, t.Names)})
	}
	return out
}

// toolChoices are the tools that a role can take, by name.
func (b *Means) toolChoices(kind func(*noun.Tool) bool, chosen int64) []read.Option {
	var all []*noun.Tool
	for _, t := range b.Tools {
		if kind(t) && t.DeletedAt == nil || t.ID == chosen {
			all = append(all, t)
		}
	}
	sort.Slice(all, func(i, j int) bool {
		return all[i].Name < all[j].Name || all[i].Name == all[j].Name && all[i].ID < all[j].ID
	})
	var out []read.Option
	for _, t := range all {
		out = append(out, read.Option{Code: fmt.Sprint(t.ID), Say: t.Name})
	}
	return out
}

// shapes tells whether some way of making is led by a tool of this kind.
func (b *Means) shapes(t *noun.Tool) bool { return len(b.Library.Makes(t.Kind)) > 0 }

// PieceViews are the fields of a piece that matter for the way in which it is made,
// in the order in which hands meet them.
func (b *Means) PieceViews(c *noun.Commission, p *noun.Piece) []read.FieldView {
	var tool *noun.Tool
	if p.ToolID != nil {
		tool = b.Tools[*p.ToolID]
	}
	way := b.WayOf(p, tool)
	out := read.Views(read.PieceFieldsOf(b.Library, way), b.Reader, p, b.Now)
	state := ""
	var lead *technique.Role
	if way != nil {
		state, _ = p.JoinState(way)
		lead = b.Library.Leading(way)
	}
	for i := range out {
		f := &out[i]
		switch {
		case f.Name == "rack":
			f.Choices = read.RackOptions(b.Kitchen)
		case f.Name == "tool":
			chosen := int64(0)
			if p.ToolID != nil {
				chosen = *p.ToolID
			}
			f.Choices = append([]read.Option{{Code: "", Say: "not chosen yet"}}, b.toolChoices(func(t *noun.Tool) bool {
				if p.Technique != "" && way != nil {
					return lead != nil && lead.Takes(t.Kind)
				}
				return b.shapes(t)
			}, chosen)...)
		case f.Name == "technique":
			f.Choices = b.waysOf(p)
			if way != nil {
				f.Hint = b.Reader.Say(way.About)
			}
		case f.Name == "joined" && way != nil:
			f.Choices = b.joinChoices(way, p.Joined)
			f.Hint = b.Reader.Say(way.Join().Says)
		case strings.HasPrefix(f.Name, "measure."):
			name := strings.TrimPrefix(f.Name, "measure.")
			_, said := p.Measures[name]
			if x, says := b.roundTier(c, name); x > 0 {
				f.Hint = says
				if !said {
					f.Text, f.Assumed = b.Reader.Length(x), true
				}
			}
		case strings.HasPrefix(f.Name, "tool.") && way != nil:
			role := strings.TrimPrefix(f.Name, "tool.")
			for _, r := range way.Tools {
				if r.Role == role {
					f.Choices = append([]read.Option{{Code: "", Say: b.unchosen(&r)}}, b.toolChoices(func(t *noun.Tool) bool { return r.Takes(t.Kind) }, p.Tools[role])...)
				}
			}
		}
	}
	if way == nil {
		return out
	}
	return slices.DeleteFunc(out, func(f read.FieldView) bool {
		if strings.HasPrefix(f.Name, "way.") {
			return true // they stand at their steps
		}
		switch f.Name {
		case "heightMM":
			return p.Stance != "upright" && p.HeightMM == nil
		case "bagged":
			return state != "P" && !p.Bagged
		case "support":
			return state != "D" && state != "S"
		case "edgeMM":
			return p.EdgeMM == nil && !slices.ContainsFunc(way.Steps, func(s technique.Step) bool { return s.Verb == "thin" })
		}
		return false
	})
}

// unchosen says what is taken for a role that nobody chose a tool for.
func (b *Means) unchosen(r *technique.Role) string {
	if t := b.OfKind(r); t != nil {
		return t.Name
	}
	return "none in the drawer: of the usual size (assumed)"
}

var stateWords = map[string]read.Option{"P": {Code: "pliable", Say: "pliable"}, "S": {Code: "semiDry", Say: "semi-dry"}, "D": {Code: "dry", Say: "dry"}, "C": {Code: "cold", Say: "cold from the freezer"}}

func (b *Means) joinChoices(way *technique.Technique, now string) []read.Option {
	j := way.Join()
	out := []read.Option{{Code: "", Say: "as is usual: " + stateWords[j.Default].Say}}
	found := now == ""
	for _, s := range j.States {
		if o, ok := stateWords[s]; ok {
			out = append(out, o)
			found = found || o.Code == now
		}
	}
	if !found { // what stands there is none of its ways: it is shown, and why it does not count
		for _, o := range stateWords {
			if o.Code == now {
				out = append(out, read.Option{Code: o.Code, Say: o.Say + " (not made this way)"})
			}
		}
	}
	for i := range out {
		out[i].Say = b.Reader.Say(out[i].Say)
	}
	return out
}
