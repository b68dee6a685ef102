package e2e

import (
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
)

const keyDrawing = `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40"><path d="M0 0h60v40h-60z"/><circle cx="30" cy="20" r="8"/></svg>`

// file writes a file of a test's own.
func file(t *testing.T, name, text string) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	if err := os.WriteFile(path, []byte(text), 0o600); err != nil {
		t.Fatal(err)
	}
	return path
}

// fetched is what an address answers.
func (p *program) fetched(t *testing.T, path string) (kind string, raw []byte) {
	t.Helper()
	resp, err := http.Get(p.url + "/api" + path)
	if err != nil {
		t.Fatal(err)
	}
	defer resp.Body.Close()
	if raw, err = io.ReadAll(resp.Body); err != nil || resp.StatusCode != http.StatusOK {
		t.Fatalf("%s: %s %v %.300s", path, resp.Status, err, raw)
	}
	return resp.Header.Get("Content-Type"), raw
}

// TestASheetIsRolledOut: the outlines lie on the board; one is put down by keys and by
// dragging, the others go round it, and it lets go again. It prints at true size.
func TestASheetIsRolledOut(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/2/make?piece=9")
	see(t, page, "Rolled out")
	see(t, page, "6 outlines from 1 sheet")
	see(t, page, "on a full sheet")
	see(t, page, "Sheet 1, fresh: 6 outlines")
	count := func() int { return page.MustEval(`() => document.querySelectorAll('.sheet .lies').length`).Int() }
	free := count()
	if free < 20 {
		t.Fatalf("%d outlines on the board", free)
	}
	one := page.MustElement(".sheet .lies:nth-of-type(8)")
	one.MustFocus()
	page.Keyboard.MustType(input.KeyR)
	see(t, page, "Let them lie as they fit best")
	until(page, `() => [...document.querySelectorAll('.lies')].some(g => g.classList.contains('held'))`)
	until(page, `n => document.querySelectorAll('.sheet .lies').length < n`, free)
	// dragged off the board it is not counted, and says so
	held := page.MustElement(".sheet .lies.held")
	box := held.MustShape().Box()
	m := page.Mouse
	m.MustMoveTo(box.X+box.Width/2, box.Y+box.Height/2).MustDown("left")
	m.MustMoveTo(box.X+box.Width/2-40, box.Y-20).MustMoveTo(box.X-600, box.Y-300).MustUp("left")
	until(page, `() => document.querySelector('.lies.off')?.getAttribute('aria-label').includes('not counted')`)
	press(page, "^Let them lie as they fit best$")
	until(page, `n => document.querySelectorAll('.sheet .lies').length === n && !document.querySelector('.lies.held')`, free)
	if kind, raw := p.fetched(t, demoStudio+"/print/sheet/9/svg"); kind != "image/svg+xml" || !strings.Contains(string(raw), `width="302mm"`) {
		t.Errorf("%s %.200s", kind, raw)
	}
	if kind, raw := p.fetched(t, demoStudio+"/print/sheet/9/pdf"); kind != "application/pdf" || !strings.HasPrefix(string(raw), "%PDF-") {
		t.Errorf("%s %.20s", kind, raw)
	}
}

// TestADrawingIsBrought: a cutter takes its outline from an SVG file; what cannot be cut is
// refused with its place.
func TestADrawingIsBrought(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/drawer?tool=11")
	see(t, page, "Its outline")
	pick := `section[aria-label="Its own outline"] input[type=file]`
	page.MustElement(pick).MustSetFiles(file(t, "letters.svg", `<svg width="9mm" height="9mm" viewBox="0 0 9 9">`+"\n<text>A</text></svg>"))
	see(t, page, "Line 2, character 7: letters are no outline yet")
	page.MustElement(pick).MustSetFiles(file(t, "key.svg", keyDrawing))
	see(t, page, "key.svg: its outline is in.")
	see(t, page, "60 mm × 40 mm")
	if _, raw := p.fetched(t, demoStudio+"/print/cutter/11/svg"); !strings.Contains(string(raw), "L60 40") {
		t.Errorf("%.300s", raw)
	}
	// the machine beside it: a strip makes a setting known
	p.to(page, demoStudio+"/drawer?tool=19")
	see(t, page, "What it rolls")
	for label, text := range map[string]string{"At setting": "5", "Strip, long": "150 mm", "wide": "20 mm", "weighs": "6.48 g"} {
		page.MustElementR("form label", "^"+label).MustElement("input").MustInput(text)
	}
	press(page, "^Keep this strip$")
	see(t, page, "Setting 5 is known by this strip now.")
	see(t, page, "1.6 mm, weighed")
}

// TestRoundTheTier: how many go round, how far apart, and the strip that marks them.
func TestRoundTheTier(t *testing.T) {
	t.Parallel()
	p := start(t)
	var list struct {
		Pieces []struct {
			ID   int
			Name string
		}
	}
	p.get(t, demoStudio+"/commissions/4", &list)
	bunting := 0
	for _, x := range list.Pieces {
		if x.Name == "Bunting" {
			bunting = x.ID
		}
	}
	page := p.open(t, demoStudio+"/commissions/4/make?piece="+strconv.Itoa(bunting))
	see(t, page, "Round the tier")
	see(t, page, "flags round the round tier of 180 mm")
	page.MustElement(`[aria-label="How many go round"]`).MustInput("12")
	see(t, page, "12 flags round the")
	see(t, page, "from one to the next")
	page.MustElement(`[aria-label="How many go round"]`).MustSelectAllText().MustInput("many")
	see(t, page, "A whole number, up to 400")
	if kind, raw := p.fetched(t, demoStudio+"/print/strip/"+strconv.Itoa(bunting)+"/pdf?tier=0&count=12"); kind != "application/pdf" || len(raw) < 1500 {
		t.Errorf("%s %d bytes", kind, len(raw))
	}
}

// TestBallsAreWeighedOut: on the scale of a press each ball is kept and the next is asked
// for; what is off says by how much.
func TestBallsAreWeighedOut(t *testing.T) {
	t.Parallel()
	p := start(t)
	for id := 24; id >= 1; id-- { // nothing else is in hand
		if id != 8 {
			p.post(t, demoStudio+"/rows/pieces/"+strconv.Itoa(id)+"/remove")
		}
	}
	for _, op := range []string{"p8.1.mark", "p8.1.knead"} {
		p.post(t, demoStudio+"/bench/"+op+"/finish/1?anyway=true")
	}
	page := p.open(t, demoStudio+"/hands")
	see(t, page, "Press ball 1 of 9")
	page.Keyboard.MustType(input.KeyW)
	see(t, page, "0 of 9 balls")
	typed := page.MustElement("#scale-typed")
	for _, g := range []string{"2.1 g", "2.4 g"} {
		typed.MustSelectAllText().MustInput(g)
		press(page, "^Keep it$")
		until(page, `g => [...document.querySelectorAll('.balls text')].some(x => x.textContent.trim() === g)`, g)
	}
	see(t, page, "2 of 9 balls, 1 of them off")
	page.MustElement(".balls circle.over")
	see(t, page, "As a rope")
	press(page, "^Take the last one off$")
	see(t, page, "1 of 9 balls")
}
