package e2e

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/go-rod/rod/lib/input"
)

// TestTheScale weighs balls at the bench: live, beside the tolerance, tared,
// kept on the mould, and typed when it is unplugged.
func TestTheScale(t *testing.T) {
	t.Parallel()
	p := startAt(t, "2026-11-24T20:12:00Z")
	h := hand{t, p, p.open(t, demoStudio+"/hands")}
	page := h.page
	p.clock(t, only(t, p, page, 4)["p4.1.knead"].begins())
	h.comes("g for Toadstool caps")
	h.space()
	see(t, page, "Press ball 1 of ")
	page.Keyboard.MustType(input.KeyW)
	see(t, page, "Ball 1: ")
	page.MustEval(`() => new MutationObserver(() => { if (document.body.innerText.includes('Not still yet.')) window.moved = true }).observe(document.body, { childList: true, subtree: true, characterData: true })`)
	press(page, "Lay a ball on the stand-in")
	for range 3 {
		see(t, page, "It lies still.")
		page.MustEval(`() => { window.moved = false }`)
		press(page, "Keep it as a piece")
		see(t, page, "Kept: ")
		press(page, "Lay a ball on the stand-in")
		until(page, `() => window.moved`) // it is said for less than a second
	}
	see(t, page, "3 pieces weighed")
	see(t, page, "It lies still.")
	press(page, "^Tare$")
	until(page, `() => ['0.00 g', '0.01 g', '-0.01 g', '0.02 g', '-0.02 g', '-0.00 g'].includes(document.querySelector('.live')?.innerText)`)
	see(t, page, "too light")

	kitchen := p.open(t, demoStudio+"/kitchen")
	clickOn(kitchen, "summary", "Devices")
	see(t, kitchen, "The scale is a stand-in")
	press(kitchen, "^unplugged$")
	see(t, page, "does not answer. Type the weight below.")
	field(page, "or typed").MustInput("1/10 oz")
	press(page, "^Keep it$")
	see(t, page, "1 of ") // of the balls that are portioned
	see(t, page, "Ball 2: ")
	press(kitchen, "^steady$")
	see(t, page, "Lay a ball on the stand-in")
	field(kitchen, "Grams that lie on it").MustInput("100")
	press(kitchen, "Lay them on it")
	see(t, page, "too heavy")
	page.Keyboard.MustType(input.Escape)
	until(page, `() => !document.querySelector('[role=dialog]')`)
	p.to(page, demoStudio+"/commissions/1/make?piece=4")
	see(t, page, "by the mean of 3 pieces weighed")
}

// TestAStudioOutAndIn: a document is looked at first, refused with its place,
// and brought in; the demo can be put back.
func TestAStudioOutAndIn(t *testing.T) {
	t.Parallel()
	p := start(t)
	export := exec.Command(binary, "export", "--data", p.data, "hollow-lane-sugar-room")
	export.Env = append(os.Environ(), "DATABASE_URL=")
	doc, err := export.Output() // beside the running server
	if err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	good, bad := filepath.Join(dir, "good.json"), filepath.Join(dir, "bad.json")
	if err := os.WriteFile(good, doc, 0o600); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(bad, regexp.MustCompile(`"tool": \d+`).ReplaceAll(doc, []byte(`"tool": 55`)), 0o600); err != nil {
		t.Fatal(err)
	}
	page := p.open(t, "/")
	see(t, page, "Bring a studio in")
	page.MustElement("input[type=file]").MustSetFiles(bad)
	see(t, page, "There is no tool number 55.")
	page.MustElement("input[type=file]").MustSetFiles(good)
	see(t, page, `A new studio "Hollow Lane Sugar Room" with 40 tools, 34 lots, 5 commissions with 26 pieces, and `)
	press(page, "Bring it in")
	see(t, page, "Wednesday evening")
	if !strings.HasSuffix(page.MustInfo().URL, "/s/hollow-lane-sugar-room-2/bench") {
		t.Error(page.MustInfo().URL)
	}
	again := exec.Command(binary, "export", "--data", p.data, "hollow-lane-sugar-room-2")
	again.Env = append(os.Environ(), "DATABASE_URL=")
	if back, err := again.Output(); err != nil || !bytes.Equal(doc, back) {
		t.Errorf("it came back changed: %v", err)
	}
	p.to(page, demoStudio+"/commissions")
	more(page, "Fernery centenary", "Delete")
	see(t, page, "Fernery centenary is deleted.")
	p.to(page, demoStudio+"/kitchen")
	press(page, "Put the demo back to its first state")
	press(page, "^Put it back$")
	until(page, `() => !document.body.innerText.includes('Everything that was changed')`)
	p.to(page, demoStudio+"/commissions")
	see(t, page, "Fernery centenary")

	p.stop(t) // and with nobody serving
	for _, c := range []struct {
		args []string
		says string
		code int
	}{
		{[]string{"import", "--look", "--data", p.data, good}, "A new studio", 0},
		{[]string{"import", "--data", p.data, good}, "is at /s/hollow-lane-sugar-room-3", 0},
		{[]string{"import", "--data", p.data, bad}, "There is no tool number 55", 1},
		{[]string{"import", "--data", p.data, filepath.Join(dir, "none.json")}, "cannot be read", 1},
		{[]string{"export", "--data", p.data, "nowhere"}, `there is no studio "nowhere"`, 1},
		{[]string{"export", "--data", filepath.Join(dir, "none"), "x"}, "there is no data folder", 1},
		{[]string{"export"}, "dustyfern export", 2},
	} {
		cmd := exec.Command(binary, c.args...)
		cmd.Env = append(os.Environ(), "DATABASE_URL=")
		out, _ := cmd.CombinedOutput()
		if code := cmd.ProcessState.ExitCode(); code != c.code || !strings.Contains(string(out), c.says) {
			t.Errorf("%v: %d %s", c.args, code, out)
		}
	}
}
