package e2e

import (
	"encoding/json"
	"fmt"
	"io"
	"strings"
	"testing"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
)

// field finds the input under a label.
func field(page *rod.Page, label string) *rod.Element {
	return page.MustElementByJS(`l => [...document.querySelectorAll('label')].filter(x => x.textContent.trim().startsWith(l)).map(x => document.getElementById(x.htmlFor)).find(Boolean) ?? null`, label)
}

// fill types into the field under a label and leaves it.
func fill(page *rod.Page, label, text string) {
	el := field(page, label)
	el.MustFocus().MustSelectAllText()
	page.MustInsertText(text)
	el.MustBlur()
}

// typed types into the field under a label and stays in it.
func typed(page *rod.Page, label, text string) {
	field(page, label).MustFocus().MustSelectAllText()
	page.MustInsertText(text)
}

func press(page *rod.Page, words string) { clickOn(page, "button", words) }

// choose opens the list under a label and picks.
// more picks what is done to a whole order, behind the control of its row.
func more(page *rod.Page, title, item string) {
	page.MustElement(fmt.Sprintf(`[aria-label="More for %s"]`, title)).MustClick()
	clickOn(page, ".p-menu-item-link", item)
}

// takeFirst has the first step of the evening in hand.
func takeFirst(t testing.TB, page *rod.Page) {
	t.Helper()
	see(t, page, tonight)
	see(t, page, "Next for your hands")
}

func choose(page *rod.Page, label, option string) {
	box := page.MustElementByJS(`l => { const x = [...document.querySelectorAll('label')].find(x => x.textContent.trim().startsWith(l)); return x ? document.querySelector('[aria-labelledby="' + x.id + '"]') : null }`, label)
	box.MustClick()
	page.MustElementR(`[role=option]`, option).MustWaitStable().MustClick()
	until(page, `() => !document.querySelector('[role=listbox]')`)
}

// TestTheWalk takes an order in an empty studio from brief to bench sheet, as
// somebody would who has never seen it.
func TestTheWalk(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, "/")
	see(t, page, "Hollow Lane Sugar Room")
	field(page, "A studio of your own").MustInput("Elm Bench")
	press(page, "Open it")
	see(t, page, "What do you want to make?")
	clickOn(page, "a", "Look at the kitchen first")
	see(t, page, "Every number in Dusty Fern")
	for _, day := range []string{"Tuesday", "Thursday"} {
		page.MustElement(`.plus[aria-label$="` + day + `"]`).MustClick()
		fill(page, "from", "19:00")
		fill(page, "to", "22:00")
		press(page, "Set it")
		page.MustElement(`[data-day=` + day + `] .stretch`)
	}
	fill(page, "Humidity", "48 %")
	clickOn(page, "summary", "Your own spoons")
	fill(page, "My level teaspoons", "CMC 3 g")
	until(page, `() => [...document.querySelectorAll('.field')].filter(f => f.innerText.includes('Saved.')).length === 2`)
	const studio = "/s/elm-bench"

	p.to(page, studio+"/commissions")
	see(t, page, "No orders yet")
	press(page, "Take an order")
	see(t, page, "Write it down")
	fill(page, "Commission", "Winter wedding")
	fill(page, "Handed over", "someday soon")
	press(page, "Write it down")
	see(t, page, "Write a date such as")
	if got := field(page, "Handed over").MustProperty("value").Str(); got != "someday soon" {
		t.Errorf("what was typed is lost: %q", got)
	}
	fill(page, "Handed over", "Sat week, 10:00")
	press(page, "Write it down")
	see(t, page, "Only a name") // no pieces yet: the first is asked
	see(t, page, "Sat 5 Dec, 10:00")

	p.to(page, studio+"/drawer")
	see(t, page, "No tool yet")
	press(page, "Add a tool")
	see(t, page, "What kind is it?")
	clickOn(page, "button.kind", "^mould with a cavity$")
	see(t, page, "Finest detail")
	fill(page, "Tool", "Ivy leaf")
	for label, text := range map[string]string{"Length": "60", "Width": "1 1/2 in", "Depth": "4 mm"} {
		fill(page, label, text)
	}
	page.MustElements("form button[type=submit]").First().MustClick()
	see(t, page, "60 mm × 38 mm, 4 mm deep")

	p.to(page, studio+"/pantry")
	for _, lot := range [][2]string{{"White", "sugar paste"}, {"Stiff", "flower paste"}} {
		press(page, "Add a lot")
		see(t, page, "Best before")
		fill(page, "Lot", lot[0])
		choose(page, "It is", "^"+lot[1]+"$")
		fill(page, "Left", "1 lb")
		page.MustElements("form button[type=submit]").First().MustClick()
		see(t, page, "What did its pieces show")
		clickOn(page, "button.lot", lot[0])
		page.MustElementR("button.lot", lot[0]+"[^]*454 g")
	}

	p.to(page, studio+"/commissions")
	clickOn(page, "a", "Winter wedding")
	see(t, page, "Who and what for")
	clickOn(page, "a", "Pieces")
	press(page, "A tool")
	clickOn(page, "button.tool", "Ivy leaf")
	see(t, page, "made with Ivy leaf")
	fill(page, "Piece", "Ivy leaves")
	fill(page, "How many", "20")
	press(page, "Put it on the list")
	see(t, page, "Ivy leaves: 20")

	clickOn(page, "a", "Make")
	see(t, page, "Weigh one trial piece")
	fill(page, "One trial piece", "heavy")
	see(t, page, "No number found")
	fill(page, "One trial piece", "1/8 oz")
	see(t, page, "Balls to make")
	see(t, page, "22") // 20 wanted, pressed in a mould: robust
	clickOn(page, "button.link", "why")
	see(t, page, "A weighed trial piece beats the volume")
	page.Keyboard.MustType(input.Escape)
	until(page, `() => !document.querySelector('[role=dialog]')`)

	clickOn(page, "a", "Paste")
	see(t, page, "three schools")
	see(t, page, "of yours, level")
	clickOn(page, "a", "Dry")
	see(t, page, "48 % humidity")
	clickOn(page, "a", "The line")
	see(t, page, "Planned to begin")
	see(t, page, "Press 22 Ivy leaves")
	see(t, page, "What decides")

	p.to(page, studio+"/bench")
	see(t, page, "Knead")
	p.to(page, studio+"/sheet")
	see(t, page, "Bench sheet")
	see(t, page, "each ball")
	w, h := 8.27, 11.69
	r, err := page.PDF(&proto.PagePrintToPDF{PaperWidth: &w, PaperHeight: &h, PreferCSSPageSize: true})
	if err != nil {
		t.Fatal(err)
	}
	if pdf, _ := io.ReadAll(r); len(pdf) < 5000 || string(pdf[:5]) != "%PDF-" {
		t.Errorf("the sheet prints %d bytes", len(pdf))
	}
	_ = proto.EmulationSetEmulatedMedia{Media: "print"}.Call(page)
	until(page, `() => getComputedStyle(document.querySelector('.edge')).display === 'none'`)
}

// TestKeysAlone works the bench and the stages without a mouse.
func TestKeysAlone(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/bench")
	takeFirst(t, page)
	first := page.MustElement(".step").MustText()
	page.Keyboard.MustType(input.Space)
	until(page, fmt.Sprintf(`() => document.querySelector('.step')?.innerText !== %q`, first))
	see(t, page, "Take back: finished: "+first)
	page.Keyboard.MustType(input.Backspace)
	see(t, page, tonight)
	page.Keyboard.MustType(input.Key('?'))
	see(t, page, "None fires while a field")
	page.Keyboard.MustType(input.Escape)
	until(page, `() => !document.querySelector('[role=dialog]')`)
	page.Keyboard.MustType(input.KeyL)
	see(t, page, "What decides")
	page.Keyboard.MustType(input.KeyB)
	see(t, page, tonight)

	p.to(page, demoStudio+"/commissions/1")
	see(t, page, "Who and what for")
	for _, k := range []struct {
		key   input.Key
		words string
	}{{input.Digit2, "How it is used"}, {input.Digit3, "three schools"}, {input.Digit5, "Balls to make"}, {input.Digit6, "It dries"}, {input.Digit1, "Who and what for"}} {
		page.MustEval(`() => document.activeElement.blur()`)
		page.Keyboard.MustType(k.key)
		see(t, page, k.words)
	}
	// keys sleep in a field
	field(page, "Commission").MustFocus()
	page.Keyboard.MustType(input.Digit3)
	if !strings.HasSuffix(page.MustInfo().URL, "/brief") {
		t.Error("a digit typed into a field left the stage")
	}
}

// TestThePeg is moved by arrow keys, and the grams follow from the server.
func TestThePeg(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/paste?piece=2")
	see(t, page, "Fern fronds, medium")
	peg := page.MustElement(`[role=slider]`)
	before := page.MustElement(".mix").MustText()
	peg.MustFocus()
	for range 3 {
		page.Keyboard.MustType(input.ArrowRight)
	}
	see(t, page, "Back to the advice")
	until(page, fmt.Sprintf(`() => document.querySelector('.mix').innerText !== %q`, before))
	if got := *page.MustElement(`[role=slider]`).MustAttribute("aria-valuenow"); got != "2.95" {
		t.Errorf("three steps of 0.05 from 2.8: %s", got)
	}
	press(page, "Back to the advice")
	until(page, fmt.Sprintf(`() => document.querySelector('.mix').innerText === %q`, before))
	press(page, "Use the heavy dose")
	see(t, page, "Shape at once")
	see(t, page, "What this gives up: bent round a curve, nibbled, mostly looked at")
}

// TestTwoWindows shows both states where two windows meet on one field.
func TestTwoWindows(t *testing.T) {
	t.Parallel()
	p := start(t)
	one, two := p.open(t, demoStudio+"/commissions/1/brief"), p.open(t, demoStudio+"/commissions/1/brief")
	see(t, one, "Who eats")
	see(t, two, "Who eats")
	typed(two, "Who eats", "ninety guests") // and before it is left, the other window saves
	fill(one, "Who eats", "a hundred guests")
	see(t, one, "3 tiers, a hundred guests")
	see(t, two, "3 tiers, a hundred guests")
	field(two, "Who eats").MustBlur()
	see(t, two, "Changed meanwhile in another window")
	see(t, two, "a hundred guests")
	press(two, "Keep mine")
	see(t, two, "3 tiers, ninety guests")
}

func TestDeletingCanBeUndone(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions")
	see(t, page, "Observatory evening")
	more(page, "Observatory evening", "Delete")
	see(t, page, "Observatory evening is deleted.")
	press(page, "Bring it back")
	until(page, `() => document.body.innerText.includes('Observatory evening') && !document.body.innerText.includes('is deleted')`)
}

// TestEveryPlace is free of axe's findings in both schemes, does not scroll
// sideways at 390 px, and its targets are large enough.
func TestEveryPlace(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/bench")
	for _, v := range append(views, struct{ name, path, see string }{"studios", "/", "Hollow Lane"}, struct{ name, path, see string }{"nowhere", "/no/such/place", "nothing at this address"},
		struct{ name, path, see string }{"new", demoStudio + "/commissions/new", "Write it down"}, struct{ name, path, see string }{"whole line", demoStudio + "/line", "What decides"}, struct{ name, path, see string }{"sheet", demoStudio + "/sheet", "Bench sheet"}, struct{ name, path, see string }{"journal", demoStudio + "/commissions/1/journal", "What has happened"}, struct{ name, path, see string }{"first", demoStudio + "/first", "What do you want to make?"}) {
		page.MustSetViewport(1280, 800, 1, false)
		p.to(page, v.path)
		scheme(page, "light")
		see(t, page, v.see)
		if _, err := (proto.RuntimeEvaluate{Expression: axe}).Call(page); err != nil {
			t.Fatal(err)
		}
		for s, rules := range map[string]string{"light": `{resultTypes: ['violations']}`, "dark": `{runOnly: ['color-contrast']}`} { // what else there is does not hang on the scheme
			scheme(page, s)
			found := page.MustEval(`() => axe.run(document, ` + rules + `).then(r => r.violations.map(v => v.id + ': ' + v.nodes.map(n => n.html.slice(0, 140) + ' ' + (n.any[0]?.message ?? '')).join(' | ')))`)
			if list := found.Arr(); len(list) > 0 {
				b, _ := json.Marshal(found)
				t.Errorf("%s, %s: %s", v.name, s, b)
			}
		}
		page.MustSetViewport(390, 844, 1, true)
		until(page, `() => innerWidth === 390`)
		if wide := page.MustEval(`() => document.documentElement.scrollWidth`).Int(); wide > 390 {
			t.Errorf("%s is %d px wide at 390", v.name, wide)
		}
		small := page.MustEval(`() => [...document.querySelectorAll('main button, main [role=combobox]')].filter(b => !b.classList.contains('link') && b.offsetParent && b.getBoundingClientRect().height < 32).map(b => b.innerText)`)
		if len(small.Arr()) > 0 {
			t.Errorf("%s: targets too small: %v", v.name, small)
		}
	}
}

// TestAStoppedServer keeps what is typed and says what to do.
func TestAStoppedServer(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/brief")
	see(t, page, "Who eats")
	p.stop(t)
	fill(page, "Who eats", "only one guest")
	see(t, page, "The server does not answer")
	if got := field(page, "Who eats").MustProperty("value").Str(); got != "only one guest" {
		t.Errorf("what was typed is lost: %q", got)
	}
}

// TestFirstPage stays under 190 kB on the wire.
func TestFirstPage(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, "/")
	total := 0
	stop := page.EachEvent(func(e *proto.NetworkLoadingFinished) { total += int(e.EncodedDataLength) })
	go stop()
	_ = proto.NetworkEnable{}.Call(page)
	_ = proto.NetworkSetCacheDisabled{CacheDisabled: true}.Call(page)
	wait := page.MustWaitNavigation()
	page.MustNavigate(p.url + demoStudio + "/bench")
	wait()
	see(t, page, tonight)
	page.MustWaitRequestIdle()()
	if total == 0 || total > 190_000 {
		t.Errorf("the first page is %d bytes on the wire", total)
	}
	t.Logf("first page: %d bytes", total)
}
