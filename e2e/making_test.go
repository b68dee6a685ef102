package e2e

import (
	"fmt"
	"strings"
	"testing"
)

// TestAToolByItsPicture: its kind is chosen by its picture, only the measures of that
// kind are asked, and the drawing grows as they are typed.
func TestAToolByItsPicture(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/drawer")
	see(t, page, "Formers")
	press(page, "Add a tool")
	see(t, page, "What kind is it?")
	clickOn(page, "button.kind", "^bunting cutter$")
	see(t, page, "Flags per press")
	if body := page.MustElement("form.new").MustText(); strings.Contains(body, "Cavity holds") || strings.Contains(body, "Chilled") {
		t.Errorf("a cutter is asked for a cavity: %s", body)
	}
	before := page.MustElement("figure svg").MustHTML()
	fill(page, "Width", "50 mm")
	fill(page, "Flag height", "60 mm")
	see(t, page, "60 mm × 50 mm")
	if page.MustElement("figure svg").MustHTML() == before {
		t.Error("the drawing does not grow")
	}
	fill(page, "Tool", "Bunting")
	press(page, "Put it into the drawer")
	page.MustElementR("button.line[aria-pressed=true]", "Bunting")
	see(t, page, "No open piece is made with it.")
}

// TestPartsByHand: a part is put on, counted, changed and taken off; a side on which
// makers differ is taken, and stands on the sheet.
func TestPartsByHand(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/2/pieces?piece=9")
	see(t, page, "One part: the piece itself.")
	press(page, "Add a part")
	fill(page, "Called", "Stars")
	fill(page, "On to each", "three")
	fill(page, "Held by", "a dot of water")
	press(page, "Put it on")
	see(t, page, "3 on to each, 12 in all")
	see(t, page, "with a dot of water")
	clickOn(page, "button.link", "Stars")
	see(t, page, "3 on to each of Name plaques")
	see(t, page, "12 are needed")
	see(t, page, "Choose how it is made")
	clickOn(page, "button.piece", "Name plaques")
	press(page, "Change")
	fill(page, "On to each", "many")
	press(page, "Keep it so")
	see(t, page, "From 1 to 200 of it go on to each.")
	fill(page, "On to each", "5")
	press(page, "Keep it so")
	see(t, page, "5 on to each, 20 in all")
	press(page, "Take it off")
	see(t, page, "One part: the piece itself.")
	clickOn(page, "summary", "Where good makers differ")
	clickOn(page, "button.option", "^Cut at once")
	page.MustElement("button.option[aria-pressed=true]")
}

// TestAWayOfOurOwn is copied, changed on its page, and read beside the others.
func TestAWayOfOurOwn(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/drawer")
	clickOn(page, "a", "Ways of making")
	see(t, page, "Pressed cavity, straight out")
	see(t, page, "A ball pressed into a clean cavity") // the first of them is open
	clickOn(page, "a.item", "Cut shapes, plaques")
	see(t, page, "Press straight down")
	press(page, "Make it our own")
	fill(page, "Called here", "Our plaques")
	press(page, "Copy it")
	see(t, page, "Cut shapes, plaques, veined leaves, version 1")
	page.MustElementR("a.item.on", "Our plaques")
	fill(page, "What it is", "Plaques as Ines cuts them.")
	see(t, page, "Saved.")
	see(t, page, "Plaques as Ines cuts them.")
	see(t, page, "version 2")
}

// TestTiersByHand: a tier is put on with a press, said field by field, and drawn.
func TestTiersByHand(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/brief")
	see(t, page, "Tier 1, the lowest")
	press(page, "Put a tier on")
	see(t, page, "Tier 4, the top")
	see(t, page, "round 100 mm, 110 mm tall")
	press(page, "Take the top off")
	until(page, `() => !document.body.innerText.includes('Tier 4')`)
	see(t, page, "a board, pin and bags of their own")
}

// TestPartsStandSideBySide in Make, and one press goes from the stem to its cap.
func TestPartsStandSideBySide(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/make?piece=5")
	see(t, page, "Side by side")
	if n := len(page.MustElements(".beside .part svg")); n != 2 {
		t.Errorf("%d are drawn", n)
	}
	see(t, page, "1 on to each of Toadstool stems")
	clickOn(page, ".beside .part", "Toadstool caps")
	until(page, `() => location.search === '?piece=4' && !document.querySelector('.beside')`)
}

// TestAnEmptyDrawerSaysWhatToMeasure where a first piece is begun.
func TestAnEmptyDrawerSaysWhatToMeasure(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, "/")
	see(t, page, "Hollow Lane Sugar Room")
	field(page, "A studio of your own").MustInput("Elm Bench")
	press(page, "Open it")
	see(t, page, "What do you want to make")
	id := p.send(t, "/s/elm-bench/rows/commissions", map[string]any{"set": map[string]string{"title": "Winter fair", "handOver": "Sat week, 10:00"}})
	p.to(page, fmt.Sprintf("/s/elm-bench/commissions/%d/pieces", id))
	see(t, page, "The drawer holds no tool yet that a piece is made with.")
	see(t, page, "no mould with a cavity in the drawer")
	press(page, "Measure a new tool")
	see(t, page, "What kind is it?")
}

// TestManyLateOrdersLeaveTheStepInSight: the first few are said, the others folded.
func TestManyLateOrdersLeaveTheStepInSight(t *testing.T) {
	t.Parallel()
	p := startAt(t, "2026-11-24T20:12:00Z")
	page := p.open(t, demoStudio+"/bench")
	for i := range 8 {
		id := p.send(t, demoStudio+"/rows/commissions", map[string]any{"set": map[string]string{"title": fmt.Sprintf("Order %d", i+1), "handOver": fmt.Sprintf("Fri 27 Nov, 1%d:00", i), "carrier": "biscuits", "count": "24"}})
		p.send(t, demoStudio+"/rows/pieces", map[string]any{"parent": id, "set": map[string]string{"name": "Leaves", "wanted": "40", "tool": "3"}})
	}
	see(t, page, "more things to see to")
	if n := len(page.MustElements(".troubles > div .one")); n > 3 {
		t.Errorf("%d late orders stand open", n)
	}
	if at := page.MustElement(".none, .now").MustShape().Box().Y; at > 400 {
		t.Errorf("the step begins at %.0f of 800", at)
	}
	page.MustElement(".troubles summary").MustClick()
	see(t, page, "Order 8")
}
