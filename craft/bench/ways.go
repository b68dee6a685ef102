package bench

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"sync"

	"dustyfern/craft/fault"
)

// Relaxation is a change of an instance that makes a late plan less late. Late is
// what remains, Saves what it brings, both in minutes.
type Relaxation struct {
	Say        []string `json:"say"`
	Changes    []Change `json:"changes"`
	Late       int      `json:"late"`
	Saves      int      `json:"saves"`
	Sufficient bool     `json:"sufficient"`
}

// Change names what is changed: Kind is copy, people, window, room, confidence,
// freshness or pin, ID the resource, window, room option, batch or step it is about.
type Change struct {
	Kind string `json:"kind"`
	ID   string `json:"id,omitempty"`
	say  string
}

// WaysOut is the answer of the topic plan.ways.
type WaysOut struct {
	Relaxations []Relaxation `json:"relaxations"`
}

// mostWays are the relaxations that are told.
const mostWays = 6

// Ways looks for the smallest changes that make a late plan fit: single ones, and
// pairs of the best five when none is enough. None for a plan that fits.
func Ways(in BuildIn) (WaysOut, error) { return WaysWithin(context.Background(), in) }

// WaysWithin is Ways while ctx lasts: the changes tried until then.
func WaysWithin(ctx context.Context, in BuildIn) (WaysOut, error) {
	out := WaysOut{Relaxations: []Relaxation{}}
	stop := func() bool { return ctx.Err() != nil }
	t, r, err := readRequest(in, "usual", stop, stop)
	if err != nil {
		return out, err
	}
	r.brief = true
	p, err := t.lateness(r)
	if err != nil && !isNoPlace(err) {
		return out, err
	}
	if err == nil && p.value[late] == 0 {
		return out, nil
	}
	base := 0
	var full *sheet
	if err == nil {
		base, full = p.value[late], p.best
	}
	w := &waysOut{in: in.Instance, r: r, base: base, none: err != nil, stop: stop}
	found := w.try(singles(t, full))
	if !slices.ContainsFunc(found, func(x Relaxation) bool { return x.Sufficient }) {
		var pairs [][]Change
		for a := range min(5, len(found)) {
			for b := range a {
				pairs = append(pairs, append(slices.Clone(found[b].Changes), found[a].Changes...))
			}
		}
		found = append(w.try(pairs), found...)
		sortWays(found)
	}
	out.Relaxations = append(out.Relaxations, found[:min(mostWays, len(found))]...)
	return out, nil
}

func isNoPlace(err error) bool {
	var f *fault.Fault
	return errors.As(err, &f) && (f.Code == NoPlace || f.Code == WindowTooShort)
}

// lateness is a search that only asks how late a plan must be.
func (t *task) lateness(r request) (*search, error) {
	n := len(t.steps)
	if r.effort < 0 {
		r.effort = min(effortFor(n), 40000)
	}
	return t.plan(r)
}

type waysOut struct {
	in   *Instance
	r    request
	base int
	none bool
	stop func() bool
}

// try plans anew for each list of changes, two at a time; those that help, the best first.
func (w *waysOut) try(changes [][]Change) []Relaxation {
	found := make([]*Relaxation, len(changes))
	var wait sync.WaitGroup
	next := make(chan int)
	for range 2 {
		wait.Go(func() {
			for k := range next {
				if !w.stop() {
					found[k] = w.one(changes[k])
				}
			}
		})
	}
	for k := range changes {
		next <- k
	}
	close(next)
	wait.Wait()
	var out []Relaxation
	for _, x := range found {
		if x != nil {
			out = append(out, *x)
		}
	}
	sortWays(out)
	return out
}

func sortWays(list []Relaxation) {
	slices.SortStableFunc(list, func(a, b Relaxation) int {
		return cmp.Or(cmp.Compare(a.Late, b.Late), cmp.Compare(len(a.Changes), len(b.Changes)))
	})
}

func (w *waysOut) one(changes []Change) *Relaxation {
	in := w.in
	x := Relaxation{Changes: changes}
	for _, c := range changes {
		in = in.With(c)
		x.Say = append(x.Say, c.say)
	}
	t, err := translate(in)
	if err != nil {
		return nil
	}
	s, err := t.lateness(w.r)
	if err != nil || !w.none && s.value[late] >= w.base {
		return nil
	}
	x.Late, x.Sufficient = s.value[late], s.value[late] == 0
	if !w.none {
		x.Saves = w.base - x.Late
	}
	return &x
}

// singles are the single changes worth a try.
func singles(t *task, p *sheet) (out [][]Change) {
	add := func(kind, id, format string, args ...any) {
		out = append(out, []Change{{kind, id, fmt.Sprintf(format, args...)}})
	}
	inRounds := map[string]bool{}
	for _, b := range t.in.Batches {
		for _, o := range b.Ops {
			for _, u := range o.Uses {
				inRounds[u.Resource] = inRounds[u.Resource] || o.Cycle != nil
			}
		}
	}
	for r, res := range t.resources {
		if p == nil || p.taken[r].peak() >= res.Capacity || inRounds[res.ID] && res.Kind == "mould" {
			add("copy", res.ID, "one more of %s", res.ID)
		}
	}
	if slices.ContainsFunc(t.windows, func(w window) bool { return w.people < maxPeople }) {
		add("people", "", "one more pair of hands")
	}
	for _, w := range t.in.ExtraWindows {
		say := w.Label
		if say == "" {
			say = "the window " + w.ID
		}
		add("window", w.ID, "%s", say)
	}
	for _, o := range t.in.RoomOptions {
		add("room", o.ID, "%s", o.Label)
	}
	if c := t.in.Confidence; c == nil || *c > 0.5 {
		add("confidence", "", "dry it just as long as it usually takes: it may still be soft half of the time")
	}
	for k, b := range t.in.Batches {
		if t.batches[k].fresh != noTime {
			add("freshness", b.ID, "%s a day older", b.ID)
		}
		for _, o := range b.Ops {
			if o.Pinned != "" && o.Actual == nil {
				add("pin", o.ID, "let %s go", o.ID)
			}
		}
	}
	return out
}

// With is a copy of the instance in which one thing is changed.
func (in *Instance) With(c Change) *Instance {
	out := *in
	switch c.Kind {
	case "copy":
		out.addCopy(c.ID)
	case "people":
		out.Windows = slices.Clone(in.Windows)
		for k := range out.Windows {
			n := 1
			if in.People != nil {
				n = *in.People
			}
			if p := out.Windows[k].People; p != nil {
				n = *p
			}
			n = min(n+1, maxPeople)
			out.Windows[k].People = &n
		}
	case "window":
		if k := slices.IndexFunc(in.ExtraWindows, func(w Window) bool { return w.ID == c.ID }); k >= 0 {
			out.Windows = append(slices.Clone(in.Windows), in.ExtraWindows[k])
			out.ExtraWindows = slices.Delete(slices.Clone(in.ExtraWindows), k, k+1)
		}
	case "room":
		if k := slices.IndexFunc(in.RoomOptions, func(o RoomOption) bool { return o.ID == c.ID }); k >= 0 {
			out.eachOp(func(_ *Batch, o *Op) {
				if d := o.Dry; d != nil {
					f := in.RoomOptions[k].DryFactor
					d2 := Drying{max(1, int(float64(d.P50)*f+0.999999)), max(1, int(float64(d.P90)*f+0.999999))}
					o.Dry = &d2
				}
			})
		}
	case "confidence":
		half := 0.5
		out.Confidence = &half
	case "freshness":
		out.Batches = slices.Clone(in.Batches)
		for k := range out.Batches {
			if b := &out.Batches[k]; b.ID == c.ID && b.FreshMinutes != nil {
				m := *b.FreshMinutes + aDay
				b.FreshMinutes = &m
			}
		}
	case "pin":
		out.eachOp(func(_ *Batch, o *Op) {
			if o.ID == c.ID {
				o.Pinned = ""
			}
		})
	}
	return &out
}

// eachOp changes the steps of a copy, which may be changed freely.
func (in *Instance) eachOp(change func(*Batch, *Op)) {
	in.Batches = slices.Clone(in.Batches)
	for k := range in.Batches {
		b := &in.Batches[k]
		b.Ops = slices.Clone(b.Ops)
		for j := range b.Ops {
			change(b, &b.Ops[j])
		}
	}
}

// addCopy gives a resource one copy more; rounds of moulds that use it then go on
// with it, and with one more place in the freezer that they use.
func (in *Instance) addCopy(id string) {
	in.Resources = slices.Clone(in.Resources)
	for k := range in.Resources {
		if in.Resources[k].ID == id {
			in.Resources[k].Capacity++
		}
	}
	k := slices.IndexFunc(in.Resources, func(r Resource) bool { return r.ID == id })
	if k < 0 || in.Resources[k].Kind != "mould" {
		return
	}
	freezers := map[string]bool{}
	in.eachOp(func(_ *Batch, o *Op) {
		j := slices.IndexFunc(o.Uses, func(u Use) bool { return u.Resource == id })
		if o.Cycle == nil || o.Actual != nil || j < 0 || o.Uses[j].Count != o.Cycle.Copies {
			return
		}
		c := *o.Cycle
		c.Copies++
		o.Cycle = &c
		o.Uses = slices.Clone(o.Uses)
		for u := range o.Uses {
			if o.Uses[u].Resource == id || o.Uses[u].Count == c.Copies-1 {
				o.Uses[u].Count++
				if o.Uses[u].Resource != id {
					freezers[o.Uses[u].Resource] = true
				}
			}
		}
	})
	for k := range in.Resources {
		if freezers[in.Resources[k].ID] {
			in.Resources[k].Capacity++
		}
	}
}
