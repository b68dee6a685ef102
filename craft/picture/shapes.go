package picture

import (
	"fmt"
	"math"
)

func init() {
	pictures["leaf on its former"] = func(n Numbers, p *pen) {
		d, w := n["former.diameterMM"], n["cutter.widthMM"]
		r := d / 2
		th := math.Min(math.Pi, w/math.Max(1, r)) / 2
		p.disc(Tool, 0, 0, d)
		a, b := -math.Pi/2-th, -math.Pi/2+th
		p.path(Piece, fmt.Sprintf("M%s %sA%s %s 0 0 1 %s %sL%s %sA%s %s 0 0 0 %s %sz", f(r*math.Cos(a)), f(r*math.Sin(a)), f(r), f(r), f(r*math.Cos(b)), f(r*math.Sin(b)),
			f((r+4)*math.Cos(b)), f((r+4)*math.Sin(b)), f(r+4), f(r+4), f((r+4)*math.Cos(a)), f((r+4)*math.Sin(a))))
		p.reach(0, -r-4)
		p.size(-r, r+8, r, r+8, "former %")
	}
	pictures["pebbles of the weighed size, three sizes round it"] = func(n Numbers, p *pen) {
		x := 0.0
		for i, share := range []float64{0.6, 1, 1.5} {
			d := n["ballMM"] * math.Cbrt(share)
			kind := Second
			if i == 1 {
				kind = Piece
			}
			p.box(kind, x, -d*0.7, d*1.15, d*0.7, d*0.35)
			p.size(x, 7, x+d*1.15, 7, "%")
			x += d*1.15 + 16
		}
	}
	pictures["stripes after the twist"] = func(n Numbers, p *pen) {
		const l, w = 150, 30
		p.box(Piece, 0, 0, l, w, w/2)
		s := math.Max(0.5, n["stripeMM"])
		for x := s; x < l-s; x += 2 * s {
			p.line(Second, true, [2]float64{x, 2}, [2]float64{math.Min(l, x+s), 2}, [2]float64{math.Min(l-4, x+s+8), w - 2}, [2]float64{math.Min(l-6, x+8), w - 2})
		}
		p.d.Words = append(p.d.Words, Word{XMM: l / 2, YMM: w + 9, Says: "stripes of %", LengthMM: n["stripeMM"], Middle: true})
		p.reach(l/2, w+12)
	}
	pictures["half ball in its spoon, iris ring and mask"] = func(n Numbers, p *pen) {
		d, ring := n["spoon.diameterMM"], n["cutter.diameterMM"]
		p.path(Tool, fmt.Sprintf("M-3 0a%s %s 0 0 0 %s 0h-3a%s %s 0 0 1 %s 0z", f(d/2+3), f(d/2+3), f(d+6), f(d/2), f(d/2), f(-d)))
		p.path(Piece, fmt.Sprintf("M0 0a%s %s 0 0 0 %s 0z", f(d/2), f(d/2), f(d)))
		p.reach(-3, 0)
		p.reach(d+3, d/2+3)
		p.size(0, -8, d, -8, "spoon %")
		x := d + 24
		p.disc(Piece, x+d/2, d/2-8, d)
		p.disc(Fold, x+d/2, d/2-8, math.Min(ring, d))
		p.size(x+d/2-ring/2, d, x+d/2+ring/2, d, "ring %")
		p.d.Words = append(p.d.Words, Word{XMM: d / 2, YMM: d/2 + 14, Says: fmt.Sprintf("a ball of %s g", f(n["massG"])), Middle: true})
	}
	pictures["domes on their stands, taken and free"] = func(n Numbers, p *pen) {
		p.places(0, 0, 18, int(n["stand.places"]), int(n["n"]), "stands")
	}
	pictures["tier side with its fade, spot of the cone at far and near"] = func(n Numbers, p *pen) {
		run, h := n["runMM"], n["heightMM"]
		p.box(Piece, 0, 0, run, h, 0)
		for i := range 5 {
			y := h * (0.4 + 0.12*float64(i))
			p.box(Deep, 0, y, run, h-y, 0)
		}
		for i, far := range []float64{250, 100} {
			spot := 2 * far * math.Tan(n["air.halfAngleDeg"]*math.Pi/180)
			p.disc(Free, run*(0.3+0.4*float64(i)), h*(0.35+0.4*float64(i)), spot)
		}
		p.size(0, h+9, run, h+9, "% round")
	}
	pictures["passes by height"] = func(n Numbers, p *pen) {
		y := 0.0
		for _, x := range []struct{ name, says string }{{"lightPasses", "light, all over"}, {"farPasses", "strong, from afar"}, {"nearPasses", "strong, near the foot"}} {
			passes := int(math.Min(20, n[x.name]))
			for i := range passes {
				p.box(Second, float64(i)*14, y, 10, 10, 2)
			}
			p.word(float64(passes)*14+60, y+5, x.says)
			y += 18
		}
	}
	pictures["box round the model with its margin, level of the mix"] = func(n Numbers, p *pen) {
		l, w, h, m := n["model.lengthMM"], n["model.widthMM"], n["model.heightMM"], n["marginMM"]
		p.box(Tool, 0, 0, l+2*m, w+2*m, 2)
		p.box(Piece, m, m, l, w, math.Min(l, w)*0.2)
		p.size(0, m+w/2, m, m+w/2, "%")
		p.size(m, -8, m+l, -8, "%")
		y := w + 2*m + 14
		p.box(Tool, 0, y, l+2*m, h+m+6, 1)
		p.box(Scrap, 1, y+6, l+2*m-2, h+m-1, 0)
		p.box(Piece, m, y+m+6-1, l, h, 2)
		p.size(l+2*m+8, y+6, l+2*m+8, y+6+h+m, "mix to %")
		p.word((l+2*m)/2, y+h+m+16, fmt.Sprintf("%s ml of mix", f(math.Ceil(n["neededML"]))))
	}
}
