package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
)

// TestADampRoom says in words what never sets, and what would help.
func TestADampRoom(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/kitchen")
	see(t, page, "Weekly hours")
	fill(page, "Humidity", "72")
	see(t, page, "Saved.")
	p.to(page, demoStudio+"/commissions/1/dry?piece=6")
	see(t, page, "Beetles will not set here")
	see(t, page, "What would help")
	see(t, page, "Drier air, 55 % humidity: ready after")
	see(t, page, "never in this room")
	p.to(page, demoStudio+"/line") // one line for all that the air keeps from setting
	wrong(t, page, "will not set here: at 72 % humidity it takes too long or never comes to it. The same of")
	p.to(page, demoStudio+"/commissions")
	see(t, page, "will not set here")
}

// TestWaysOutOfAnEmptyWindow are each one press to take and to take back.
func TestWaysOutOfAnEmptyWindow(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/pieces?piece=6")
	see(t, page, "Beetles: 9")
	choose(page, "It is", "eaten as a mouthful")
	clickOn(page, "a", "Paste")
	see(t, page, "Two demands leave no room between them")
	see(t, page, "fine limbs and undercuts against eaten as a mouthful")
	press(page, "^Back a thin firm face")
	see(t, page, "take it back")
	see(t, page, "balls of") // there is something to mix
	press(page, "take it back")
	until(page, `() => !document.body.innerText.includes('take it back')`)
	press(page, "^Split the piece")
	see(t, page, "Make the core of")
	press(page, "take it back")
	until(page, `() => !document.body.innerText.includes('take it back')`)
	press(page, "^Show it, lift it off")
	until(page, `() => !document.body.innerText.includes('Two demands leave no room')`)
}

// TestThePegIsDragged with a mouse, and snaps to what the server says.
func TestThePegIsDragged(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/paste?piece=4")
	see(t, page, "Toadstool caps")
	box := page.MustElement(`[role=slider]`).MustShape().Box()
	x, y := box.X+box.Width/2, box.Y+box.Height/2
	page.Mouse.MustMoveTo(x, y).MustDown(proto.InputMouseButtonLeft)
	page.Mouse.MustMoveTo(x+200, y)
	page.Mouse.MustUp(proto.InputMouseButtonLeft)
	see(t, page, "Back to the advice")
	see(t, page, "White flower paste")
	press(page, "Back to the advice")
	until(page, `() => !document.body.innerText.includes('Back to the advice')`)
}

// TestKeysCanBeSwitchedOff in Kitchen.
func TestKeysCanBeSwitchedOff(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/kitchen")
	see(t, page, "Keys of the keyboard")
	field(page, "Keys of the keyboard").MustClick()
	see(t, page, "Saved.")
	p.to(page, demoStudio+"/bench")
	see(t, page, tonight)
	first := page.MustElement("main").MustText()
	page.Keyboard.MustType(input.Space, input.KeyL)
	page.MustEval(`() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done)))`)
	if page.MustElement("main").MustText() != first || !strings.HasSuffix(page.MustInfo().URL, "/bench") {
		t.Error("a key fired all the same")
	}
}

// TestAnotherReader reads other words and units, and a dim scheme.
func TestAnotherReader(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/kitchen")
	see(t, page, "Weekly hours")
	choose(page, "Words", "American")
	see(t, page, "Places in the freezer")
	choose(page, "Scheme", "^dim$")
	until(page, `() => document.documentElement.classList.contains('dim')`)
	p.to(page, demoStudio+"/drawer")
	see(t, page, "tools, all drawn to one scale")
	until(page, `() => document.documentElement.lang === 'en-US' && document.documentElement.classList.contains('dim')`)
	p.to(page, demoStudio+"/commissions/1/paste?piece=4")
	see(t, page, "fondant")
}

// TestOddTyping loses nothing and breaks nothing.
func TestOddTyping(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/brief")
	see(t, page, "Who eats")
	for text, says := range map[string]string{strings.Repeat("cake ", 2000): "characters; 200 at most fit here", "": "This cannot be left empty"} {
		fill(page, "Commission", text)
		see(t, page, says)
		if got := field(page, "Commission").MustProperty("value").Str(); got != strings.TrimRight(text, "\n") {
			t.Errorf("what was typed is lost: %d characters of %d", len(got), len(text))
		}
	}
	fill(page, "Commission", "Farn & <b>Co</b> 🌿")
	until(page, `() => document.querySelector('h1').innerText === 'Farn & <b>Co</b> 🌿'`)
	fill(page, "Handed over", "1 November")
	see(t, page, "is over: say a date to come")
	fill(page, "Handed over", "Sun week 3pm")
	see(t, page, "Sun 6 Dec, 15:00")
	page.MustReload()
	see(t, page, "Sun 6 Dec, 15:00")
}

// TestALongList stays usable: sixty pieces, drawn and listed.
func TestALongList(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/pieces?piece=5")
	see(t, page, "Toadstool stems: 14")
	page.MustEval(`async () => { for (let i = 0; i < 24; i++) await fetch('/api` + demoStudio + `/pieces/5/duplicate', {method: 'POST'}) }`)
	page.MustReload()
	see(t, page, "Toadstool stems (copy)")
	if n := len(page.MustElements(".piece")); n != 30 {
		t.Errorf("%d pieces", n)
	}
	p.to(page, demoStudio+"/line")
	see(t, page, "batches") // the days to come are one press away, not in the first answer
	press(page, "^Later$")
	see(t, page, "From today")
	p.to(page, demoStudio+"/commissions/1/line")
	see(t, page, "batches")
	until(page, `() => document.querySelectorAll('svg .pennant').length >= 40`)
	if n := len(page.MustElements("svg .pennant")); n < 40 {
		t.Errorf("%d pennants", n)
	}
	if wide := page.MustEval(`() => document.documentElement.scrollWidth`).Int(); wide > 1280 {
		t.Errorf("the page is %d px wide", wide)
	}
	// no pennant and no word lies on another, and now and the hand-over are in sight
	covered := page.MustEval(`() => [...document.querySelectorAll('.lane svg')].flatMap((lane) => ['.pennant', '.label'].flatMap((what) => {
		const boxes = [...lane.querySelectorAll(what)].map((x) => x.getBoundingClientRect()).sort((a, b) => a.left - b.left)
		return boxes.filter((b, i) => i && b.left < boxes[i - 1].right - 1).map((b) => what + ' at ' + Math.round(b.left))
	})).join(', ')`).Str()
	if covered != "" {
		t.Errorf("covered: %s", covered)
	}
	if hidden := page.MustEval(`() => ['.lane .now', '.lane .over'].filter((x) => { const r = document.querySelector(x).getBoundingClientRect(); return r.left < 0 || r.right > innerWidth }).join(', ')`).Str(); hidden != "" {
		t.Errorf("out of sight: %s", hidden)
	}
	see(t, page, "now Wed")
	see(t, page, "hand over Sat 5 Dec, 10:00")
}

// TestThePicturesHaveTwins: each drawing says the same in words.
func TestThePicturesHaveTwins(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/paste?piece=6")
	see(t, page, "Beetles")
	if got := page.MustElement("figure table").MustProperty("textContent").Str(); !strings.Contains(got, "fine limbs and undercuts") || !strings.Contains(got, "must") {
		t.Error(got)
	}
	if got := *page.MustElement("svg.frond[aria-label*=Beetles]").MustAttribute("aria-label"); !strings.Contains(got, "Fern fronds, small: drying") {
		t.Error(got)
	}
	p.to(page, demoStudio+"/commissions/1/dry?piece=6")
	see(t, page, "8 of 10 times")
	rows := page.MustElements("figure tbody tr")
	if len(rows) != 4 {
		t.Errorf("%d stages", len(rows))
	}
	p.to(page, demoStudio+"/commissions/1/line")
	see(t, page, "Planned to go on ")
	for _, words := range []string{"of hands, ", "why not later", "Beetles", "comes next"} {
		see(t, page, words)
	}
}

// TestTakingTheirs drops one's own text where two windows met.
func TestTakingTheirs(t *testing.T) {
	t.Parallel()
	p := start(t)
	one, two := p.open(t, demoStudio+"/commissions/1/pieces?piece=6"), p.open(t, demoStudio+"/commissions/1/pieces?piece=6")
	see(t, one, "Beetles: 9")
	see(t, two, "Beetles: 9")
	typed(two, "How many", "12")
	fill(one, "How many", "10")
	see(t, one, "Beetles: 10")
	see(t, two, "Beetles: 10")
	field(two, "How many").MustBlur()
	see(t, two, "Changed meanwhile")
	press(two, "Take theirs")
	until(two, `() => !document.body.innerText.includes('Changed meanwhile')`)
	see(t, two, "Beetles: 10")
	if got := field(two, "How many").MustProperty("value").Str(); got != "10" {
		t.Error(got)
	}
	// other fields of the same old row merge without a word
	fill(one, "Colour", "soot")
	see(t, one, "Saved.")
	fill(two, "Piece", "Beetles, shiny")
	see(t, two, "Saved.")
	var x struct {
		Colour string
		Fields []struct{ Name, Text string }
	}
	p.get(t, demoStudio+"/pieces/6", &x)
	if x.Colour != "soot" || !strings.Contains(fmt.Sprint(x.Fields), "Beetles, shiny") {
		t.Errorf("%+v", x)
	}
}
