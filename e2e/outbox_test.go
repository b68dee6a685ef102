package e2e

import (
	"strings"
	"sync"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
)

// TestABadChangeHoldsUpNothing: of three that were kept the first is refused; the
// others are saved, and it stays with its reason until it is let go.
func TestABadChangeHoldsUpNothing(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/pieces?piece=6")
	see(t, page, "Beetles: 9")
	p.stop(t)
	see(t, page, "The server does not answer")
	fill(page, "How many", "a lot of them")
	fill(page, "Colour", "soot")
	see(t, page, "2 changes wait in this browser to be sent.")
	p.start(t, "--now", evening, "--port", port(p))
	see(t, page, "A change that was kept could not be saved")
	until(page, `() => !document.body.innerText.includes('to be sent')`)
	var x struct {
		Colour string
		Wanted int
	}
	if p.get(t, demoStudio+"/pieces/6", &x); x.Colour != "soot" || x.Wanted != 9 {
		t.Errorf("%+v", x)
	}
	press(page, "^Try again$") // it is refused once more, and nothing is lost of it
	see(t, page, "A change that was kept could not be saved")
	press(page, "^Let it go$")
	until(page, `() => !document.body.innerText.includes('could not be saved')`)
	page.MustReload()
	see(t, page, "Beetles: 9")
	if page.MustEval(`() => document.body.innerText.includes('could not be saved')`).Bool() {
		t.Error("what was let go is back")
	}
}

// TestWhatMeansTheLastIsNotKept: taking back is for what was seen as the last. It
// is never kept for later, and one that comes late is refused.
func TestWhatMeansTheLastIsNotKept(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/hands")
	h := hand{t, p, page}
	takeFirst(t, page)
	h.space()
	see(t, page, "Take back")
	p.stop(t)
	see(t, page, "The server does not answer")
	page.Keyboard.MustType(input.Backspace)
	see(t, page, "that was not done")
	if page.MustEval(`() => document.body.innerText.includes('to be sent')`).Bool() {
		t.Error("it is kept")
	}
	p.start(t, "--now", evening, "--port", port(p))
	until(page, `() => !document.body.innerText.includes('The server does not answer. What you typed')`)
	var b struct{ LastID int }
	p.get(t, demoStudio+"/bench", &b)
	if b.LastID == 0 {
		t.Error("it was taken back")
	}
	// another window does something meanwhile: the old "last" is no longer it
	page.MustEval(`async () => { await fetch('/api` + demoStudio + `/timers', {method: 'POST', headers: {'Content-Type': 'application/json'}, body: JSON.stringify({minutes: '5', says: 'Ganache'})}) }`)
	see(t, page, "Ganache")
	if code := page.MustEval(`async id => (await fetch('/api`+demoStudio+`/bench/takeBack/' + id, {method: 'POST'})).status`, b.LastID).Int(); code != 409 {
		t.Errorf("taken back late: %d", code)
	}
}

// TestOnePressIsOneRead: a press brings the bench with its answer; at most one
// more read follows, of the line that was hung anew beside it.
func TestOnePressIsOneRead(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/hands")
	h := hand{t, p, page}
	takeFirst(t, page)
	// a plan that is still being made from the start would be heard in the midst of it
	page.MustEval(`async () => {
		for (let tries = 0; tries < 400; tries++) {
			if ((await (await fetch('/api` + demoStudio + `/line')).json()).follows) return
			await new Promise(done => setTimeout(done, 50))
		}
	}`)
	page.MustWaitRequestIdle()()
	var mu sync.Mutex
	var asked []string
	go page.EachEvent(func(e *proto.NetworkRequestWillBeSent) {
		if i := strings.Index(e.Request.URL, "/api/"); i >= 0 && !strings.Contains(e.Request.URL, "/events") {
			mu.Lock()
			asked = append(asked, e.Request.Method+" "+e.Request.URL[i:])
			mu.Unlock()
		}
	})()
	_ = proto.NetworkEnable{}.Call(page)
	h.space()
	// the plan that follows is heard by every window within a second of it: wait for that
	page.MustEval(`async () => {
		for (let tries = 0; tries < 100; tries++) {
			const seen = await fetch('/api` + demoStudio + `/bench?seen')
			if ((await seen.json()).moved !== undefined && Number(seen.headers.get('X-Told')) > 1) return
			await new Promise(done => setTimeout(done, 50))
		}
	}`)
	page.MustWaitRequestIdle()()
	mu.Lock()
	defer mu.Unlock()
	posts, reads, kitchens, others := 0, 0, 0, []string{}
	for _, a := range asked {
		switch {
		case strings.Contains(a, "?seen"):
		case strings.HasPrefix(a, "POST "):
			posts++
		case strings.HasSuffix(a, "/bench"):
			reads++
		case strings.HasSuffix(a, "/kitchen"):
			kitchens++
		default:
			others = append(others, a)
		}
	}
	if posts != 1 || reads > 1 || kitchens > 1 || len(others) > 0 {
		t.Errorf("one press asked %q", asked)
	}
}

// TestWhatWasReadBeforeAChangeIsReadAnew: the bench was read, then something changed, and only then
// came the kitchen and the stream of words; the bench is read once more all the same.
func TestWhatWasReadBeforeAChangeIsReadAnew(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, "/")
	gate := make(chan bool)
	router := page.HijackRequests()
	for _, late := range []string{"*/kitchen", "*/events"} {
		router.MustAdd(late, func(h *rod.Hijack) {
			<-gate
			h.ContinueRequest(&proto.FetchContinueRequest{})
		})
	}
	go router.Run()
	page.MustNavigate(p.url + demoStudio + "/hands")
	see(t, page, tonight)
	p.post(t, demoStudio+"/rows/pieces/1/remove") // in another window
	p.planned(t, demoStudio)
	close(gate)
	if err := comes(page, `w => { const is = document.body.innerText; return is.includes('A few minutes free') && !is.includes(w) }`, tonight); err != nil {
		t.Fatalf("it still says %s", page.MustElement(".hands").MustText())
	}
	if err := router.Stop(); err != nil {
		t.Error(err)
	}
}
