package studio_test

import (
	"errors"
	"fmt"
	"math/rand/v2"
	"strconv"
	"testing"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio"
	"dustyfern/studio/journal"
)

// An evening of chance: pieces of parts are made, break, are counted, cut and taken
// away in any order, while moulds break and the room and the clock move. Nothing but
// a sentence is ever refused, every screen can be read after every press, nothing
// is below nothing, the studio goes out and comes in whole, and all of it can be
// taken back.
func TestEveningsOfChance(t *testing.T) {
	t.Parallel()
	for _, seed := range []uint64{3, 9} {
		t.Run(fmt.Sprint(seed), func(t *testing.T) {
			t.Parallel()
			e := eveningOf(t, seed)
			for range 45 {
				e.act()
			}
			e.outAndIn()
			e.allBack()
		})
	}
}

type chance struct {
	*house
	r      *rand.Rand
	order  int64
	pieces []int64
	tools  []int64
	log    []string
	began  int // lines of the journal before the first act
}

func eveningOf(t *testing.T, seed uint64) *chance {
	h, leaf, order := stocked(t)
	frond := h.mould(set{"name": "Frond", "chilled": "yes", "copies": "2", "freezeMinutes": "8"})
	cutter := h.cutter("Plaque", "40 mm", "30 mm")
	e := &chance{house: h, r: rand.New(rand.NewPCG(seed, 9)), order: order, tools: []int64{leaf, frond, cutter}}
	e.pieces = append(e.pieces, h.piece(order, frond, set{"name": "Fronds", "wanted": "7"}), h.piece(order, leaf, set{"name": "Stems", "wanted": "6"}), h.piece(order, cutter, set{"name": "Plaques", "wanted": "5"}))
	caps, err := h.AddPart(t.Context(), h.slug, e.pieces[1], -1, studio.JoinIn{Name: "Caps", Each: "1"})
	h.ok(err)
	h.must(studio.KindPiece, caps, set{"tool": strconv.FormatInt(leaf, 10)})
	e.pieces = append(e.pieces, caps)
	e.began = e.lines()
	e.now = h.steps("knead")[0].Start
	return e
}

// lines is how many lines of the journal have not been taken back.
func (e *chance) lines() (n int) {
	e.t.Helper()
	e.ok(e.Store.Read(e.t.Context(), e.slug, func(tx journal.Tx) error {
		all, err := tx.Entries(0, 0, 10_000)
		for _, x := range all {
			if !x.Undone && x.Kind == "did" {
				n++
			}
		}
		return err
	}))
	return n
}

func (e *chance) piece() int64 { return e.pieces[e.r.IntN(len(e.pieces))] }

// act does one thing, and sees that the studio stands.
func (e *chance) act() {
	e.t.Helper()
	ctx, b := e.t.Context(), e.bench()
	var err error
	say := ""
	switch n := e.r.IntN(23); {
	case n < 9 && b.Now != nil: // hands go on
		do := ""
		say = "hands at " + b.Now.Op
		if b.Move != nil {
			do = b.Move.Do
		}
		if do == "wait" {
			do = "open"
		}
		_, err = e.Hands(ctx, e.slug, b.Now.Op, b.Now.Version, do, true)
	case n < 11 && len(b.Tallies) > 0:
		x := b.Tallies[e.r.IntN(len(b.Tallies))]
		say = "broke one of " + x.Name
		_, err = e.Broke(ctx, e.slug, x.Op, x.Version, "tore")
	case n < 12 && len(b.Tallies) > 0:
		x := b.Tallies[e.r.IntN(len(b.Tallies))]
		say = "counted " + x.Name
		_, err = e.Count(ctx, e.slug, x.Op, x.Version, 1-2*e.r.IntN(2))
	case n < 13 && len(b.Tallies) > 0:
		say = "more of " + b.Tallies[0].Name
		_, err = e.PressMore(ctx, e.slug, b.Tallies[0].PieceID, 1+e.r.IntN(3))
	case n < 15:
		id, to := e.piece(), e.r.IntN(12)
		say = fmt.Sprintf("piece %d is wanted %d times", id, to)
		err = e.set(studio.KindPiece, id, set{"wanted": strconv.Itoa(to)})
	case n < 17:
		do := []string{"broke", "mended", "lent", "back"}[e.r.IntN(4)]
		say = "a copy: " + do
		err = e.CopySays(ctx, e.slug, e.tools[e.r.IntN(len(e.tools))], do)
	case n < 18:
		say = "the room"
		e.kitchen(set{"rhPercent": fmt.Sprintf("%d %%", 40+e.r.IntN(45))})
	case n < 20 && b.Now != nil:
		say = "called off " + b.Now.Op
		if b.Away == nil {
			_, err = e.CallOff(ctx, e.slug, b.Now.Op, b.Now.Version)
		} else {
			_, err = e.GoOn(ctx, e.slug, b.Away.Op, b.Away.Version)
		}
	case n < 22:
		if next := e.steps(""); len(next) > 0 {
			x := next[e.r.IntN(len(next))]
			at := x.Start.Add(time.Duration(e.r.IntN(96)-48) * 30 * time.Minute)
			say = fmt.Sprintf("pinned %s to %s", x.Op, at)
			err = e.Pin(ctx, e.slug, x.Op, at)
		}
	case n == 22 && e.r.IntN(2) == 0:
		say = "a part is taken off"
		err = e.TakePart(ctx, e.slug, e.pieces[1], 0)
	default:
		say = "the last is taken back"
		_, err = e.back()
	}
	e.log = append(e.log, say)
	e.now = e.now.Add(time.Duration(1+e.r.IntN(40)) * time.Minute)
	e.stands(err)
}

// stands sees that an act was done or refused in a sentence, and that every screen
// can be read.
func (e *chance) stands(err error) {
	e.t.Helper()
	var f *fault.Fault
	var late *journal.Overtaken
	var met *journal.Conflict
	if err != nil && !errors.As(err, &f) && !errors.As(err, &late) && !errors.As(err, &met) && !errors.Is(err, journal.ErrNotFound) {
		e.t.Fatalf("%v\nafter %q", err, e.log)
	}
	for _, x := range e.bench().Tallies {
		if x.Made < x.Broken || x.Broken < 0 || x.Short < 0 {
			e.t.Fatalf("%+v\nafter %q", x, e.log)
		}
	}
	for _, l := range e.lots() {
		if g := e.raw(l.ID).MassG; g < 0 {
			e.t.Fatalf("%s holds %g g\nafter %q", l.Name, g, e.log)
		}
	}
	c, err := e.Commission(e.t.Context(), e.slug, e.order)
	if err != nil {
		e.t.Fatalf("%v\nafter %q", err, e.log)
	}
	for _, p := range c.Pieces {
		if _, err := e.ShowPiece(e.t.Context(), e.slug, p.ID); err != nil {
			e.t.Fatalf("%s: %v\nafter %q", p.Name, err, e.log)
		}
	}
	e.line()
}

// outAndIn sees that what has come about goes out and comes in whole.
func (e *chance) outAndIn() {
	e.t.Helper()
	e.kitchen(set{"rhPercent": "39 %"}) // so that the plan is of this minute, as that of the newcomer
	once := e.export(e.slug)
	row, err := e.Import(e.t.Context(), once)
	if err != nil {
		e.t.Fatalf("%v\nafter %q", err, e.log)
	}
	if twice := e.export(row.Slug); string(twice) != string(once) {
		e.t.Errorf("it comes in changed\nafter %q", e.log)
	}
}

// allBack takes everything back, the last first.
func (e *chance) allBack() {
	e.t.Helper()
	for range 200 {
		if e.lines() <= e.began {
			break
		}
		e.undo()
	}
	if n := e.lines(); n != e.began {
		e.t.Errorf("%d lines are left of %d\nafter %q", n, e.began, e.log)
	}
	for i, want := range []int{7, 6, 5} {
		if v := e.view(e.order, e.pieces[i]); v.Wanted != want || v.Made != "" {
			e.t.Errorf("%s: %d wanted, %q made\nafter %q", v.Name, v.Wanted, v.Made, e.log)
		}
	}
}
