package e2e

import (
	"fmt"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
)

// hand is a window in which hands work.
type hand struct {
	t    testing.TB
	p    *program
	page *rod.Page
}

func (h hand) step() string { return h.page.MustElement(".step").MustText() }

// space does what the screen says and waits for the next.
func (h hand) space() {
	h.t.Helper()
	before := h.step()
	h.page.Keyboard.MustType(input.Space)
	if err := comes(h.page, `b => document.querySelector('.step')?.innerText !== b`, before); err != nil {
		h.t.Fatalf("after Space it still says %q", before)
	}
}

// at moves the clock and waits until the window has heard.
func (h hand) at(when, sees string) {
	h.t.Helper()
	h.p.clock(h.t, when)
	see(h.t, h.page, sees)
}

// comes waits for a step as the largest thing: its name also stands in lists of
// what is to come.
func (h hand) comes(step string) {
	h.t.Helper()
	if _, err := h.page.Timeout(patience).ElementR(".step", step); err != nil {
		h.t.Fatalf("%q never came; it says:\n%s", step, h.page.MustElement("body").MustText())
	}
}

// only leaves these pieces of the fernery, and none of the other orders, caps by themselves and not on their stems,
// with the line hung anew; it returns the steps of the plan by their address.
func only(t testing.TB, p *program, page *rod.Page, pieces ...int) map[string]planned {
	t.Helper()
	var begins map[string]planned
	page.MustEval(`async () => {
		await fetch('/api` + demoStudio + `/pieces/5/parts/0/off', {method: 'POST'})
		const caps = await (await fetch('/api` + demoStudio + `/pieces/4')).json()
		await fetch('/api` + demoStudio + `/rows/pieces/4', {method: 'POST', headers: {'Content-Type': 'application/json'}, body: JSON.stringify({version: caps.version, set: {wanted: '14'}})})
	}`)
	for id := 1; id <= 24; id++ { // all open pieces of the demo
		if !slices.Contains(pieces, id) {
			page.MustEval(`async id => { await fetch('/api`+demoStudio+`/rows/pieces/' + id + '/remove', {method: 'POST'}) }`, id)
		}
	}
	page.MustEval(`async () => {
		for (let tries = 0; tries < 300; tries++) {
			const line = await (await fetch('/api` + demoStudio + `/line?commission=1')).json()
			if (line.follows) return
			await new Promise(done => setTimeout(done, 100))
		}
		throw new Error('the line was not hung anew')
	}`)
	var line struct{ Rows []struct{ Steps []planned } }
	p.get(t, demoStudio+"/line?commission=1", &line)
	begins = map[string]planned{}
	for _, s := range line.Rows[0].Steps {
		begins[s.Op] = s
	}
	return begins
}

type planned struct {
	Op, Title  string
	Start, End int64
}

func (s planned) begins() string { return time.UnixMilli(s.Start).UTC().Format(time.RFC3339) }

// TestTheWholeEvening works the fernery as it is worked: hand by hand, with a
// broken piece, a slip, a reload and a restart in the middle.
func TestTheWholeEvening(t *testing.T) {
	t.Parallel()
	p := startAt(t, "2026-11-24T20:12:00Z")
	h := hand{t, p, p.open(t, demoStudio+"/hands")}
	page := h.page
	only(t, p, page, 4, 5)

	// Friday noon: a batch rests, and its timer rings
	h.at("2026-12-04T12:15:00Z", "Friday afternoon")
	h.comes("Knead 27 g for Toadstool stems")
	see(t, page, "Lay out first")
	see(t, page, "48 g of Ready half-and-half, for Toadstool caps")
	h.p.clock(t, "2026-12-04T12:21:00Z")
	h.space()
	see(t, page, "Toadstool stems: rests until ")
	h.comes("Knead 48 g for Toadstool caps")
	h.space() // kneaded before the line is hung anew for the hour
	h.at("2026-12-04T12:36:30Z", "I hear")
	if n := len(page.MustElements(".timer.ringing")); n < 1 {
		t.Errorf("%d timers ring", n)
	}
	page.MustElement(`[aria-label^="I hear: Toadstool stems: rests"]`).MustClick()
	until(page, `() => ![...document.querySelectorAll('.timer')].some(x => x.innerText.includes('It has rested'))`)
	see(t, page, "Press ball 1 of 16")
	see(t, page, "turn it out at once")
	for n := 2; n <= 5; n++ {
		h.space()
		see(t, page, fmt.Sprintf("Press ball %d of 16", n))
	}
	see(t, page, "4 whole of 14 wanted")
	page.Keyboard.MustType(input.KeyX)
	see(t, page, "One broke: why?")
	// whatever hands press is as tall as a knuckle
	if small := page.MustEval(`() => [...document.querySelectorAll('.hands .p-button, .reasons .p-button')].filter(b => b.offsetHeight < 64).map(b => b.innerText).join(', ')`).Str(); small != "" {
		t.Errorf("under 64 px: %s", small)
	}
	if n := len(page.MustElements(".reasons .p-button")); n < 5 {
		t.Errorf("%d reasons", n)
	}
	clickOn(page, "button", "tore coming out")
	see(t, page, "3 whole of 14 wanted, 1 broken")
	until(page, `() => !document.querySelector('[role=dialog]')`)
	page.Keyboard.MustType(input.Key('+'))
	see(t, page, "4 whole of 14 wanted, 1 broken")
	page.Keyboard.MustType(input.Backspace)
	see(t, page, "Taken back: counted 5 Toadstool caps, not 4.")
	see(t, page, "3 whole of 14 wanted, 1 broken")
	page.Keyboard.MustType(input.Backspace)
	see(t, page, "4 whole of 14 wanted")

	page.MustReload() // nothing of it lives in the window
	see(t, page, "Press ball 5 of 16")
	// three are pressed while the server is away, and one by the other hands
	p.stop(t)
	see(t, page, "The server does not answer")
	for n := 1; n <= 3; n++ {
		page.Keyboard.MustType(input.Space)
		see(t, page, fmt.Sprintf("%d kept, ball %d next", n, n+5))
	}
	see(t, page, "What you did is kept in this browser")
	page.MustNavigate("about:blank") // kept over a reload
	p.again(t)
	var b struct {
		Now struct {
			Op      string
			Version int
		}
	}
	p.get(t, demoStudio+"/bench", &b)
	p.post(t, fmt.Sprintf("%s/bench/%s/hands/%d?do=pressOut", demoStudio, b.Now.Op, b.Now.Version))
	page.MustNavigate(p.url + demoStudio + "/hands")
	see(t, page, "Press ball 9 of 16")
	until(page, `() => !document.body.innerText.includes('The server does not answer') && !document.body.innerText.includes('kept')`)
	for n := 10; n <= 16; n++ {
		h.space()
		see(t, page, fmt.Sprintf("Press ball %d of 16", n))
	}
	h.p.clock(t, "2026-12-04T12:59:00Z")
	h.space()
	see(t, page, "The end of the evening")
	see(t, page, "Goes on without you")
	see(t, page, "dry Toadstool caps on foam")
	see(t, page, "Toadstool caps: has a skin about ")

	// the telephone: the plan had no room for that, and says so at once
	h.at("2026-12-04T13:40:00Z", "more things to see to")
	clickOn(page, "summary", "more things to see to")
	see(t, page, "Late by ")
	see(t, page, "The line was hung anew")
	clickOn(page, "summary", "The line was hung anew")
	see(t, page, "The line before and after")
	clickOn(page, "a", "The line before and after")
	see(t, page, "This is the line before")
	press(page, "as it hung before")
	until(page, `() => !document.body.innerText.includes('This is the line before')`)

	// two hours more at the bench, and it fits again
	p.to(page, demoStudio+"/kitchen")
	see(t, page, "Dates that are not as their weekday")
	page.MustElement(`.cell[aria-label^="Friday 4 Dec"]`).MustClick()
	fill(page, "other hours", "9:00-16:00 Ines, Tobi")
	press(page, "Set them")
	page.MustElement(`.cell.own[aria-label*="16:00"]`)
	p.to(page, demoStudio+"/hands")
	see(t, page, "until 16:00")
	// and the line that is hung anew for it comes by itself
	if err := comes(page, `() => !document.body.innerText.includes('Late by')`); err != nil {
		t.Error("with two hours more it is still late")
	}
}

// TestTheFreezerRings: two copies go in, and the screen names what is ready.
func TestTheFreezerRings(t *testing.T) {
	t.Parallel()
	p := startAt(t, "2026-11-24T20:12:00Z")
	h := hand{t, p, p.open(t, demoStudio+"/hands")}
	plan := only(t, p, h.page, 1)
	begins := plan["p1.1.knead"].Start
	after := func(m float64) string { return planned{Start: begins + int64(m*60_000)}.begins() }
	p.clock(t, after(0))
	h.comes("g for Fern fronds, large")
	p.clock(t, after(6))
	h.space()
	p.clock(t, after(30))
	h.comes("Press ball 1 of")
	see(t, h.page, "then into the freezer, copy 1")
	h.space()
	see(t, h.page, "Press ball 2 of")
	see(t, h.page, "then into the freezer, copy 2")
	h.space()
	see(t, h.page, "Wait for the freezer")
	if h.page.MustElement("button.do").MustProperty("disabled").Bool() != true {
		t.Error("while every copy is in the freezer there is nothing to mark")
	}
	p.clock(t, after(40.2)) // ten minutes: what branches is frozen longer
	h.comes("Open ball 1 of")
	see(t, h.page, "Fern fronds, large: fill 1 of")
	h.space()
	see(t, h.page, "1 whole of 14 wanted")
}

// TestAPressWaitsItsTurn: the next step may be on the screen before the answer
// to the last press is; a press of it is not lost.
func TestAPressWaitsItsTurn(t *testing.T) {
	t.Parallel()
	p := startAt(t, "2026-11-24T20:12:00Z")
	h := hand{t, p, p.open(t, demoStudio+"/hands")}
	p.clock(t, only(t, p, h.page, 4)["p4.1.knead"].begins())
	h.comes("g for Toadstool caps")
	answer := make(chan struct{})
	var once sync.Once
	router := h.page.HijackRequests()
	router.MustAdd("*/hands/*", func(ctx *rod.Hijack) {
		ctx.MustLoadResponse()
		once.Do(func() { <-answer })
	})
	go router.Run()
	defer router.MustStop()
	h.page.Keyboard.MustType(input.Space)
	// the window is looked at again, and reads
	until(h.page, `() => {
		window.dispatchEvent(new Event('visibilitychange'))
		return document.querySelector('.step').innerText.includes('Press ball 1 of')
	}`)
	h.page.Keyboard.MustType(input.Space)
	close(answer)
	h.comes("Press ball 2 of")
}

// TestASecondWindowHears of a change within a second, and follows a step that
// was done elsewhere.
func TestASecondWindowHears(t *testing.T) {
	t.Parallel()
	p := start(t)
	one, two := p.open(t, demoStudio+"/bench"), p.open(t, demoStudio+"/hands")
	takeFirst(t, one)
	first := one.MustElement(".step").MustText()
	one.Keyboard.MustType(input.Space)
	see(t, two, "finished: "+first)
	two.Keyboard.MustType(input.Backspace)
	see(t, two, "Taken back: finished: "+first)
	see(t, one, tonight)
	// and so does a page of another kind
	p.to(one, demoStudio+"/commissions/1/pieces?piece=6")
	see(t, one, "Beetles: 9")
	p.to(two, demoStudio+"/commissions/1/pieces?piece=6")
	see(t, two, "Beetles: 9")
	fill(one, "How many", "12")
	see(t, two, "Beetles: 12")
}

// TestWhatIsKeptIsSentLater: typed while the server is away, kept over a
// reload, sent in order when it is back.
func TestWhatIsKeptIsSentLater(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/pieces?piece=6")
	see(t, page, "Beetles: 9")
	p.stop(t)
	see(t, page, "The server does not answer")
	fill(page, "How many", "15")
	fill(page, "Colour", "soot")
	see(t, page, "2 changes wait in this browser to be sent.")
	see(t, page, "Not sent yet: it waits in this browser.")
	p.start(t, "--now", evening, "--port", p.url[strings.LastIndex(p.url, ":")+1:])
	see(t, page, "Beetles: 15")
	until(page, `() => !document.body.innerText.includes('in this browser')`)
	var j struct {
		Entries []struct{ Says string }
	}
	p.get(t, demoStudio+"/journal?commission=1", &j)
	if !strings.Contains(j.Entries[0].Says, "colour from near black to soot") || !strings.Contains(j.Entries[1].Says, "how many from 9 to 15") {
		t.Errorf("%+v", j.Entries[:2])
	}
}

// TestUndoByKey takes the last change back and does it again.
func TestUndoByKey(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/pieces?piece=6")
	see(t, page, "Beetles: 9")
	fill(page, "How many", "20")
	see(t, page, "Beetles: 20")
	page.MustEval(`() => document.activeElement.blur()`)
	page.KeyActions().Press(input.ControlLeft).Type(input.KeyZ).MustDo()
	see(t, page, "Beetles: 9")
	page.KeyActions().Press(input.ControlLeft, input.ShiftLeft).Type(input.KeyZ).MustDo()
	see(t, page, "Beetles: 20")
	clickOn(page, "a", "^Journal$")
	see(t, page, "did again: changed Beetles: how many from 9 to 20")
	page.MustElement(`[aria-label="Take back: changed Beetles: how many from 9 to 20"]`).MustClick()
	see(t, page, "(taken back)")
	p.to(page, demoStudio+"/journal")
	see(t, page, "put White flower paste into the pantry")
}
