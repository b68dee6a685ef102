package shelf

import (
	"fmt"
	"math"
	"slices"
	"time"

	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// RackView is a place with its trays.
type RackView struct {
	ID    int64       `json:"id" doc:"0: the kitchen"`
	Name  string      `json:"name"`
	Air   AirView     `json:"air"`
	Trays []TrayView  `json:"trays"`
	Loose []BatchView `json:"loose" doc:"on formers, or where no tray is left"`
	Says  string      `json:"says" doc:"how full it is"`
	Full  bool        `json:"full"`
	Strip []Hourly    `json:"strip" doc:"a day back and a day ahead"`
}

// Hourly is the humidity of an hour beside a rack.
type Hourly struct {
	MS       int64   `json:"ms"`
	RH       float64 `json:"rh"`
	Expected bool    `json:"expected"`
	Slow     bool    `json:"slow" doc:"over 60 %"`
}

// TrayView is one tray to scale.
type TrayView struct {
	N        int         `json:"n"`
	LengthMM float64     `json:"lengthMM"`
	WidthMM  float64     `json:"widthMM"`
	Batches  []BatchView `json:"batches"`
	Share    float64     `json:"share" doc:"how full, 0 to 1"`
	Says     string      `json:"says"`
	Together string      `json:"together" doc:"what else may lie on it"`
}

// gapMM is how far apart pieces lie, as the ways of making have it.
const gapMM = 10

// fits is how many of a piece lie on a tray, and in how many columns.
func fits(t noun.Tray, w, h float64) (n int) {
	lay := func(w, h float64) int {
		return int((t.LengthMM+gapMM)/(w+gapMM)) * int((t.WidthMM+gapMM)/(h+gapMM))
	}
	return max(1, lay(w, h), lay(h, w))
}

// mostSpots is how many pieces are drawn on a tray.
const mostSpots = 300

// laid is where so many of a piece lie on a tray, below what lies there already, turned as
// most of them fit.
func laid(t *TrayView, w, h float64, n int) (lengthMM, widthMM float64, spots []SpotView) {
	cols := func(w float64) int { return max(1, int((t.LengthMM+gapMM)/(w+gapMM))) }
	rows := func(h float64) int { return max(1, int((t.WidthMM+gapMM)/(h+gapMM))) }
	if cols(h)*rows(w) > cols(w)*rows(h) {
		w, h = h, w
	}
	y := 0.0
	for _, b := range t.Batches {
		for _, s := range b.Spots {
			y = math.Max(y, s.Y+b.WidthMM+gapMM)
		}
	}
	spots = []SpotView{}
	for i := range min(n, mostSpots) {
		spots = append(spots, SpotView{float64(i%cols(w)) * (w + gapMM), y + float64(i/cols(w))*(h+gapMM)})
	}
	return w, h, spots
}

// together says of trays with room left what of the same place may go on to them: what
// lies alike, all of it, so that another tray is free.
func together(trays []TrayView, mine []*lying, size func(*TrayView) noun.Tray) {
	alone := map[string]int{} // by batch: on how many trays
	for i := range trays {
		for _, b := range trays[i].Batches {
			alone[b.Op]++
		}
	}
	for i := range trays {
		t := &trays[i]
		if len(t.Batches) == 0 {
			continue
		}
		var may []string
		for _, l := range mine {
			b := &l.view
			on := slices.ContainsFunc(t.Batches, func(x BatchView) bool { return x.Op == b.Op })
			alike := !slices.ContainsFunc(t.Batches, func(x BatchView) bool { return x.SupportCode != b.SupportCode || x.Bagged != b.Bagged })
			if !on && alike && alone[b.Op] == 1 && t.Share+float64(b.All)/float64(fits(size(t), l.w, l.h)) <= 1+1e-9 {
				may = append(may, b.Name)
			}
		}
		if len(may) > 0 {
			t.Together = "room for " + read.List(may[:min(len(may), 3)])
		}
	}
}

// rackView puts what lies in a place on its trays: where somebody put it, else in the order
// in which it came, each batch on trays of its own.
func rackView(k *noun.Kitchen, id int64, mine []*lying, now time.Time) RackView {
	r := read.Reader{K: k}
	v := RackView{ID: id, Name: read.UpperFirst(k.RackName(id)), Air: airView(k, id, now), Trays: []TrayView{}, Loose: []BatchView{}, Strip: beside(k, id, now)}
	for _, t := range k.TraysOf(id) {
		for range t.Count {
			v.Trays = append(v.Trays, TrayView{N: len(v.Trays) + 1, LengthMM: t.LengthMM, WidthMM: t.WidthMM, Batches: []BatchView{}})
		}
	}
	size := func(t *TrayView) noun.Tray { return noun.Tray{LengthMM: t.LengthMM, WidthMM: t.WidthMM} }
	put := func(t *TrayView, l *lying, n int) {
		b := l.view
		b.Count = n
		b.LengthMM, b.WidthMM, b.Spots = laid(t, l.w, l.h, n)
		t.Batches = append(t.Batches, b)
		t.Share += float64(n) / float64(fits(size(t), l.w, l.h))
	}
	over := 0
	place := func(l *lying) {
		if s := l.d.Support; s == "cup" || s == "dowel" || s == "hook" || l.view.All == 0 {
			v.Loose = append(v.Loose, l.view)
			return
		}
		left := l.view.All
		if l.tray > 0 && l.tray <= len(v.Trays) {
			t := &v.Trays[l.tray-1]
			n := min(left, max(1, int(math.Floor((1-t.Share)*float64(fits(size(t), l.w, l.h))+1e-9))))
			put(t, l, n)
			left -= n
		}
		for i := range v.Trays {
			if t := &v.Trays[i]; left > 0 && len(t.Batches) == 0 {
				n := min(left, fits(size(t), l.w, l.h))
				put(t, l, n)
				left -= n
			}
		}
		if left > 0 {
			b := l.view
			b.Count = left
			v.Loose = append(v.Loose, b)
			over += left
		}
	}
	for _, first := range []bool{true, false} { // what was put somewhere first
		for _, l := range mine {
			if (l.tray > 0) == first {
				place(l)
			}
		}
	}
	together(v.Trays, mine, size)
	used := 0
	for i := range v.Trays {
		t := &v.Trays[i]
		t.Says = fmt.Sprintf("tray %d, empty", t.N)
		if len(t.Batches) > 0 {
			used++
			t.Says = fmt.Sprintf("tray %d, %s full", t.N, read.Trimmed(math.Min(1, t.Share)*100, 0)+" %")
		}
	}
	v.Says = fmt.Sprintf("%d of %s in use", used, read.Count(len(v.Trays), "tray"))
	if len(v.Trays) > 0 {
		v.Says += ", " + r.Length(v.Trays[0].LengthMM) + " × " + r.Length(v.Trays[0].WidthMM)
	}
	if over > 0 {
		v.Full = true
		v.Says += fmt.Sprintf("; no tray is left for %s", read.Count(over, "piece"))
	}
	return v
}
