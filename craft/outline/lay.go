package outline

import "slices"

// laid is a mask at a cell.
type laid struct{ x, y, of int }

// clash is where the second mask must not lie beside the first: from its offset
// (dx, dy), which runs from -(b.w-1) and -(b.h-1).
type clash struct {
	w, h, offX, offY int
	hit              []bool
}

func (c *clash) at(dx, dy int) bool {
	x, y := dx+c.offX, dy+c.offY
	return x >= 0 && y >= 0 && x < c.w && y < c.h && c.hit[y*c.w+x]
}

// clashes finds, line by line, which offsets let two stretches meet.
func clashes(a, b *mask) *clash {
	c := &clash{w: a.w + b.w - 1, h: a.h + b.h - 1, offX: b.w - 1, offY: b.h - 1}
	c.hit = make([]bool, c.w*c.h)
	steps := make([]int, c.w+1)
	for row := range c.h {
		dy := row - c.offY
		clear(steps)
		for y := max(0, dy); y < min(a.h, dy+b.h); y++ {
			for _, s := range a.spans[y] {
				for _, t := range b.spans[y-dy] { // s meets t+dx for dx from s0-t1+1 to s1-t0-1
					steps[s[0]-t[1]+1+c.offX]++
					steps[s[1]-t[0]+c.offX]--
				}
			}
		}
		n := 0
		for x := range c.w {
			n += steps[x]
			c.hit[row*c.w+x] = n > 0
		}
	}
	return c
}

// sheet is what lies so far: of each mask the places where it can lie no more, and
// where the search for the next one stands.
type sheet struct {
	cols, lines int
	masks       []*mask
	tables      [][]*clash
	barred      [][]bool
	cursor      []int
	pieces      []laid
}

func newSheet(masks []*mask, tables [][]*clash, cols, lines int) *sheet {
	s := &sheet{cols: cols, lines: lines, masks: masks, tables: tables, cursor: make([]int, len(masks))}
	for range masks {
		s.barred = append(s.barred, make([]bool, cols*lines))
	}
	return s
}

func (s *sheet) fits(of, x, y int) bool {
	m := s.masks[of]
	return x >= 0 && y >= 0 && x+m.w <= s.cols && y+m.h <= s.lines && !s.barred[of][y*s.cols+x]
}

func (s *sheet) lay(of, x, y int) {
	s.pieces = append(s.pieces, laid{x, y, of})
	for next := range s.masks {
		c := s.tables[of][next]
		for row := range c.h {
			py := y + row - c.offY
			if py < 0 || py >= s.lines {
				continue
			}
			line := s.barred[next][py*s.cols : (py+1)*s.cols]
			for col := max(0, c.offX-x); col < min(c.w, s.cols-x+c.offX); col++ {
				if c.hit[row*c.w+col] {
					line[x+col-c.offX] = true
				}
			}
		}
	}
}

// next is the lowest place, then the leftmost, at which a mask still fits.
func (s *sheet) next(of int) (x, y int, ok bool) {
	m := s.masks[of]
	for i := s.cursor[of]; i < (s.lines-m.h+1)*s.cols; i++ {
		if x := i % s.cols; x+m.w <= s.cols && !s.barred[of][i] {
			s.cursor[of] = i
			return x, i / s.cols, true
		}
	}
	s.cursor[of] = s.lines * s.cols
	return 0, 0, false
}

// fill lays masks at the lowest place, the one that reaches least far up first.
func (s *sheet) fill(of ...int) {
	for {
		best, far := laid{of: -1}, 0
		for _, i := range of {
			if x, y, ok := s.next(i); ok && (best.of < 0 || y+s.masks[i].h < far || y+s.masks[i].h == far && x < best.x) {
				best, far = laid{x, y, i}, y+s.masks[i].h
			}
		}
		if best.of < 0 {
			return
		}
		s.lay(best.of, best.x, best.y)
	}
}

func tablesOf(masks []*mask) [][]*clash {
	tables := make([][]*clash, len(masks))
	for i, a := range masks {
		for _, b := range masks {
			tables[i] = append(tables[i], clashes(a, b))
		}
	}
	return tables
}

// nest tries each way of laying and keeps the one that lays most; most is more
// than can be.
func nest(masks []*mask, cols, lines, most int) (best []laid) {
	tables := tablesOf(masks)
	all := make([]int, len(masks))
	keep := func(s *sheet) {
		s.fill(all...)
		if len(s.pieces) > len(best) {
			best = s.pieces
		}
	}
	for i := range masks {
		all[i] = i
	}
	for i := range masks {
		s := newSheet(masks, tables, cols, lines)
		s.fill(i)
		keep(s)
		if len(best) >= most {
			return best
		}
	}
	if len(masks) > 1 {
		keep(newSheet(masks, tables, cols, lines))
		keep(pairs(masks, tables, cols, lines))
	}
	for i := range masks {
		for j := range masks {
			if r, ok := lattice(tables[i][i], tables[i][j], tables[j][i], tables[j][j], masks[i], masks[j], cols, lines); ok {
				s := newSheet(masks, tables, cols, lines)
				r.lay(s, i, j)
				keep(s)
			}
		}
	}
	return best
}

// pairs lays the two masks that fit into the least box together, box after box.
func pairs(masks []*mask, tables [][]*clash, cols, lines int) *sheet {
	type pair struct{ a, b, dx, dy, w, h int }
	best := pair{}
	for a := range masks {
		for b := a + 1; b < len(masks); b++ {
			c := tables[a][b]
			for dy := -masks[b].h; dy <= masks[a].h; dy++ {
				for dx := -masks[b].w; dx <= masks[a].w; dx++ {
					if c.at(dx, dy) {
						continue
					}
					w := max(masks[a].w, dx+masks[b].w) - min(0, dx)
					h := max(masks[a].h, dy+masks[b].h) - min(0, dy)
					if best.w == 0 || w*h < best.w*best.h {
						best = pair{a, b, dx, dy, w, h}
					}
				}
			}
		}
	}
	s := newSheet(masks, tables, cols, lines)
	for y := 0; y+best.h <= lines; y++ {
		for x := 0; x+best.w <= cols; x++ {
			ax, ay := x-min(0, best.dx), y-min(0, best.dy)
			if s.fits(best.a, ax, ay) && s.fits(best.b, ax+best.dx, ay+best.dy) {
				s.lay(best.a, ax, ay)
				s.lay(best.b, ax+best.dx, ay+best.dy)
				x += best.w - 1
			}
		}
	}
	return s
}

// grid is rows of one mask and of another in turn: pitches in the row, the shift
// of every second row, and how far the rows lie apart.
type grid struct{ a, b, shift, up, back int }

func (g grid) lay(s *sheet, even, odd int) {
	y := 0
	for row := 0; y < s.lines; row++ {
		of, x, pitch, step := even, 0, g.a, g.up
		if row%2 == 1 {
			of, pitch, step = odd, g.b, g.back
			x = g.shift % pitch
		}
		for ; x < s.cols; x += pitch {
			if s.fits(of, x, y) {
				s.lay(of, x, y)
			}
		}
		y += step
	}
}

// lattice finds the rows that lay most, by counting; what overlaps all the same is
// left out when it is laid. Both kinds of row have one pitch, the wider of the two.
func lattice(aa, ab, ba, bb *clash, a, b *mask, cols, lines int) (best grid, ok bool) {
	pitch := max(apart(aa, a.w), apart(bb, b.w))
	most := 0
	up := rowsApart(ab, pitch, a.h)
	back := rowsApart(ba, pitch, b.h)
	for shift := range pitch {
		g := grid{a: pitch, b: pitch, shift: shift, up: up[shift], back: back[(pitch-shift)%pitch]}
		n := 0
		for y, row := 0, 0; ; row++ {
			m, x, step := a, 0, g.up
			if row%2 == 1 {
				m, x, step = b, shift, g.back
			}
			if y+m.h > lines {
				break
			}
			if x+m.w <= cols {
				n += (cols-x-m.w)/pitch + 1
			}
			y += step
		}
		if n > most {
			most, best, ok = n, g, true
		}
	}
	return best, ok
}

// apart is the least pitch at which a row of one mask does not meet itself.
func apart(c *clash, w int) int {
	for p := 1; p < w; p++ {
		free := true
		for k := p; k < w && free; k += p {
			free = !c.at(k, 0)
		}
		if free {
			return p
		}
	}
	return w
}

// rowsApart is, for each shift, the least distance up at which a row of the second
// mask meets no piece of a row of the first.
func rowsApart(c *clash, pitch, h int) []int {
	out := slices.Repeat([]int{h}, pitch)
	open := slices.Repeat([]bool{true}, pitch)
	for dy := h - 1; dy > 0; dy-- { // from far above down, until they meet
		for dx := -c.offX; dx < c.w-c.offX; dx++ {
			if c.at(dx, dy) {
				open[((dx%pitch)+pitch)%pitch] = false
			}
		}
		for s := range pitch {
			if open[s] {
				out[s] = dy
			}
		}
	}
	return out
}
