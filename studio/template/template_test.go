package template

import (
	"bytes"
	"encoding/xml"
	"testing"

	"dustyfern/craft/outline"
)

// A drawing takes as many pages as its size asks for, each sharing 10 mm with the next.
func TestPagesOfADrawing(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		wide, high   float64
		across, down int
	}{{34, 26, 1, 1}, {190, 261, 1, 1}, {191, 261, 2, 1}, {300, 200, 2, 1}, {370, 512, 2, 2}, {371, 513, 3, 3}} {
		d := &Drawing{Title: "A leaf", WideMM: c.wide, HighMM: c.high, Lines: []Line{Box(0, 0, c.wide, c.high)}}
		if a, b := d.Pages(); a != c.across || b != c.down {
			t.Errorf("%.0f by %.0f mm: %d by %d pages, want %d by %d", c.wide, c.high, a, b, c.across, c.down)
		}
		raw, err := d.PDF()
		if err != nil || bytes.Count(raw, []byte("/Type /Page\n")) != c.across*c.down {
			t.Errorf("%.0f by %.0f mm: %d pages are written, %v", c.wide, c.high, bytes.Count(raw, []byte("/Type /Page\n")), err)
		}
	}
	if _, err := (&Drawing{WideMM: 5000, HighMM: 5000}).PDF(); err == nil {
		t.Error("a drawing of 5 m was put on pages")
	}
}

// A strip is printed in parts of a page's length, lapped; as the model's section 9 counts.
func TestPartsOfAStrip(t *testing.T) {
	t.Parallel()
	for long, want := range map[float64]int{100: 1, 277: 1, 278: 2, 544: 2, 597: 3, 1000: 4} {
		s := &Strip{Title: "Flags", LongMM: long, HighMM: 14, Marks: []Mark{{0, "1"}, {50, "2"}}}
		if got := s.Parts(); got != want {
			t.Errorf("%.0f mm: %d parts, want %d", long, got, want)
		}
		if raw, err := s.PDF(); err != nil || !bytes.HasPrefix(raw, []byte("%PDF-")) {
			t.Errorf("%.0f mm: %v", long, err)
		}
	}
}

// Whatever a piece is called, its drawing can be read.
func TestNamesDoNotBreakADrawing(t *testing.T) {
	t.Parallel()
	d := &Drawing{Title: `<script>"Leaf" & 'stem'</script>`, Says: "]]>", WideMM: 20, HighMM: 20, Lines: Outlines([]outline.Ring{{{0, 0}, {20, 0}, {20, 20}}}), Words: []Word{{10, 10, 4, "<&>"}}}
	var any struct {
		XMLName xml.Name
		Title   string `xml:"title"`
	}
	if err := xml.Unmarshal(d.SVG(), &any); err != nil || any.XMLName.Local != "svg" || any.Title != d.Title {
		t.Errorf("%v %q", err, any.Title)
	}
	if bytes.Contains(d.SVG(), []byte("<script")) {
		t.Error("a name is read as a part of the drawing")
	}
	if _, err := d.PDF(); err != nil {
		t.Error(err)
	}
}
