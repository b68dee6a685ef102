package template

import (
	"fmt"
	"slices"

	"codeberg.org/go-pdf/fpdf"
)

// Card is what goes with an order: a title, when it is for, and lines with a head.
type Card struct {
	Title, When string
	Lines       []CardLine
}

// CardLine is a head with what it says; a warning stands in a frame.
type CardLine struct {
	Head, Says string
	Warn       bool
}

// CardSizes are the sizes of a card, mm wide and high.
var CardSizes = map[string][2]float64{"a6": {105, 148}, "a4": {210, 297}}

// Letters of a card, in points: as large as fits one page, and no smaller than can be read.
var (
	largestCard  = map[string]float64{"a6": 10, "a4": 14}
	smallestCard = 4.5
)

const (
	cardMargin = 0.08 // of its width
	pointMM    = 25.4 / 72
	leading    = 1.32
)

// PDF is the card on one page of a size; what does not fit in letters that can be read is an
// error.
func (c *Card) PDF(size string) ([]byte, error) {
	page, known := CardSizes[size]
	if !known {
		return nil, fmt.Errorf("a card is a6 or a4, not %q", size)
	}
	for points := largestCard[size]; points >= smallestCard; points -= 0.25 {
		pdf := fpdf.NewCustom(&fpdf.InitType{OrientationStr: "P", UnitStr: "mm", Size: fpdf.SizeType{Wd: page[0], Ht: page[1]}})
		pdf.SetTitle(c.Title, true)
		pdf.SetAutoPageBreak(false, 0)
		pdf.AddPage()
		if c.draw(pdf, page, points) {
			return written(pdf)
		}
	}
	return nil, fmt.Errorf("it does not fit one page of %s", size)
}

// draw writes the card and tells whether it fitted.
func (c *Card) draw(pdf *fpdf.Fpdf, page [2]float64, points float64) bool {
	tr := pdf.UnicodeTranslatorFromDescriptor("")
	margin := cardMargin * page[0]
	wide := page[0] - 2*margin
	line := points * pointMM * leading
	y := margin
	text := func(style string, size, x, w float64, says string) {
		pdf.SetFont("Helvetica", style, size)
		for _, l := range pdf.SplitText(tr(says), w) {
			pdf.Text(x, y+size*pointMM, l)
			y += size * pointMM * leading
		}
	}
	text("B", points*1.5, margin, wide, c.Title)
	if c.When != "" {
		text("", points, margin, wide, c.When)
	}
	y += line * 0.3
	pdf.SetLineWidth(0.3)
	pdf.Line(margin, y, margin+wide, y)
	y += line * 0.4
	for _, l := range c.Lines {
		top := y
		inset := 0.0
		if l.Warn {
			inset = points * pointMM * 0.6
			y += inset * 0.5
		}
		text("B", points, margin+inset, wide-2*inset, l.Head)
		text("", points, margin+inset, wide-2*inset, l.Says)
		if l.Warn {
			y += inset * 0.5
			pdf.Rect(margin, top, wide, y-top, "D")
		}
		y += line * 0.35
		if y > page[1]-margin {
			return false
		}
	}
	return true
}

// Sizes are the names of the sizes of a card, sorted.
func Sizes() []string {
	var out []string
	for s := range CardSizes {
		out = append(out, s)
	}
	slices.Sort(out)
	return out
}
