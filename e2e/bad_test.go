package e2e

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
)

// fingers are how somebody works: by touch on a telephone, or by keys.
type fingers struct {
	t     testing.TB
	p     *program
	page  *rod.Page
	touch bool
}

// press a button that says so.
func (f fingers) press(words string) {
	f.t.Helper()
	el, err := f.page.Timeout(patience).ElementR("button", words)
	if err != nil {
		f.t.Fatalf("no button %q: %s", words, f.page.MustElement("main, .hands").MustText())
	}
	f.on(el.CancelTimeout())
}

func (f fingers) on(el *rod.Element) {
	f.t.Helper()
	if f.touch {
		el.MustScrollIntoView().MustTap()
		return
	}
	el.MustFocus()
	f.page.Keyboard.MustType(input.Enter)
}

// do what the step says.
func (f fingers) do() {
	f.t.Helper()
	before := f.page.MustElement(".hands").MustText()
	if f.touch {
		f.on(f.page.MustElement("button.do:not(:disabled)"))
	} else {
		f.page.MustElement("button.do:not(:disabled)")
		f.page.MustEval(`() => document.activeElement.blur()`)
		f.page.Keyboard.MustType(input.Space)
	}
	until(f.page, `(was) => document.querySelector('.hands').innerText !== was`, before)
}

// mayDo does what the step says, if there is something to do by now.
func (f fingers) mayDo() bool {
	f.t.Helper()
	before := f.page.MustElement(".hands").MustText()
	done := false
	for n := 0; n < 3 && !done; n++ { // the page may be drawn anew between the look and the touch
		done = rod.Try(func() {
			f.on(f.page.Timeout(6 * time.Second).WithPanic(func(err any) { panic(err) }).MustElement("button.do:not(:disabled)"))
		}) == nil
	}
	if !done {
		return false
	}
	until(f.page, `(was) => document.querySelector('.hands').innerText !== was`, before)
	return true
}

// broke says that one broke, and why.
func (f fingers) broke(why string) {
	f.t.Helper()
	if f.touch {
		f.press("^One broke$")
	} else {
		f.page.MustEval(`() => document.activeElement.blur()`)
		f.page.Keyboard.MustType(input.KeyX)
	}
	see(f.t, f.page, "One broke: why?")
	f.press(why)
	until(f.page, `() => !document.querySelector('[role=dialog]')`)
}

// has the words at a place, folded or not.
func (f fingers) has(at, words string) {
	f.t.Helper()
	if err := comes(f.page, `(words) => document.body.textContent.includes(words)`, words); err != nil {
		f.t.Fatalf("%s has no %q: %s", at, words, f.page.MustElement("main, .hands").MustText())
	}
}

// set a field of a page of the studio.
func (f fingers) set(path, label, text string) {
	f.t.Helper()
	f.p.to(f.page, path)
	fill(f.page, label, text)
	see(f.t, f.page, "Saved.")
}

// TestABadEvening: the paste is short, the count is cut, a mould tears, a piece breaks
// late, the room turns damp, and who eats stands at each place; by touch and by keys.
func TestABadEvening(t *testing.T) {
	t.Parallel()
	for _, touch := range []bool{true, false} {
		t.Run(map[bool]string{true: "touch", false: "keys"}[touch], func(t *testing.T) {
			t.Parallel()
			badEvening(t, touch)
		})
	}
}

func badEvening(t *testing.T, touch bool) {
	const studio = "/s/elm-bench"
	p := startAt(t, "2026-11-24T08:00:00Z")
	p.send(t, "/studios", texts{"name": "Elm Bench"})
	kitchen := struct{ Row struct{ Version int64 } }{}
	p.get(t, studio+"/kitchen", &kitchen)
	p.send(t, studio+"/kitchen", map[string]any{"version": kitchen.Row.Version, "set": texts{"hours": hoursOfADay()}})
	p.send(t, studio+"/rows/lots", map[string]any{"set": texts{"name": "White", "kind": "sugarPaste", "massG": "80 g", "labelRead": "yes"}})
	order := p.send(t, studio+"/rows/commissions", map[string]any{"set": texts{"title": "Winter wedding", "handOver": "Sun 12:00", "allergies": "nuts"}})
	tool := p.send(t, studio+"/rows/tools", map[string]any{"set": texts{"name": "Leaf", "kind": "cavityMould", "lengthMM": "60 mm", "widthMM": "30 mm", "depthMM": "4 mm", "weighedG": "4 g", "copies": "2"}})
	leaves := p.send(t, studio+"/rows/pieces", map[string]any{"parent": order, "set": texts{"name": "Leaves", "wanted": "12", "tool": fmt.Sprint(tool), "eaten": "mouthful"}})
	p.send(t, studio+"/rows/pieces", map[string]any{"parent": order, "set": texts{"name": "Buds", "wanted": "9", "tool": fmt.Sprint(tool), "eaten": "mouthful"}})
	page := p.open(t, studio+"/bench")
	if touch {
		page.MustSetViewport(390, 844, 1, true)
	}
	f := fingers{t, p, page, touch}

	// who eats, and what is short, stand at each place
	for _, at := range []string{"/bench", "/hands", "/sheet", "/commissions", fmt.Sprintf("/commissions/%d", order)} {
		p.to(page, studio+at)
		for _, words := range []string{"nuts", "White short: "} {
			f.has(at, words)
		}
	}
	// the leaves are begun: kneaded, rested, and four of them pressed
	for n := range 40 {
		var b benchNow
		p.get(t, studio+"/bench", &b)
		if b.Now == nil {
			next := time.UnixMilli(b.BeforeMS) // both rest: when the first of them has
			if len(b.Offers) > 0 {
				next = b.Offers[0].Start
			}
			p.clock(t, next.UTC().Format(time.RFC3339))
		}
		p.to(page, studio+"/hands")
		if step := page.MustElement(".step").MustText(); strings.HasPrefix(step, "Press ball 5") && strings.Contains(page.MustElement(".hands").MustText(), "· Leaves") {
			break
		} else if n == 39 {
			t.Fatalf("the leaves were never pressed: %s", step)
		}
		f.do()
	}
	see(t, page, "4 whole of 12 wanted")
	see(t, page, "Allergy: nuts")

	f.press("^A copy tore$")
	see(t, page, "1 copy to work with")

	// the count is cut: what has begun says enough
	f.set(fmt.Sprintf("%s/commissions/%d/pieces?piece=%d", studio, order, leaves), "How many", "4")
	p.to(page, studio+"/hands")
	see(t, page, "Fewer are wanted now: enough, stop here.")
	f.press("^Enough: stop here$")
	until(page, `() => !document.body.innerText.includes('enough, stop here')`)

	// one breaks late: it is said, and pressed from its own paste in the same batch
	p.to(page, studio+"/hands")
	f.broke("tore coming out")
	for _, at := range []string{"/bench", "/commissions", "/hands"} {
		p.to(page, studio+at)
		f.has(at, "Leaves: 1 short, 3 whole of 4 wanted")
	}
	f.press(`^Make \d more`)
	see(t, page, "goes on with 1 more Leaves, from the paste that lies there")
	for n := range 9 { // with its mould in one copy, whatever is next
		var b benchNow
		if p.get(t, studio+"/bench", &b); b.Now == nil || b.Now.Piece != "Leaves" || n == 8 {
			break
		}
		if !f.mayDo() { // every copy is in the freezer
			break
		}
	}
	var tallies struct {
		Tallies []struct {
			Name          string
			Made, Broken  int
			Wanted, Short int
		}
	}
	p.get(t, studio+"/bench", &tallies)
	for _, x := range tallies.Tallies {
		if x.Name == "Leaves" && (x.Short != 0 || x.Made-x.Broken < x.Wanted) {
			t.Errorf("%+v", x)
		}
	}

	// the room turns damp, and dries again
	f.set(studio+"/kitchen", "Humidity", "90 %")
	for _, at := range []string{"/bench", "/hands", "/commissions", fmt.Sprintf("/commissions/%d", order)} {
		p.to(page, studio+at)
		f.has(at, "90 % humidity is too damp")
	}
	f.set(studio+"/kitchen", "Humidity", "45 %")
	p.to(page, studio+"/bench")
	until(page, `() => !document.body.textContent.includes('too damp')`)
	if wide := page.MustEval(`() => document.documentElement.scrollWidth - innerWidth`).Int(); wide > 0 {
		t.Errorf("the bench is %d px too wide", wide)
	}
}
