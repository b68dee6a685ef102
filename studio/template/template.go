// Package template is what is printed at true size: outlines, rolled sheets and marking
// strips as SVG and as pages of PDF, each with a rule of 50 mm to check the printer by.
package template

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"math"
	"strings"

	"codeberg.org/go-pdf/fpdf"

	"dustyfern/craft/outline"
)

// Drawing is lines and words in mm, y down; 0, 0 is its upper left corner.
type Drawing struct {
	Title  string
	Says   string // one line below the title
	WideMM float64
	HighMM float64
	Lines  []Line
	Words  []Word
}

// Line joins points, and closes where it is an outline; a dashed one is not cut.
type Line struct {
	At     []outline.Point
	Closed bool
	Dashed bool
}

// Word is centred on its place, so high.
type Word struct {
	XMM, YMM, HighMM float64
	Says             string
}

// RuleMM is the length of the rule on every print.
const RuleMM = 50

// marginMM is left free by printers; lapMM of a page is on the next one as well.
const (
	marginMM = 10
	lapMM    = 10
	headMM   = 16
	pageWide = 210
	pageHigh = 297
)

func num(x float64) string {
	return strings.TrimRight(strings.TrimRight(fmt.Sprintf("%.2f", x), "0"), ".")
}

func esc(s string) string {
	var b bytes.Buffer
	_ = xml.EscapeText(&b, []byte(s)) // a buffer takes all
	return b.String()
}

// SVG is the drawing at true size, its rule below it.
func (d *Drawing) SVG() []byte {
	var b bytes.Buffer
	w, h := math.Max(d.WideMM, RuleMM)+2, d.HighMM+headMM
	fmt.Fprintf(&b, `<svg xmlns="http://www.w3.org/2000/svg" width="%smm" height="%smm" viewBox="-1 -1 %s %s" fill="none" stroke="#222" stroke-width="0.25">`+"\n<title>%s</title>\n", num(w), num(h), num(w), num(h), esc(d.Title))
	for _, l := range d.Lines {
		dash := ""
		if l.Dashed {
			dash = ` stroke-dasharray="2 1.5"`
		}
		fmt.Fprintf(&b, `<path d="%s"%s/>`+"\n", pathOf(l), dash)
	}
	for _, x := range d.Words {
		fmt.Fprintf(&b, `<text x="%s" y="%s" font-size="%s" text-anchor="middle" font-family="sans-serif" fill="#222" stroke="none">%s</text>`+"\n", num(x.XMM), num(x.YMM), num(x.HighMM), esc(x.Says))
	}
	y := d.HighMM + 6
	fmt.Fprintf(&b, `<path d="M0 %sv3m0 -1.5h%dm0 -1.5v3"/>`+"\n", num(y-1.5), RuleMM)
	fmt.Fprintf(&b, `<text x="%d" y="%s" font-size="3.5" font-family="sans-serif" fill="#222" stroke="none">50 mm. %s</text>`+"\n</svg>\n", RuleMM+3, num(y+1), esc(d.Title))
	return b.Bytes()
}

func pathOf(l Line) string {
	var b strings.Builder
	for i, p := range l.At {
		b.WriteString(map[bool]string{true: "M", false: "L"}[i == 0] + num(p[0]) + " " + num(p[1]))
	}
	if l.Closed {
		b.WriteByte('Z')
	}
	return b.String()
}

// MostPages is how many pages one drawing may take.
const MostPages = 60

// Pages is how many pages of A4 a drawing takes, across and down: each shares lapMM with
// the next.
func (d *Drawing) Pages() (across, down int) {
	one := func(long, page float64) int {
		return max(1, int(math.Ceil((long-lapMM)/(page-lapMM)-1e-9)))
	}
	return one(d.WideMM, pageWide-2*marginMM), one(d.HighMM, pageHigh-2*marginMM-headMM)
}

// PDF is the drawing at true size on pages of A4 with laps to join them by. A drawing of
// over MostPages pages gives an error.
func (d *Drawing) PDF() ([]byte, error) {
	across, down := d.Pages()
	if across*down > MostPages {
		return nil, fmt.Errorf("%d pages of A4: over %d", across*down, MostPages)
	}
	pdf := newPDF(d.Title)
	tr := pdf.UnicodeTranslatorFromDescriptor("")
	w, h := pageWide-2*marginMM, float64(pageHigh-2*marginMM-headMM)
	for row := range down {
		for col := range across {
			pdf.AddPage()
			says := d.Says
			if across*down > 1 {
				says = fmt.Sprintf("page %d of %d: row %d, column %d; the dashed lines lie on one another. %s", row*across+col+1, across*down, row+1, col+1, d.Says)
			}
			head(pdf, tr, d.Title, says)
			pdf.ClipRect(marginMM, marginMM+headMM, float64(w), h, false)
			x0, y0 := marginMM-float64(col)*(float64(w)-lapMM), marginMM+headMM-float64(row)*(h-lapMM)
			d.draw(pdf, tr, x0, y0)
			pdf.ClipEnd()
			pdf.SetDashPattern([]float64{2, 2}, 0)
			if col > 0 {
				pdf.Line(marginMM+lapMM/2, marginMM+headMM, marginMM+lapMM/2, pageHigh-marginMM)
			}
			if col < across-1 {
				pdf.Line(pageWide-marginMM-lapMM/2, marginMM+headMM, pageWide-marginMM-lapMM/2, pageHigh-marginMM)
			}
			if row > 0 {
				pdf.Line(marginMM, marginMM+headMM+lapMM/2, pageWide-marginMM, marginMM+headMM+lapMM/2)
			}
			if row < down-1 {
				pdf.Line(marginMM, pageHigh-marginMM-lapMM/2, pageWide-marginMM, pageHigh-marginMM-lapMM/2)
			}
			pdf.SetDashPattern(nil, 0)
		}
	}
	return written(pdf)
}

func newPDF(title string) *fpdf.Fpdf {
	pdf := fpdf.New("P", "mm", "A4", "")
	pdf.SetTitle(title, true)
	pdf.SetCreator("Dusty Fern", true)
	pdf.SetMargins(marginMM, marginMM, marginMM)
	pdf.SetAutoPageBreak(false, 0)
	pdf.SetLineWidth(0.2)
	pdf.SetDrawColor(34, 34, 34)
	pdf.SetTextColor(34, 34, 34)
	return pdf
}

func written(pdf *fpdf.Fpdf) ([]byte, error) {
	var b bytes.Buffer
	err := pdf.Output(&b)
	return b.Bytes(), err
}

// head is the title, what is said, and the rule.
func head(pdf *fpdf.Fpdf, tr func(string) string, title, says string) {
	pdf.SetFont("Helvetica", "B", 11)
	pdf.Text(marginMM, marginMM+4, tr(title))
	pdf.SetFont("Helvetica", "", 8)
	pdf.Text(marginMM, marginMM+13.5, tr(says))
	y := float64(marginMM + 3)
	x := float64(pageWide - marginMM - RuleMM)
	pdf.Line(x, y, x+RuleMM, y)
	pdf.Line(x, y-1.5, x, y+1.5)
	pdf.Line(x+RuleMM, y-1.5, x+RuleMM, y+1.5)
	pdf.Text(x, y+6, tr("50 mm: measure it. If it is not, print at 100 %."))
}

func (d *Drawing) draw(pdf *fpdf.Fpdf, tr func(string) string, x0, y0 float64) {
	for _, l := range d.Lines {
		if l.Dashed {
			pdf.SetDashPattern([]float64{2, 1.5}, 0)
		}
		for i, p := range l.At {
			if i == 0 {
				pdf.MoveTo(x0+p[0], y0+p[1])
			} else {
				pdf.LineTo(x0+p[0], y0+p[1])
			}
		}
		if l.Closed {
			pdf.ClosePath()
		}
		pdf.DrawPath("D")
		if l.Dashed {
			pdf.SetDashPattern(nil, 0)
		}
	}
	for _, x := range d.Words {
		pdf.SetFont("Helvetica", "", x.HighMM/25.4*72)
		says := tr(x.Says)
		pdf.Text(x0+x.XMM-pdf.GetStringWidth(says)/2, y0+x.YMM, says)
	}
}

// Outlines are lines that are cut.
func Outlines(rings []outline.Ring) (out []Line) {
	for _, r := range rings {
		out = append(out, Line{At: r, Closed: true})
	}
	return out
}

// Box is a dashed rectangle: a sheet, a board.
func Box(x, y, w, h float64) Line {
	return Line{At: []outline.Point{{x, y}, {x + w, y}, {x + w, y + h}, {x, y + h}}, Closed: true, Dashed: true}
}

// Strip is a marking strip: a length with marks along it, to cut out and hold to the tier.
type Strip struct {
	Title  string
	Says   string
	LongMM float64
	HighMM float64 // of the strip
	Marks  []Mark
}

// Mark is a place along a strip, with a word beside it.
type Mark struct {
	AtMM float64
	Says string
}

// usable length of a strip on a page that lies across (A4), as the model's section 9.
const usableMM = pageHigh - 2*marginMM

// Parts is how many parts a strip is printed in.
func (s *Strip) Parts() int {
	return max(1, int(math.Ceil((s.LongMM-lapMM)/(usableMM-lapMM)-1e-9)))
}

// Drawing is the strip in one length, as for an SVG.
func (s *Strip) Drawing() *Drawing {
	d := &Drawing{Title: s.Title, Says: s.Says, WideMM: s.LongMM, HighMM: s.HighMM}
	d.Lines = append(d.Lines, Line{At: []outline.Point{{0, 0}, {s.LongMM, 0}, {s.LongMM, s.HighMM}, {0, s.HighMM}}, Closed: true})
	for _, m := range s.Marks {
		d.Lines = append(d.Lines, Line{At: []outline.Point{{m.AtMM, 0}, {m.AtMM, s.HighMM * 0.45}}})
		if m.Says != "" {
			d.Words = append(d.Words, Word{math.Max(3, m.AtMM), s.HighMM * 0.8, math.Min(4, s.HighMM*0.3), m.Says})
		}
	}
	return d
}

// PDF is the strip in parts, one below the other on pages that lie across, each with a lap
// of 10 mm on which the next is glued. Over MostPages pages give an error.
func (s *Strip) PDF() ([]byte, error) {
	parts := s.Parts()
	whole := s.Drawing()
	rowMM := s.HighMM + 12
	perPage := max(1, int((pageWide-2*marginMM-headMM)/rowMM))
	if pages := (parts + perPage - 1) / perPage; pages > MostPages {
		return nil, fmt.Errorf("%d pages of A4: over %d", pages, MostPages)
	}
	pdf := newPDF(s.Title)
	tr := pdf.UnicodeTranslatorFromDescriptor("")
	for i := range parts {
		if i%perPage == 0 {
			pdf.AddPageFormat("L", fpdf.SizeType{Wd: pageWide, Ht: pageHigh})
			pdf.SetFont("Helvetica", "B", 11)
			pdf.Text(marginMM, marginMM+4, tr(s.Title))
			pdf.SetFont("Helvetica", "", 8)
			pdf.Text(marginMM, marginMM+9, tr(s.Says))
			x, y := float64(pageHigh-marginMM-RuleMM), float64(marginMM+3)
			pdf.Line(x, y, x+RuleMM, y)
			pdf.Line(x, y-1.5, x, y+1.5)
			pdf.Line(x+RuleMM, y-1.5, x+RuleMM, y+1.5)
			pdf.Text(x, y+6, tr("50 mm: measure it. If it is not, print at 100 %."))
		}
		y := marginMM + headMM + float64(i%perPage)*rowMM
		from := float64(i) * (usableMM - lapMM)
		long := math.Min(usableMM, s.LongMM-from)
		pdf.ClipRect(marginMM-0.2, y-0.2, long+0.4, s.HighMM+0.4, false)
		whole.draw(pdf, tr, marginMM-from, y)
		pdf.ClipEnd()
		if i < parts-1 {
			pdf.SetDashPattern([]float64{1, 1}, 0)
			pdf.Line(marginMM+long-lapMM, y, marginMM+long-lapMM, y+s.HighMM)
			pdf.Line(marginMM+long, y, marginMM+long, y+s.HighMM)
			pdf.SetDashPattern(nil, 0)
		}
		pdf.SetFont("Helvetica", "", 7)
		pdf.Text(marginMM, y+s.HighMM+4, tr(fmt.Sprintf("part %d of %d, from %s mm", i+1, parts, num(from))))
	}
	return written(pdf)
}
