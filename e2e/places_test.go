package e2e

import (
	"fmt"
	"io"
	"regexp"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
)

// TestCommissionsComeAndGo puts one aside, opens it again and hands it over.
func TestCommissionsComeAndGo(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions")
	see(t, page, "The clockmaker's seventieth")
	more(page, "The clockmaker's seventieth", "Put aside")
	see(t, page, "Put aside\nThe clockmaker's seventieth")
	more(page, "The clockmaker's seventieth", "Open again")
	until(page, `() => !document.body.innerText.includes('Put aside\nThe')`)
	// with steps open it asks first, and what was asked can be left
	more(page, "Observatory evening", "Hand over")
	see(t, page, "steps are open, and ")
	see(t, page, "not on the cake. Hand it over all the same?")
	press(page, "^Leave it open$")
	until(page, `() => !document.body.innerText.includes('all the same')`)
	more(page, "Observatory evening", "Hand over")
	press(page, "^Hand it over all the same$")
	see(t, page, "Observatory evening is handed over.")
	page.MustReload()
	see(t, page, "Handed over\n")
	order := page.MustEval(`() => [...document.querySelectorAll('article h2 a')].map(h => h.innerText)`)
	if got := fmt.Sprint(order); !strings.HasPrefix(got, "[Fernery centenary The bell-ringers' tea The clockmaker's seventieth Observatory evening") {
		t.Errorf("in this order: %s", got)
	}
}

// TestPiecesAreArranged duplicates, moves and removes, and brings back.
func TestPiecesAreArranged(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/pieces?piece=6")
	names := func(want string) {
		t.Helper()
		until(page, fmt.Sprintf(`() => [...document.querySelectorAll('.piece .name')].map(x => x.innerText).join(', ').endsWith(%q)`, want))
	}
	see(t, page, "Beetles: 9")
	press(page, "^Duplicate$")
	see(t, page, "Beetles (copy): 9")
	names("Beetles, Beetles (copy)")
	press(page, "^Up$")
	names("Beetles (copy), Beetles")
	press(page, "^Down$")
	names("Beetles, Beetles (copy)")
	press(page, "^Remove$")
	see(t, page, "Beetles (copy): taken off the list.")
	names("Toadstool stems, Beetles")
	press(page, "Bring it back")
	names("Beetles, Beetles (copy)")
}

// TestTheDrawerAndThePantry are corrected in place, and what is used stays.
func TestTheDrawerAndThePantry(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/drawer")
	see(t, page, "Bead string, 4 mm")
	clickOn(page, "button.line", "Toadstool cap")
	fill(page, "Depth", "deep")
	see(t, page, "No number found")
	fill(page, "Depth", "11 mm")
	see(t, page, "20 mm × 20 mm, 11 mm deep")
	press(page, "Take it away")
	see(t, page, `"Toadstool caps" is made with it`)
	clickOn(page, "button.line", "Fern frond, large")
	see(t, page, "an hour, all 2 copies")
	see(t, page, "Fernery centenary: Fern fronds, large, 14")
	press(page, "One copy broke")
	until(page, `() => !document.querySelector('.inside').innerText.includes('all 2 copies')`)
	press(page, "One copy broke")
	see(t, page, "No copy is left to say that of.")
	press(page, "One was mended")
	see(t, page, "1 copy, 1 broken")
	clickOn(page, "button.line", "Bead string")
	press(page, "Take it away")
	see(t, page, "Bead string, 4 mm: taken away.")
	press(page, "Bring it back")
	see(t, page, "180 mm × 4 mm")

	p.to(page, demoStudio+"/pantry")
	see(t, page, "Marzipan")
	clickOn(page, "button.lot", "Ready half-and-half")
	fill(page, "Left", "1/2 lb")
	page.MustElementR("button.lot", "Ready half-and-half[^]*227 g")
	choose(page, "Squeeze grade", "4 stiff")
	see(t, page, "squeeze grade 4")
	fill(page, "Opened on", "next Tuesday")
	see(t, page, "still to come")
	fill(page, "Opened on", "20 Nov")
	see(t, page, "open for 5 days")
}

// TestComingBack goes on where a stopped server left off, without a reload.
func TestComingBack(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/brief")
	see(t, page, "Who eats")
	address := strings.TrimPrefix(p.url, "http://127.0.0.1:")
	p.stop(t)
	fill(page, "Who eats", "twelve hungry gardeners")
	see(t, page, "The server does not answer")
	p.start(t, "--now", evening, "--port", address)
	see(t, page, "3 tiers, twelve hungry gardeners") // by itself, without a touch
	until(page, `() => !document.body.innerText.includes('The server does not answer')`)
	if got := field(page, "Who eats").MustProperty("value").Str(); got != "twelve hungry gardeners" {
		t.Errorf("%q", got)
	}
}

// TestTheSheetPrintsWhatTheEveningNeeds on white, without the places.
func TestTheSheetPrintsWhatTheEveningNeeds(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/sheet")
	see(t, page, "Bench sheet")
	scheme(page, "dark")
	for _, words := range []string{tonight, "Press 10 Fern fronds, large", "Look for: every small end full before the middle goes in", "Dust Fern fronds, large", "Then it waits", "Dry Fern fronds, large", "Product labels and local food rules come first."} {
		see(t, page, words)
	}
	_ = proto.EmulationSetEmulatedMedia{Media: "print", Features: []*proto.EmulationMediaFeature{{Name: "prefers-color-scheme", Value: "dark"}}}.Call(page)
	until(page, `() => getComputedStyle(document.querySelector('.edge')).display === 'none'`)
	if light := page.MustEval(`() => { const [r, g, b] = getComputedStyle(document.body).backgroundColor.match(/\d+/g).map(Number); return (r + g + b) / 3 }`).Num(); light < 240 {
		t.Errorf("it prints on a ground of %v", light)
	}
	big := page.MustEval(`() => parseFloat(getComputedStyle(document.querySelector('.figures b')).fontSize)`).Num()
	if big < 26 {
		t.Errorf("the grams are %v px: not legible at arm's length", big)
	}
	pdf, err := page.PDF(&proto.PagePrintToPDF{PaperWidth: new(8.27), PaperHeight: new(11.69)})
	if err != nil {
		t.Fatal(err)
	}
	b, err := io.ReadAll(pdf)
	if err != nil {
		t.Fatal(err)
	}
	if n := len(regexp.MustCompile(`/Type\s*/Page\b`).FindAll(b, -1)); n > 2 { // an evening of five pieces
		t.Errorf("the evening takes %d pages", n)
	}
	// what is taken, with a box to tick
	for _, words := range []string{"Lay out first", "of Ready half-and-half"} {
		see(t, page, words)
	}
	if lines, boxes := len(page.MustElements(".layout li")), len(page.MustElements(".layout .box")); lines < 4 || lines != boxes {
		t.Errorf("%d things to lay out, %d boxes", lines, boxes)
	}
}

// TestWhyOpensEachRule: no number of the batch stands without its reason.
func TestWhyOpensEachRule(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/make?piece=1")
	see(t, page, "Balls to make")
	n := len(page.MustElements("main button.link"))
	if n < 5 {
		t.Fatalf("%d reasons", n)
	}
	for i := range n {
		page.MustElements("main button.link")[i].MustClick()
		until(page, `() => document.querySelector('[role=dialog]')?.innerText.length > 60`)
		if got := page.MustElement("[role=dialog]").MustText(); !strings.ContainsAny(got, "0123456789") {
			t.Errorf("a reason without a value: %s", got)
		}
		page.Keyboard.MustType(input.Escape)
		until(page, `() => !document.querySelector('[role=dialog]')`)
	}
}

// TestAnEveningOnATelephone works at 390 px in the dim scheme, by touch.
func TestAnEveningOnATelephone(t *testing.T) {
	t.Parallel()
	p := start(t, "--now", "2026-12-03T21:31:00Z")
	page := p.open(t, demoStudio+"/bench")
	page.MustSetViewport(390, 844, 1, true)
	scheme(page, "dark")
	see(t, page, "Thursday evening")
	for range 2 {
		step := page.MustElement(".now").MustText()
		big := page.MustElement("button.do")
		if box := big.MustShape().Box(); box.Height < 64 || box.X < 0 || box.X+box.Width > 390 {
			t.Errorf("the button of %q is at %+v", step, box)
		}
		big.MustClick()
		until(page, fmt.Sprintf(`() => document.querySelector('.now')?.innerText !== %q`, step))
	}
	see(t, page, "Take back: ")
	if wide := page.MustEval(`() => document.documentElement.scrollWidth`).Int(); wide > 390 {
		t.Errorf("%d px wide", wide)
	}
}

// TestWhatRingsComesFirst on a telephone, where there is no second column.
func TestWhatRingsComesFirst(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/bench")
	page.MustSetViewport(390, 844, 1, true)
	for _, place := range []string{"bench", "hands"} {
		p.to(page, demoStudio+"/"+place)
		see(t, page, "may be touched: it has a skin")
		see(t, page, tonight)
		clock := page.MustElement(".rings").MustShape().Box().Y
		if next := page.MustElementR("h1, h2", "^"+tonight).MustShape().Box().Y; clock > next {
			t.Errorf("%s: what rings is at %.0f, below what comes next at %.0f", place, clock, next)
		}
	}
}

// TestTwoStudiosSideBySide share a server and nothing else.
func TestTwoStudiosSideBySide(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, "/")
	field(page, "A studio of your own").MustInput("Elm Bench")
	press(page, "Open it")
	see(t, page, "What do you want to make")
	for path, words := range map[string]string{"pantry": "The pantry is empty", "drawer": "No tool yet", "commissions": "No orders yet", "bench": "Nothing waits for your hands", "line": "Nothing"} {
		p.to(page, "/s/elm-bench/"+path)
		see(t, page, words)
	}
	// another studio's commission is not there under this address
	p.to(page, "/s/elm-bench/commissions")
	page.MustNavigate(p.url + "/s/elm-bench/commissions/1")
	see(t, page, "There is nothing here")
	page.MustNavigate(p.url + "/s/no-such-studio/bench")
	see(t, page, "There is nothing here")
}

// TestScriptIsOnlyText: what looks like a page is shown as it was typed.
func TestScriptIsOnlyText(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/pieces?piece=6")
	see(t, page, "Beetles: 9")
	evil := `<img src=x onerror="window.bitten=1">`
	fill(page, "Piece", evil)
	see(t, page, evil+": 9")
	for _, at := range []string{"/line", "/bench", "/sheet", "/commissions"} {
		p.to(page, demoStudio+at)
	}
	if page.MustEval(`() => window.bitten ?? 0`).Int() != 0 || len(page.MustElements("main img")) != 0 {
		t.Error("it was read as a page")
	}
}

// TestFinding goes to what is called so, by key and by touch.
func TestFinding(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/bench")
	see(t, page, tonight)
	page.Keyboard.MustType(input.Slash)
	page.MustElement(`[aria-label="Find an order, a piece, a lot or a tool"]`).MustInput("frond large")
	see(t, page, "tool drawer")
	page.Keyboard.MustType(input.ArrowDown)
	page.Keyboard.MustType(input.ArrowUp)
	page.Keyboard.MustType(input.Enter)
	see(t, page, "Fern fronds, large")
	until(page, `() => location.pathname.includes('/commissions/1/pieces') || location.search.includes('tool=')`)
	clickOn(page, "button.keys", "Find")
	page.MustElement(`[aria-label="Find an order, a piece, a lot or a tool"]`).MustInput("holly")
	clickOn(page, ".found li", "Holly green")
	see(t, page, "Pantry")
	until(page, `() => location.search.includes('lot=')`)
}

// TestADampEvening: the room turns damp while pieces dry. It is said at once with what
// helps, on the bench, on the order and in its row; the alarm is gone, and in drier air
// it is back.
func TestADampEvening(t *testing.T) {
	t.Parallel()
	p := startAt(t, "2026-11-24T20:12:00Z")
	page := p.open(t, demoStudio+"/kitchen")
	see(t, page, "Humidity")
	fill(page, "Humidity", "88 %")
	see(t, page, "Saved.")
	for _, at := range []string{"/bench", "/hands", "/commissions", "/commissions/1", "/line"} {
		p.to(page, demoStudio+at)
		wrong(t, page, "Fern fronds, small do not get firm in this room: 88 % humidity is too damp.")
	}
	p.to(page, demoStudio+"/bench")
	see(t, page, "Drier air, 55 % humidity: firm ")
	see(t, page, "not in this room")
	press(page, "^What would help$")
	see(t, page, "will not set here")
	p.to(page, demoStudio+"/kitchen")
	see(t, page, "Humidity")
	fill(page, "Humidity", "50 %")
	see(t, page, "Saved.")
	p.to(page, demoStudio+"/bench")
	see(t, page, "then Fern fronds, small: ")
	until(page, `() => !document.body.innerText.includes('not in this room')`)
}
