package ribbon

import "testing"

// Strips go lengthwise, the longest first; no two overlap and none leaves its sheet.
func TestStripsAreLaidInRows(t *testing.T) {
	t.Parallel()
	lengths := []float64{100, 50, 100, 50, 40, 100, 50, 40, 280}
	sheets, err := Lay(LayIn{SheetLongMM: new(300.0), SheetWideMM: new(60.0), StripWideMM: new(19.0), LengthsMM: lengths})
	if err != nil {
		t.Fatal(err)
	}
	seen := map[int]bool{}
	for _, s := range sheets {
		if s.LongMM > 300 || s.WideMM > 60 {
			t.Errorf("a sheet of %.0f by %.0f mm", s.LongMM, s.WideMM)
		}
		for i, a := range s.Strips {
			if seen[a.Of] {
				t.Errorf("strip %d is cut twice", a.Of)
			}
			seen[a.Of] = true
			if a.XMM < 3 || a.XMM+lengths[a.Of] > s.LongMM-3+1e-9 || a.YMM+19 > s.WideMM-3+1e-9 {
				t.Errorf("strip %d leaves its sheet", a.Of)
			}
			for _, b := range s.Strips[:i] {
				if a.YMM == b.YMM && a.XMM < b.XMM+lengths[b.Of]-1e-9 && b.XMM < a.XMM+lengths[a.Of]-1e-9 {
					t.Errorf("%d lies on %d", a.Of, b.Of)
				}
			}
		}
	}
	// rows of 294 mm, two of 19 mm high: 280 | 100+100+50+40 | 100+50+50+40, so two sheets
	if len(seen) != len(lengths) || len(sheets) != 2 {
		t.Errorf("%d of %d strips from %d sheets", len(seen), len(lengths), len(sheets))
	}
}

// No more lie cut at once than stay open; one longer than the board gets a sheet of its
// length.
func TestStripsInTheirTime(t *testing.T) {
	t.Parallel()
	sheets, err := Lay(LayIn{SheetLongMM: new(300.0), SheetWideMM: new(200.0), StripWideMM: new(20.0), LengthsMM: []float64{90, 90, 90, 90, 90}, Most: new(2)})
	if err != nil || len(sheets) != 3 {
		t.Fatalf("%d sheets, %v", len(sheets), err)
	}
	for _, s := range sheets {
		if len(s.Strips) > 2 {
			t.Errorf("%d at once", len(s.Strips))
		}
	}
	long, err := Lay(LayIn{SheetLongMM: new(300.0), SheetWideMM: new(200.0), StripWideMM: new(20.0), LengthsMM: []float64{660}})
	if err != nil || len(long) != 1 || long[0].LongMM != 666 {
		t.Errorf("%+v %v", long, err)
	}
	if _, err := Lay(LayIn{SheetLongMM: new(300.0), SheetWideMM: new(20.0), StripWideMM: new(20.0), LengthsMM: []float64{60}}); err == nil {
		t.Error("a strip wider than the sheet was laid")
	}
}
