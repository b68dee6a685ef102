package bench

// person reports whether the hands of line l are free for step i at s; added is
// the clean-down that it brings there. When they are not, nothing between s and
// next is possible either (next lies before s going back, after it otherwise).
// When added is used, a place at the same line before other cleanings may be
// dearer or cheaper.
func (p *sheet) person(l, i, s int, back bool) (ok bool, next, added int) {
	t := p.t
	st := &t.steps[i]
	e := s + st.length
	line := p.lines[l]
	win := &t.windows[l/maxPeople]
	before, after := -1, -1
	beside := false
	for k := range line {
		x := &line[k]
		earlier := x.start < s || x.start == s && x.step < i
		if x.start < e && x.end > s {
			if x.attention+st.attention > 100 || x.colour >= 0 && st.colour >= 0 && x.colour != st.colour {
				return false, p.past(x, i, back, false), 0
			}
			beside = true
		}
		if x.colour < 0 {
			continue
		}
		if earlier {
			before = k
			continue
		}
		// what is cleaned before x: mine to keep unless I become what is cleaned away
		if (after >= 0 || st.colour < 0) && x.clean > 0 && s < x.start && e > x.start-x.clean {
			return false, p.past(x, i, back, true), 0
		}
		if after < 0 {
			after = k
		}
	}
	if beside && p.crowded(line, i, s, e) {
		if back {
			return false, s - 1, 0
		}
		return false, s + 1, 0
	}
	if st.colour < 0 {
		return true, 0, 0
	}
	return p.cleaned(line, i, s, [2]int{before, after}, win.from, back)
}

// cleaned reports whether the clean-downs before step i at s and before the next
// coloured entry have their time; near are the coloured entries before and after.
func (p *sheet) cleaned(line []entry, i, s int, near [2]int, opens int, back bool) (ok bool, next, added int) {
	t := p.t
	st := &t.steps[i]
	before, after, e := near[0], near[1], s+st.length
	if before >= 0 {
		c := t.wipe(line[before].colour, st.colour)
		if c > 0 {
			if y := inTheWay(line, s, c, opens, -1); y != -1 {
				return false, p.pastMine(line, i, s, c, [3]int{before, after, y}, opens, back), 0
			}
			added = c
		}
	}
	if after >= 0 && !line[after].fact {
		x := &line[after]
		c := t.wipe(st.colour, x.colour)
		if c > 0 {
			if s < x.start && e > x.start-c {
				return false, p.past(x, i, back, true), 0
			}
			if y := inTheWay(line, x.start, c, opens, i); y != -1 {
				if !back {
					return false, max(s+1, x.start), 0
				}
				if before < 0 {
					return false, opens - st.length - 1, 0
				}
				return false, min(s-1, line[before].start), 0
			}
		}
		added += c - x.clean
	}
	return true, 0, added
}

// crowded reports whether steps beside one another ask for more than one person.
func (p *sheet) crowded(line []entry, i, s, e int) bool {
	mine := p.t.steps[i].attention
	sum := func(at int) int {
		total := mine
		for k := range line {
			if line[k].start <= at && line[k].end > at {
				total += line[k].attention
			}
		}
		return total
	}
	if sum(s) > 100 {
		return true
	}
	for k := range line {
		if line[k].start > s && line[k].start < e && sum(line[k].start) > 100 {
			return true
		}
	}
	return false
}

// inTheWay is the entry that leaves no time for c minutes of cleaning before s,
// -2 when the window begins too late for it, -1 when there is none.
func inTheWay(line []entry, s, c, opens, self int) int {
	if s-c < opens {
		return -2
	}
	found := -1
	for k := range line {
		if line[k].step != self && line[k].start < s && line[k].end > s-c {
			found = k
		}
	}
	return found
}

// past is the nearest start on the far side of x.
func (p *sheet) past(x *entry, i int, back, cleaned bool) int {
	st := &p.t.steps[i]
	if back {
		c := 0
		if x.colour >= 0 && !x.fact {
			if st.colour >= 0 {
				c = p.t.wipe(st.colour, x.colour)
			} else if cleaned {
				c = x.clean
			}
			if cleaned && st.colour >= 0 {
				c = min(c, x.clean) // another may stand between: the weaker claim
			}
		}
		return x.start - c - st.length
	}
	if cleaned && x.attention+st.attention <= 100 && (st.colour < 0 || st.colour == x.colour) {
		return x.start
	}
	c := 0
	if x.colour >= 0 && st.colour >= 0 {
		c = p.t.wipe(x.colour, st.colour)
	}
	return x.end + c
}

// pastMine is the nearest start at which my own clean-down of c minutes may have
// its time; near are the coloured entries before and after, and who is in the way.
func (p *sheet) pastMine(line []entry, i, s, c int, near [3]int, opens int, back bool) int {
	st := &p.t.steps[i]
	before, after, y := near[0], near[1], near[2]
	if back {
		if y >= 0 && line[y].start > line[before].start {
			if line[y].attention+st.attention > 100 {
				return line[y].start - st.length
			}
			return line[y].start
		}
		return line[before].start - st.length
	}
	next := opens + c
	if y >= 0 {
		next = line[y].end + c
	}
	if after >= 0 {
		next = min(next, max(s+1, line[after].start))
	}
	return max(next, s+1)
}
