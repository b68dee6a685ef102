package picture

import (
	"fmt"
	"math"
)

func init() {
	pictures["cavity from above and in section, ball of the weighed piece beside it"] = func(n Numbers, p *pen) {
		l, w, d := n["mould.lengthMM"], n["mould.widthMM"], n["mould.depthMM"]
		p.cavity(l, w, d)
		ball := ballMM(n["massG"])
		p.disc(Piece, l+14+ball/2, w/2, ball)
		if ball > 0 {
			p.size(l+14, w/2+ball/2+5, l+14+ball, w/2+ball/2+5, "ball %")
		}
	}
	pictures["mould with its deep zones shaded"] = func(n Numbers, p *pen) {
		l, w, d := n["mould.lengthMM"], n["mould.widthMM"], n["mould.depthMM"]
		p.cavity(l, w, d)
		p.box(Deep, l*0.18, w*0.3, l*0.64, w*0.4, w*0.2)
	}
	pictures["mould with small ends and deep zones marked, order of filling numbered"] = func(n Numbers, p *pen) {
		l, w, d := n["mould.lengthMM"], n["mould.widthMM"], n["mould.depthMM"]
		p.cavity(l, w, d)
		p.box(Deep, l*0.32, w*0.28, l*0.36, w*0.44, w*0.2)
		for i, x := range []float64{0.1, 0.9} {
			p.disc(Free, l*x, w/2, math.Min(l, w)*0.2)
			p.word(l*x, w/2, fmt.Sprint(i+1))
		}
		p.word(l/2, w/2, "3")
	}
	pictures["cavity with a striped piece"] = func(n Numbers, p *pen) {
		l, w := n["mould.lengthMM"], n["mould.widthMM"]
		p.box(Tool, -6, -6, l+12, w+12, 8)
		p.box(Piece, 0, 0, l, w, w*0.25)
		for i := 1; i < 8; i += 2 {
			x := l * float64(i) / 8
			p.line(Second, true, [2]float64{x, 1}, [2]float64{x + l/16, 1}, [2]float64{x + l/9, w - 1}, [2]float64{x + l/20, w - 1})
		}
		p.size(0, w+12, l, w+12, "%")
	}
	pictures["channel with its beads, rope above it"] = func(n Numbers, p *pen) {
		l, w, pitch := n["mould.lengthMM"], n["mould.widthMM"], math.Max(0.5, n["mould.pitchMM"])
		p.box(Piece, 0, 0, l, w, w/2)
		p.box(Tool, -4, w+6, l+8, w+8, 3)
		beads := int(math.Min(400, l/pitch))
		for i := range beads {
			p.disc(Deep, pitch*(float64(i)+0.5), 1.5*w+10, math.Min(pitch, w))
		}
		p.size(0, 2*w+20, l, 2*w+20, fmt.Sprintf("%%, %d beads", beads))
	}
	pictures["strings laid round the tier"] = func(n Numbers, p *pen) {
		p.round(n["runMM"], n["mould.lengthMM"], 0, 8, int(n["strings"]), "string")
	}
	pictures["strips laid round the tier with their laps"] = func(n Numbers, p *pen) {
		l, lap := n["mould.lengthMM"], n["mould.lapMM"]
		count := 0
		if l > lap {
			count = int(math.Ceil((n["cutMM"]-lap)/(l-lap) - 1e-9))
		}
		p.round(n["runMM"], l, lap, 18, count, "strip")
	}
	pictures["swag hung between two points"] = func(n Numbers, p *pen) {
		s, sag := n["spanMM"], n["sagMM"]
		var up, down [][2]float64
		for i := range 41 {
			x := s * float64(i) / 40
			y := 4 * sag * x * (s - x) / math.Max(1, s*s)
			up, down = append(up, [2]float64{x, y - 4}), append(down, [2]float64{x, y + 4})
		}
		for i := len(down) - 1; i >= 0; i-- {
			up = append(up, down[i])
		}
		p.line(Piece, true, up...)
		p.disc(Tool, 0, 0, 4)
		p.disc(Tool, s, 0, 4)
		p.size(0, -12, s, -12, "%")
		p.size(s/2, 0, s/2, sag, "sag %")
		p.d.Words = append(p.d.Words, Word{XMM: s / 2, YMM: sag + 14, Says: "% along the swag", LengthMM: n["drapeMM"], Middle: true})
		p.reach(s/2, sag+18)
	}
	pictures["outline with windows, thinnest bridge marked"] = func(n Numbers, p *pen) {
		l, w, bridge, all := n["mould.lengthMM"], n["mould.widthMM"], n["mould.bridgeMM"], int(n["mould.windows"])
		p.box(Piece, 0, 0, l, w, w*0.12)
		cols := max(1, int(math.Ceil(math.Sqrt(float64(max(1, all))*l/math.Max(1, w)))))
		rows := max(1, (max(1, all)+cols-1)/cols)
		ww, wh := (l-bridge*float64(cols+1))/float64(cols), (w-bridge*float64(rows+1))/float64(rows)
		if ww > 0 && wh > 0 {
			for i := range min(all, 200) {
				p.box(Tool, bridge+float64(i%cols)*(ww+bridge), bridge+float64(i/cols)*(wh+bridge), ww, wh, math.Min(ww, wh)*0.3)
			}
		}
		p.size(bridge+ww, w+6, 2*bridge+ww, w+6, "bridge %")
	}
	pictures["lines and loose tips, strongest place marked"] = func(n Numbers, p *pen) {
		l, w, tips := n["mould.lengthMM"], n["mould.widthMM"], int(n["mould.tips"])
		p.box(Piece, l*0.1, w*0.4, l*0.8, w*0.2, w*0.1)
		for i := range min(tips, 60) {
			x := l * (float64(i/2) + 0.5) / math.Max(1, math.Ceil(float64(tips)/2))
			y, tip := w*0.4, 0.0
			if i%2 == 1 {
				y, tip = w*0.6, w
			}
			p.line(Size, false, [2]float64{x, y}, [2]float64{x, tip})
			p.disc(Free, x, tip, 3)
		}
		p.disc(Deep, l/2, w/2, w*0.18)
		p.word(l/2, w+9, fmt.Sprintf("%d loose tips; lift it from the middle", tips))
	}
	pictures["formers, taken and free"] = func(n Numbers, p *pen) {
		p.places(0, 0, 20, int(n["former.places"]), int(n["n"]), "formers")
	}
	pictures["pieces of one batch on their trays"] = func(n Numbers, p *pen) {
		p.laid(n["lieLengthMM"], n["lieWidthMM"], n["tray.lengthMM"], n["tray.widthMM"], 10, int(n["n"]), "on one tray")
	}
	pictures["stripes after each fold"] = func(n Numbers, p *pen) {
		folds := int(math.Min(8, math.Max(1, n["folds"])))
		for k := range folds {
			y, pairs := float64(k)*16, 1<<min(k+1, 6)
			p.box(Piece, 0, y, 120, 12, 6)
			for i := range pairs {
				p.box(Second, 120*(float64(i)+0.25)/float64(pairs), y, 60/float64(pairs), 12, 0)
			}
			p.word(128, y+6, fmt.Sprint(k+1))
		}
		p.d.Words = append(p.d.Words, Word{XMM: 60, YMM: float64(folds)*16 + 5, Says: "stripes of %", LengthMM: n["stripeMM"], Middle: true})
		p.reach(60, float64(folds)*16+8)
	}
	pictures["band on the wall at true height"] = func(n Numbers, p *pen) {
		h := n["mould.heightMM"]
		p.box(Tool, 0, 0, 200, 100, 2)
		p.box(Piece, 0, 50-h/2, 200, h, 0)
		p.size(206, 50-h/2, 206, 50+h/2, "%")
	}
	pictures["one side with bands, stations and studs"] = func(n Numbers, p *pen) {
		s, pitch, m := n["sideMM"], math.Max(0.5, n["mould.pitchMM"]), int(math.Max(1, n["stations"]))
		p.box(Tool, 0, 0, s, 60, 1)
		for _, y := range []float64{14, 30, 46} {
			for i := range int(math.Min(400, s/pitch)) {
				p.disc(Piece, pitch*(float64(i)+0.5), y, pitch*0.9)
			}
		}
		for i := range min(m, 60) {
			p.disc(Second, s*(float64(i)+1)/float64(m+1), 30, pitch*2.4)
		}
		p.size(0, 68, s, 68, fmt.Sprintf("%%, %d stations", m))
	}
	pictures["corner with the overhang of its bands"] = func(n Numbers, p *pen) {
		w := n["mould.widthMM"]
		p.box(Tool, 0, 0, 60, 60, 0)
		p.box(Piece, 0, 60, 60+w, w, 0)
		p.box(Second, 60, 0, w, 60, 0)
		p.size(60, 68+w, 60+w, 68+w, "over by %")
	}
}

// ballMM is how wide a ball of so many grams of sugar paste is.
func ballMM(g float64) float64 { return 10 * math.Cbrt(6*math.Max(0, g)/(math.Pi*1.35)) }

// cavity is a mould from above, with its section below.
func (p *pen) cavity(l, w, d float64) {
	p.box(Tool, -6, -6, l+12, w+12, 8)
	p.box(Piece, 0, 0, l, w, math.Min(l, w)*0.35)
	p.size(0, -12, l, -12, "%")
	y := w + 16
	p.box(Tool, -6, y, l+12, d+6, 2)
	r := math.Min(d, l/2)
	p.path(Piece, fmt.Sprintf("M0 %sa%s %s 0 0 0 %s %sh%sa%s %s 0 0 0 %s %sz", f(y), f(r), f(r), f(r), f(r), f(l-2*r), f(r), f(r), f(r), f(-r)))
	p.reach(0, y+d)
	p.size(l+12, y, l+12, y+d, "% deep")
}

// round is what goes round a tier, unrolled: pieces of a length with their laps.
func (p *pen) round(run, each, lap, high float64, count int, what string) {
	p.line(Tool, false, [2]float64{0, high + 6}, [2]float64{run, high + 6})
	count = max(0, min(count, 120))
	for i := range count {
		x := float64(i) * (each - lap)
		kind := Piece
		if i%2 == 1 {
			kind = Second
		}
		p.box(kind, x, 0, math.Max(0, math.Min(each, run+lap-x)), high, 2)
		if i > 0 && lap > 0 {
			p.box(Fold, x, 0, lap, high, 0)
		}
	}
	p.size(0, high+14, run, high+14, fmt.Sprintf("%% round: %s", counted(count, what)))
}

func counted(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	return fmt.Sprintf("%d %ss", n, what)
}

// laid are pieces on a field, row by row, with a gap between.
func (p *pen) laid(l, w, fieldL, fieldW, gap float64, n int, where string) {
	l, w = math.Max(l, w), math.Min(l, w)
	if l <= 0 || w <= 0 {
		return
	}
	p.box(Tool, 0, 0, fieldL, fieldW, 3)
	cols, rows := int((fieldL-gap)/(l+gap)), int((fieldW-gap)/(w+gap))
	on := min(n, cols*rows, 400)
	for i := range on {
		p.box(Piece, gap+float64(i%cols)*(l+gap), gap+float64(i/cols)*(w+gap), l, w, w*0.35)
	}
	p.size(0, fieldW+7, fieldL, fieldW+7, fmt.Sprintf("%%: %d of %d %s", on, n, where))
}
