package work

import "dustyfern/studio/noun"

// PhotoView is the photo of a tool with what is marked on it.
type PhotoView struct {
	ID    int64       `json:"id"`
	Tool  string      `json:"tool"`
	Marks []noun.Spot `json:"marks"`
	Says  []string    `json:"says" doc:"what hands do about the marks"`
}

// PhotoOf a tool; nil when it has none.
func (b *Means) PhotoOf(t *noun.Tool) *PhotoView {
	if t.Photo == nil {
		return nil
	}
	v := &PhotoView{ID: *t.Photo, Tool: t.Name, Marks: noun.Some(t.Marks), Says: []string{}}
	seen := map[string]bool{}
	for _, m := range t.Marks {
		seen[m.What] = true
	}
	if seen[noun.DeepZone] {
		v.Says = append(v.Says, b.Reader.Say("Deep zones first: a pinch of paste pushed right down, then the rest."))
	}
	if seen[noun.SmallEnd] {
		v.Says = append(v.Says, b.Reader.Say("Small ends tear: free them first, and never pull by them."))
	}
	return v
}
