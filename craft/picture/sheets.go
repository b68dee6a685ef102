package picture

import (
	"fmt"
	"math"

	"dustyfern/craft/outline"
)

func init() {
	pictures["outlines nested on the sheet, scrap shaded"] = func(n Numbers, p *pen) {
		l, w := n["cutter.lengthMM"], n["cutter.widthMM"]
		p.sheet(n, l, w, 2, 5, func(x, y float64) { p.leaf(x, y, l, w) }, "outline")
	}
	pictures["blossoms nested on the sheet"] = func(n Numbers, p *pen) {
		d := n["cutter.diameterMM"]
		bw, bh := n["board.lengthMM"], n["board.widthMM"]
		p.box(Scrap, 0, 0, bw, bh, 4)
		out, err := outline.Circles(outline.CirclesIn{SheetWidthMM: &bw, SheetHeightMM: &bh, DiameterMM: &d, GapMM: new(2.0), EdgeMM: new(5.0), Centres: true})
		if err != nil {
			return
		}
		on := min(int(n["perSheet"]), len(out.CentresMM), 300)
		for _, c := range out.CentresMM[:on] {
			p.line(Piece, true, blossom(c[0], c[1], d, int(n["cutter.petals"]), 0.35)...)
		}
		p.size(0, bh+7, bw, bh+7, fmt.Sprintf("%%: %s of one sheet", counted(on, "blossom")))
	}
	pictures["strips on the sheet, neighbours in place"] = func(n Numbers, p *pen) {
		bw, bh, b := n["board.lengthMM"], n["board.widthMM"], n["ribbonMM"]
		p.box(Scrap, 0, 0, bw, bh, 4)
		on := int(math.Min(n["perSheet"], math.Floor(bh/math.Max(1, b))))
		for i := range max(0, on) {
			kind := Piece
			if i%2 == 1 {
				kind = Second
			}
			p.box(kind, 0, float64(i)*b, bw, b, 0)
		}
		p.size(0, bh+7, bw, bh+7, fmt.Sprintf("%%: %s at once", counted(max(0, on), "strip")))
		p.size(bw+7, 0, bw+7, b, "%")
	}
	pictures["one press"] = func(n Numbers, p *pen) {
		per := int(math.Min(60, n["cutter.perPress"]))
		for i := range per {
			p.flag(float64(i)*30, 0, 28, 32, Piece)
		}
		p.word(float64(per)*15, 42, fmt.Sprintf("%s in one press", counted(per, "flag")))
	}
	pictures["flags along the line, presses marked"] = func(n Numbers, p *pen) {
		w, h := n["cutter.widthMM"], n["cutter.heightMM"]
		round := int(math.Min(200, n["flagsRound"]))
		run := n["runMM"]
		p.line(Size, false, [2]float64{0, 0}, [2]float64{run, 0})
		for i := range round {
			kind := Piece
			if i%2 == 1 {
				kind = Second
			}
			p.flag(float64(i)*run/float64(max(1, round)), 0, w, h, kind)
		}
		p.size(0, h+10, run, h+10, fmt.Sprintf("%% round: %s", counted(round, "flag")))
		p.d.Words = append(p.d.Words, Word{XMM: run / 2, YMM: -h * 0.4, Says: "% between", LengthMM: math.Max(0, run/float64(max(1, round))-w), Middle: true})
		p.reach(run/2, -h*0.6)
	}
	pictures["pieces round the tier in their tones, hidden part dashed"] = func(n Numbers, p *pen) {
		run, w, over, shades, count := n["runMM"], n["cutter.widthMM"], n["overlapMM"], int(math.Max(1, n["shades"])), int(math.Min(200, n["pieces"]))
		h := w * 1.4
		visible := run / float64(max(1, count))
		for i := range count {
			kind := Piece
			if i%max(2, shades) != 0 {
				kind = Second
			}
			p.box(kind, float64(i)*visible, 0, math.Min(w, visible+over), h, w*0.2)
		}
		for i := 1; i < count; i++ {
			x := float64(i) * visible
			p.line(Fold, false, [2]float64{x, 0}, [2]float64{x, h})
		}
		p.size(0, h+10, run, h+10, fmt.Sprintf("%% round: %s", counted(count, "piece")))
	}
	pictures["strip with its petals, fold line a little over the middle"] = func(n Numbers, p *pen) {
		l, w, petals := n["cutter.lengthMM"], n["cutter.widthMM"], int(math.Max(1, n["cutter.petals"]))
		each := l / float64(petals)
		for i := range min(petals, 24) {
			x := float64(i) * each
			p.path(Piece, fmt.Sprintf("M%s %sv%sa%s %s 0 0 1 %s 0v%sa%s %s 0 0 1 %s 0z", f(x), f(w*0.75), f(-w*0.5), f(each/2), f(w*0.25), f(each), f(w*0.5), f(each/2), f(w*0.25), f(-each)))
			p.reach(x, 0)
			p.reach(x+each, w)
		}
		p.line(Fold, false, [2]float64{0, w * 0.45}, [2]float64{l, w * 0.45})
		p.size(0, w+8, l, w+8, fmt.Sprintf("%%, %s", counted(petals, "petal")))
		p.size(l+8, 0, l+8, w, "%")
	}
	pictures["circle, its folded quarter and the bloom, as wide as the circle"] = func(n Numbers, p *pen) {
		d, bloom, petals := n["circle.diameterMM"], n["bloomMM"], int(math.Max(1, n["petals"]))
		p.disc(Piece, d/2, d/2, d)
		p.line(Fold, false, [2]float64{0, d / 2}, [2]float64{d, d / 2})
		p.line(Fold, false, [2]float64{d / 2, 0}, [2]float64{d / 2, d})
		p.size(0, d+7, d, d+7, "%")
		x := d + 14
		p.path(Second, fmt.Sprintf("M%s %sv%sa%s %s 0 0 1 %s %sz", f(x), f(d*0.75), f(-d/2), f(d/2), f(d/2), f(d/2), f(d/2)))
		p.reach(x+d/2, d*0.75)
		x += d/2 + 14
		for i := range petals {
			th := 2 * math.Pi * float64(i) / float64(petals)
			kind := Piece
			if i%2 == 1 {
				kind = Second
			}
			r := bloom / 4
			p.disc(kind, x+bloom/2+r*math.Cos(th), d/2+r*math.Sin(th), bloom/2)
		}
		p.size(x, d+7, x+bloom, d+7, "bloom %")
	}
	pictures["square and the little flower it makes"] = func(n Numbers, p *pen) {
		s := n["square.sideMM"]
		p.box(Piece, 0, 0, s, s, 0)
		p.line(Fold, false, [2]float64{0, s / 2}, [2]float64{s, s / 2})
		p.line(Fold, false, [2]float64{s / 2, 0}, [2]float64{s / 2, s})
		p.size(0, s+7, s, s+7, "%")
		w := s / math.Sqrt2
		x := s + 14 + w/2
		p.line(Second, true, [2]float64{x, s/2 - w/2}, [2]float64{x + w/2, s / 2}, [2]float64{x, s/2 + w/2}, [2]float64{x - w/2, s / 2})
		p.size(x-w/2, s+7, x+w/2, s+7, "%")
	}
	pictures["outlines per colour at true size, inset and border dashed"] = func(n Numbers, p *pen) {
		h := n["heightMM"]
		w := n["areaMM2"] / math.Max(1, h)
		const border = 4
		p.box(Fold, -border, -border, w+2*border, h+2*border, w*0.3)
		p.box(Piece, 0, 0, w, h, w*0.28)
		colours := int(math.Min(8, math.Max(1, n["colours"])))
		for i := 1; i < colours; i++ {
			y := h * float64(i) / float64(colours)
			p.box(Second, w*0.12, y-h*0.3/float64(colours), w*0.76, h*0.6/float64(colours), w*0.1)
		}
		p.size(w+10, 0, w+10, h, "%")
		p.word(w/2, h+12, counted(colours, "colour"))
	}
	pictures["figure on the tier at true height"] = func(n Numbers, p *pen) {
		h := n["heightMM"]
		p.box(Tool, 0, -100, 200, 100, 2)
		p.box(Piece, 100-h*0.25, -h, h*0.5, h, h*0.2)
		p.size(206, -h, 206, 0, "%")
	}
	pictures["rectangle and the stick it rolls to"] = func(n Numbers, p *pen) {
		l, across, strip := n["lengthMM"], n["acrossMM"], n["stripMM"]
		p.box(Piece, 0, 0, l, strip, 1)
		p.size(0, strip+7, l, strip+7, "%")
		p.size(l+7, 0, l+7, strip, "%")
		y := strip + 22
		p.box(Second, 0, y, l, across, across*0.4)
		p.size(l+7, y, l+7, y+across, "%")
	}
}

// sheet is a board with what is cut of it, scrap between; what is drawn lies in cells of
// its own rectangle.
func (p *pen) sheet(n Numbers, l, w, gap, edge float64, one func(x, y float64), what string) {
	bw, bh := n["board.lengthMM"], n["board.widthMM"]
	p.box(Scrap, 0, 0, bw, bh, 4)
	out, err := outline.Nest(outline.NestIn{PolygonMM: [][]float64{{0, 0}, {l, 0}, {l, w}, {0, w}}, SheetWidthMM: &bw, SheetHeightMM: &bh, GapMM: &gap, EdgeMM: &edge, RotationsDeg: []float64{0}})
	on := 0
	if err == nil {
		on = min(int(n["perSheet"]), len(out.Placements), 300)
		for _, at := range out.Placements[:on] {
			one(at.XMM, at.YMM)
		}
	}
	p.size(0, bh+7, bw, bh+7, fmt.Sprintf("%%: %s of one sheet", counted(on, what)))
}

// leaf of two arcs in its rectangle.
func (p *pen) leaf(x, y, l, w float64) {
	h := w / 2
	r := (l*l/4 + h*h) / math.Max(0.1, 2*h)
	p.reach(x, y)
	p.reach(x+l, y+w)
	p.path(Piece, fmt.Sprintf("M%s %sa%s %s 0 0 1 %s 0a%s %s 0 0 1 %s 0z", f(x), f(y+h), f(r), f(r), f(l), f(r), f(r), f(-l)))
}

func (p *pen) flag(x, y, w, h float64, kind string) {
	p.line(kind, true, [2]float64{x, y}, [2]float64{x + w, y}, [2]float64{x + w/2, y + h})
}
