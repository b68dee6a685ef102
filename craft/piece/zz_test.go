package piece
import ("testing";"dustyfern/craft/outline";"fmt")
func BenchmarkRollOut(b *testing.B) {
	ring, _ := outline.InBox("leaf", 0, 34, 26)
	w, h := 300.0, 200.0
	th := 2.0
	n := 40
	for b.Loop() {
		out, err := RollOut(RollOutIn{PolygonMM: outline.Corners(ring), BoardLongMM: &w, BoardWideMM: &h, ThicknessMM: &th, Pieces: &n})
		if err != nil { b.Fatal(err) }
		_ = out
	}
	out, err := RollOut(RollOutIn{PolygonMM: outline.Corners(ring), BoardLongMM: &w, BoardWideMM: &h, ThicknessMM: &th, Pieces: &n})
	fmt.Println(err, out.PerSheet, out.NeedG, out.LeftG, len(out.Sheets), out.EndedBy)
	for _, s := range out.Sheets { fmt.Println(s.Roll, s.LongMM, s.WideMM, s.G, len(s.Laid), s.ScrapG) }
}
