package work

import (
	"fmt"
	"slices"
	"strings"

	"dustyfern/craft/picture"
)

// Drawn is a picture to scale: outlines by what they are, and words at their places. All
// lengths are mm, y runs down.
type Drawn struct {
	Says     string       `json:"says" doc:"what it draws, and what stands in it"`
	LeftMM   float64      `json:"leftMM"`
	TopMM    float64      `json:"topMM"`
	WidthMM  float64      `json:"widthMM"`
	HeightMM float64      `json:"heightMM"`
	Shapes   []DrawnShape `json:"shapes"`
	Words    []DrawnWord  `json:"words"`
}

// DrawnShape is one outline as SVG path data.
type DrawnShape struct {
	Kind string `json:"kind" enum:"piece,second,scrap,tool,deep,fold,taken,free,size"`
	Path string `json:"path"`
}

// DrawnWord is centred on its place.
type DrawnWord struct {
	XMM  float64 `json:"xMM"`
	YMM  float64 `json:"yMM"`
	Says string  `json:"says"`
}

// pictures are those that its way of making names, drawn from the numbers of the piece
// and of its first batch.
func (b *Means) pictures(w *Reckoned) []Drawn {
	out := []Drawn{}
	for _, x := range w.Way.Pictures {
		if slices.Contains(x.From, boardName) && b.cuttingOf(w, w.Batch.Make) != nil {
			continue // the sheet is drawn as it is rolled out
		}
		if x.When != "" {
			if v, ok := b.numberOf(w, x.When); !ok || v <= 0 {
				continue
			}
		}
		n := picture.Numbers{}
		for _, name := range slices.Concat(x.From, []string{"n"}) {
			if v, ok := b.numberOf(w, name); ok {
				n[name] = v
			}
		}
		d, err := once(fmt.Sprintf("drawn|%s|%v", x.Draws, n), func() (*picture.Drawing, error) { return picture.Draw(x.Draws, n), nil })
		if err != nil || d == nil {
			continue
		}
		v := Drawn{LeftMM: d.LeftMM, TopMM: d.TopMM, WidthMM: d.WidthMM, HeightMM: d.HeightMM, Shapes: []DrawnShape{}, Words: []DrawnWord{}}
		for _, s := range d.Shapes {
			v.Shapes = append(v.Shapes, DrawnShape{s.Kind, s.Path})
		}
		said := []string{}
		for _, s := range d.Words {
			say := b.Reader.Say(strings.ReplaceAll(s.Says, "%", b.Reader.Length(s.LengthMM)))
			v.Words = append(v.Words, DrawnWord{s.XMM, s.YMM, say})
			said = append(said, say)
		}
		v.Says = b.Reader.Say(x.Draws)
		if len(said) > 0 {
			v.Says += ": " + strings.Join(said, "; ")
		}
		out = append(out, v)
	}
	return out
}

// boardName is the number of a picture that draws a board.
const boardName = "board.lengthMM"

// numberOf a piece by the name that its way of making gives it; n are the pieces of the
// first batch.
func (b *Means) numberOf(w *Reckoned, name string) (float64, bool) {
	if w.Chain != nil {
		if name == "n" && len(w.Chain.Batches) > 0 {
			return float64(w.Chain.Batches[0].Pieces), true
		}
		if x, ok := w.Chain.Names[name]; ok {
			return x, true
		}
	}
	if x, ok := w.Fore.Names[name]; ok {
		return x, true
	}
	x, ok := w.Fore.Base[name]
	return x, ok
}
