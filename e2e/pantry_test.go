package e2e

import (
	"fmt"
	"image"
	"image/color"
	"image/png"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
)

// TestThePantryIsKept takes some, asks what is not known, learns, and takes
// back.
func TestThePantryIsKept(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/pantry")
	lot := func(name string) { clickOn(page, "button.lot", name) }
	see(t, page, "Hardener, spirits and glue")
	lot("CMC")
	see(t, page, "Take some out")
	fill(page, "How much", "1 kg")
	press(page, "^Take it$")
	see(t, page, "Only 45 g is written down")
	if got := field(page, "How much").MustProperty("value").Str(); got != "1 kg" {
		t.Errorf("what was typed is lost: %q", got)
	}
	fill(page, "How much", "1 tsp")
	fill(page, "For what", "a test ball")
	press(page, "^Take it$")
	page.MustElementR("button.lot", "CMC[^]*42 g") // my teaspoon holds 2.8 g
	stands(page, "Left", "42")                     // typed over what stood before, it would meet that
	fill(page, "Left", "3 sachets")
	page.MustElementR("button.lot", "CMC[^]*33 g") // a sachet is 11 g in this kitchen
	fill(page, "Left", "2 packets")
	see(t, page, "How many grams are in one packet of yours?")
	lot("CMC")

	lot("Soft white sugar paste")
	see(t, page, "What did its pieces show?")
	before := page.MustElement(".e").MustText()
	press(page, "^it cracked when it was bent$")
	see(t, page, "it cracked when it was bent: stiffer")
	until(page, fmt.Sprintf(`() => document.querySelector('.e').innerText !== %q`, before))
	clickOn(page, "summary", "Too soft")
	see(t, page, "Knead in the powder in two goes")
	press(page, "Take the lot away")
	see(t, page, "Soft white sugar paste: taken away.")
	press(page, "Bring it back")
	page.MustElementR("button.lot", "Soft white sugar paste")

	page.MustElement(`[aria-label$="What is left of a colour, kneaded together to a new colour"]`).MustClick()
	page.MustElementR("button", "^Our way$")
}

// TestATableComesIn shows its bad rows before the good ones are taken.
func TestATableComesIn(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/pantry")
	see(t, page, "White flower paste")
	file := filepath.Join(t.TempDir(), "lots.csv")
	if err := os.WriteFile(file, []byte("name,kind,massG,swatch\nHoney paste,sugarPaste,300 g,#E9C46A\nWrong,lead,1 g,\nSlight,gel,a lot,#112233\n"), 0o600); err != nil {
		t.Fatal(err)
	}
	press(page, "Bring a file in")
	page.MustElement("input[type=file]").MustSetFiles(file)
	see(t, page, "1 lot can be taken in, 2 rows cannot.")
	see(t, page, "Choose one of")
	if page.MustEval(`() => [...document.querySelectorAll('button.lot')].some(b => b.innerText.includes('Honey paste'))`).Bool() {
		t.Error("it was taken in before anybody agreed")
	}
	press(page, "Take the good rows in")
	page.MustElementR("button.lot", "Honey paste[^]*300 g")
}

// TestWillItDo lists what the commissions want, and prints what is to be bought.
func TestWillItDo(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/pantry")
	clickOn(page, "button.lot", "White flower paste")
	fill(page, "Left", "10 g")
	see(t, page, "Saved.")
	clickOn(page, "button.lot", "Ready half-and-half")
	fill(page, "Left", "0 g")
	see(t, page, "Saved.")
	clickOn(page, "a", "Will it do")
	see(t, page, "× 250 g flower paste")
	see(t, page, "Not enough")
	see(t, page, "sugar paste with hardener") // what serves instead
	_ = proto.EmulationSetEmulatedMedia{Media: "print"}.Call(page)
	until(page, `() => getComputedStyle(document.querySelector('.two > .stack')).display === 'none'`)
	text := page.MustEval(`() => fetch('/api` + demoStudio + `/shopping/file/txt').then(r => r.text())`).Str()
	if !strings.Contains(text, "[ ] flower paste: ") {
		t.Error(text)
	}
}

// TestTheColourBench mixes, chooses other gels, takes leftovers, lets down.
func TestTheColourBench(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/paste?piece=3")
	see(t, page, "Fern fronds, small")
	page.Keyboard.MustType('4')
	see(t, page, "How it goes in")
	see(t, page, "fern green, light")
	see(t, page, "fresh from kneading")
	see(t, page, "Or let a darker mix down")
	gels := page.MustElement(".recipe.large .gels").MustText()
	clickOn(page, ".other button", "Use these")
	until(page, fmt.Sprintf(`() => document.querySelector('.recipe.large .gels').innerText !== %q`, gels))
	see(t, page, "Out of leftovers, without new gel")
	press(page, "Use the leftovers")
	page.MustElementR("button", "^In use$")
	clickOn(page, "a", "Paste")
	see(t, page, "Leftover, sage")
	clickOn(page, "a", "Colour")
	press(page, "Mix it with gels")
	page.MustElement(".recipe.large")
	gels = page.MustElement(".recipe.large .gels").MustText()
	clickOn(page, ".other button", "Use these")
	until(page, fmt.Sprintf(`() => document.querySelector('.recipe.large .gels').innerText !== %q`, gels))
	names := func() string {
		return page.MustEval(`() => [...document.querySelectorAll('.recipe.large .gel [aria-label]')].map(e => e.ariaLabel.split(':')[1]).join()`).Str()
	}
	mine := names()
	field(page, "plain paste, as it comes").MustClick()
	see(t, page, "Twist and fold")
	if got := names(); mine == "" || got != mine { // half of the paste, the gels that were chosen
		t.Errorf("%q became %q", mine, got)
	}
	field(page, "toadstool red").MustClick() // two of the order's own colours beside the plain paste
	page.MustElementR(".rope", "toadstool red[^]*a third")
	fill(page, "Parts of each, its own first", "1 : some : 1")
	see(t, page, "A number for each of the 3 colours")
	if got := field(page, "Parts of each, its own first").MustProperty("value").Str(); got != "1 : some : 1" {
		t.Errorf("what was typed is lost: %q", got)
	}
	fill(page, "Parts of each, its own first", "1 : 1 : 2")
	page.MustElementR(".rope", "toadstool red[^]*half")

	// the target from a name of ours, from a photo with a white card, typed
	clickOn(page, "button.one", "toadstool red")
	see(t, page, "14 Toadstool caps")
	fill(page, "Swatch", "rowan")
	press(page, "Take this colour")
	see(t, page, "Write a swatch such as #5F8A4A")
	photo := filepath.Join(t.TempDir(), "pat.png")
	m := image.NewNRGBA(image.Rect(0, 0, 200, 100))
	for i := range 200 * 100 {
		c := color.NRGBA{R: 170, G: 70, B: 50, A: 255}
		if i%200 >= 100 {
			c = color.NRGBA{R: 235, G: 235, B: 235, A: 255}
		}
		m.SetNRGBA(i%200, i/200, c)
	}
	f, err := os.Create(photo)
	if err != nil {
		t.Fatal(err)
	}
	if err := png.Encode(f, m); err != nil {
		t.Fatal(err)
	}
	if err := f.Close(); err != nil {
		t.Fatal(err)
	}
	page.MustElement("input[type=file]").MustSetFiles(photo)
	box := page.MustElement("button.frame").MustWaitStable().MustScrollIntoView().MustShape().Box()
	page.Mouse.MustMoveTo(box.X+box.Width/4, box.Y+box.Height/2).MustClick(proto.InputMouseButtonLeft)
	see(t, page, "#AA4632")
	page.MustElement("button.frame").MustFocus() // without a mouse: the arrows carry the spot over to the card
	for range 3 {
		page.KeyActions().Press(input.ShiftLeft).Type(input.ArrowRight).Release(input.ShiftLeft).MustDo()
	}
	see(t, page, "#EBEBEB")
	for range 3 {
		page.KeyActions().Press(input.ShiftLeft).Type(input.ArrowLeft).Release(input.ShiftLeft).MustDo()
	}
	see(t, page, "#AA4632")
	press(page, "There is a white card in it")
	page.Mouse.MustMoveTo(box.X+3*box.Width/4, box.Y+box.Height/2).MustClick(proto.InputMouseButtonLeft)
	see(t, page, "Corrected by the white card.")
	press(page, "Take this colour")
	until(page, `() => getComputedStyle(document.querySelector('.chip')).backgroundColor !== 'rgb(181, 68, 47)'`)
	got := page.MustEval(`() => getComputedStyle(document.querySelector('.chip')).backgroundColor.match(/[0-9]+/g).map(Number)`).Arr()
	if r, g, b := got[0].Int(), got[1].Int(), got[2].Int(); r < 160 || r > 191 || g > 90 || b > 80 { // the brown of the photo, corrected
		t.Error(got)
	}

	// a dust over it, other tones, another base
	page.MustElement(`[aria-label="Dust, metal or gel"]`).MustClick()
	page.MustElementR("[role=option]", "Pearl white").MustWaitStable().MustClick()
	see(t, page, "In glancing light")
	press(page, "Show them")
	see(t, page, "Equal steps, each")
	page.MustElement(`[aria-label=Base]`).MustClick()
	page.MustElementR("[role=option]", "royal icing").MustWaitStable().MustClick()
	until(page, `() => document.querySelectorAll('.recipe').length > 3`)
}

// TestABottleIsCompared narrows what is known of it.
func TestABottleIsCompared(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/pantry")
	clickOn(page, "button.lot", "Holly green")
	see(t, page, "give or take 25 %")
	press(page, "Compare a mix")
	fill(page, "It looks like", "#3030F0")
	press(page, "Keep what it showed")
	see(t, page, "no shade of this gel")
	fill(page, "It looks like", "#7FA390")
	press(page, "Keep what it showed")
	see(t, page, "from the last 1 mix")
}

// TestMixesAreAsked, and the pastes of a commission made fewer.
func TestMixesAreAsked(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/paste?piece=6")
	see(t, page, "Or say the mix as you know it")
	fill(page, "Or say the mix", "1:1 with modelling paste")
	press(page, "Mix it so")
	see(t, page, "Of which two?")
	press(page, "a paste of sugar paste with hardener")
	see(t, page, "your own 0.95 %")
	see(t, page, "Fewer pastes for the whole commission")
	press(page, "Take these pastes")
	see(t, page, "It cannot be fewer than it is.")
	clickOn(page, "summary", "movement by movement")
	see(t, page, "Fold and roll")
}
