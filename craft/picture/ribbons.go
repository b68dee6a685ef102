package picture

import (
	"fmt"
	"math"
)

func init() {
	pictures["arch on its card"] = func(n Numbers, p *pen) {
		run := n["runMM"]
		r := run / math.Pi // half a ring of that length
		p.box(Tool, -r-12, -r-12, 2*r+24, r+20, 3)
		p.path(Piece, fmt.Sprintf("M%s 0a%s %s 0 0 1 %s 0h-8a%s %s 0 0 0 %s 0z", f(-r), f(r), f(r), f(2*r), f(r-8), f(r-8), f(-2*(r-8))))
		p.size(-r, 14, r, 14, "foot to foot %")
		p.word(0, 26, counted(int(n["card.places"]), "card"))
	}
	pictures["strips for one bow at true length: two loops, tails, knot"] = func(n Numbers, p *pen) {
		b, y := n["widthMM"], 0.0
		strip := func(kind string, long float64, says string) {
			if long <= 0 {
				return
			}
			p.box(kind, 0, y, long, b, 1)
			p.size(0, y+b+5, long, y+b+5, says+" %")
			y += b + 14
		}
		strip(Piece, n["loopStripMM"], "loop")
		strip(Piece, n["loopStripMM"], "loop")
		strip(Second, n["tailStripMM"], "tail")
		strip(Second, n["tailStripMM"], "tail")
		strip(Piece, n["knotStripMM"], "knot")
	}
	pictures["loop round its dowel; dowels taken and free"] = func(n Numbers, p *pen) {
		d := n["dowel.diameterMM"]
		p.disc(Tool, d/2, d/2, d)
		p.path(Size, fmt.Sprintf("M%s %sa%s %s 0 1 1 %s 0", f(-2), f(d/2), f(d/2+2), f(d/2+2), f(d+4)))
		p.reach(-2, -2)
		p.reach(d+2, d)
		p.size(0, d+7, d, d+7, "%")
		p.places(d+20, 0, 14, int(n["dowel.places"]), 2*int(n["n"]), "dowels, two a bow")
	}
	pictures["pattern on the ribbon at true size"] = func(n Numbers, p *pen) {
		b, pitch := n["ribbonMM"], math.Max(0.5, n["texture.pitchMM"])
		l := math.Max(60, 4*b)
		p.box(Piece, 0, 0, l, b, 1)
		for i := range int(math.Min(200, l/pitch)) {
			x := pitch * (float64(i) + 0.5)
			p.line(Fold, false, [2]float64{x, 0}, [2]float64{x, b})
		}
		p.size(l+7, 0, l+7, b, "%")
		p.size(pitch/2, b+7, 1.5*pitch, b+7, "pattern %")
	}
	pictures["strip of one stack"] = func(n Numbers, p *pen) {
		l, loops := n["stackMM"], int(math.Max(1, n["loops"]))
		p.box(Piece, 0, 0, l, 20, 1)
		for i := 1; i < 2*min(loops, 30); i++ {
			x := l * float64(i) / float64(2*loops)
			p.line(Fold, false, [2]float64{x, 0}, [2]float64{x, 20})
		}
		p.size(0, 28, l, 28, fmt.Sprintf("%%, %s", counted(loops, "loop")))
	}
	pictures["strip and the rose it makes, from above"] = func(n Numbers, p *pen) {
		l, b, rose, turns := n["lengthMM"], n["ribbonMM"], n["roseMM"], math.Max(0.5, n["turns"])
		p.box(Piece, 0, 0, l, b, 1)
		p.line(Fold, false, [2]float64{0, b / 2}, [2]float64{l, b / 2})
		p.size(0, b+7, l, b+7, "%")
		x, y := rose/2, b+20+rose/2
		p.disc(Piece, x, y, rose)
		p.line(Size, false, spiral(x, y, 1, (rose/2-1)/turns, turns)...)
		p.size(0, y+rose/2+6, rose, y+rose/2+6, "rose %")
	}
	pictures["seam of two colours with its margin of 5 mm"] = func(n Numbers, p *pen) {
		b := n["ribbonMM"]
		p.box(Piece, 0, 0, 90, b/2, 0)
		kind := Piece
		if n["twoTone"] > 0 {
			kind = Second
		}
		p.box(kind, 0, b/2, 90, b/2, 0)
		p.line(Fold, false, [2]float64{0, b/2 - 5}, [2]float64{90, b/2 - 5})
		p.line(Fold, false, [2]float64{0, b/2 + 5}, [2]float64{90, b/2 + 5})
		p.size(97, b/2-5, 97, b/2+5, "%")
	}
	pictures["ring with its strips"] = func(n Numbers, p *pen) {
		d, strips, long := n["acrossMM"], int(math.Max(1, n["strips"])), n["stripMM"]
		for i := range min(strips, 24) {
			a, b := 2*math.Pi*float64(i)/float64(strips), 2*math.Pi*float64(i+1)/float64(strips)
			var at [][2]float64
			for k := range 25 {
				th := a + (b-a)*float64(k)/24
				r := d/2 + 3*math.Sin(float64(k)*math.Pi/2)
				at = append(at, [2]float64{r * math.Cos(th), r * math.Sin(th)})
			}
			p.line(Size, false, at...)
		}
		p.disc(Scrap, 0, 0, d*0.6)
		p.size(-d/2, d/2+9, d/2, d/2+9, "ring %")
		y := d/2 + 20
		p.box(Piece, -d/2, y, long, 14, 1)
		p.size(-d/2, y+21, -d/2+long, y+21, fmt.Sprintf("each of %d strips %%", strips))
	}
	pictures["roses small, medium, large beside each other"] = func(n Numbers, p *pen) {
		x := 0.0
		for k := 1; k <= 3; k++ {
			d := 14 + 5*float64(k)
			kind := Free
			if int(n["strips"]) == k {
				kind = Piece
			}
			p.disc(kind, x+d/2, 20, d)
			p.line(Size, false, spiral(x+d/2, 20, 1, (d/2-1)/float64(k+1), float64(k+1))...)
			p.size(x, 36, x+d, 36, "%")
			x += d + 18
		}
	}
	pictures["bloom in its cup, cups taken and free"] = func(n Numbers, p *pen) {
		p.cup(0, n["cup.diameterMM"])
		p.places(n["cup.diameterMM"]+20, 0, 14, int(n["cup.places"]), int(n["n"]), "cups")
	}
	pictures["bloom on its wire in the holed cup"] = func(n Numbers, p *pen) {
		d, cup, wire := n["cutter.diameterMM"], n["cup.diameterMM"], n["wire.lengthMM"]
		p.cup(0, cup)
		p.line(Size, false, [2]float64{cup / 2, cup * 0.25}, [2]float64{cup / 2, cup*0.25 + wire})
		p.size(cup+8, cup*0.25, cup+8, cup*0.25+wire, "wire %")
		p.size(0, -8, d, -8, "bloom %")
	}
	pictures["centres on their rack, cups and hooks taken and free"] = func(n Numbers, p *pen) {
		p.places(0, 0, 8, int(n["rack.places"]), int(n["n"]), "rack")
		p.places(0, 62, 14, int(n["cup.places"]), int(n["n"]), "cups")
		p.places(0, 122, 14, int(n["hook.places"]), 0, "hooks")
	}
}

// cup in section with a bloom in it.
func (p *pen) cup(x, d float64) {
	p.path(Tool, fmt.Sprintf("M%s 0a%s %s 0 0 0 %s 0", f(x), f(d/2), f(d/2), f(d)))
	p.path(Piece, fmt.Sprintf("M%s 2a%s %s 0 0 0 %s 0a%s %s 0 0 1 %s 0z", f(x+3), f(d/2-3), f(d/2-3), f(d-6), f(d/2), f(d/2-6), f(6-d)))
	p.reach(x, 0)
	p.reach(x+d, d/2)
}
