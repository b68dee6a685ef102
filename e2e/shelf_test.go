package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
)

// onTray waits until a batch lies on a tray.
func onTray(t testing.TB, page *rod.Page, rack, tray int, name string) {
	t.Helper()
	if err := comes(page, `(r, t, n) => !!document.querySelector('.tray[data-rack="' + r + '"][data-tray="' + t + '"] .batch[aria-label*="' + n + '"]')`, rack, tray, name); err != nil {
		t.Fatalf("%s does not lie on tray %d of place %d", name, tray, rack)
	}
}

// TestTheShelf: fronds that dry are moved by keys, by hand and out of a list; they go into a
// bag and out; one tap notes that they are still soft, and it is taken back.
func TestTheShelf(t *testing.T) {
	t.Parallel()
	p := startAt(t, "2026-11-24T20:12:00Z")
	page := p.open(t, demoStudio+"/shelf")
	const fronds = "Fern fronds, small"
	onTray(t, page, 0, 1, fronds)
	see(t, page, "Drying box")
	page.MustElement(".batch").MustFocus()
	page.Keyboard.MustType(input.ArrowRight)
	onTray(t, page, 0, 2, fronds)
	// drawn with the mouse into the box
	to := page.MustElement(`.tray[data-rack="1"][data-tray="2"] svg`).MustScrollIntoView().MustShape().Box()
	from := page.MustElement(".batch .piece").MustShape().Box()
	page.Mouse.MustMoveTo(from.X+from.Width/2, from.Y+from.Height/2)
	page.Mouse.MustDown("left")
	page.Mouse.MustMoveTo(to.X+to.Width/4, to.Y+to.Height/2)
	page.Mouse.MustMoveTo(to.X+to.Width/2, to.Y+to.Height/2)
	page.Mouse.MustUp("left")
	onTray(t, page, 1, 2, fronds)
	see(t, page, "to Drying box")
	press(page, "^Into a bag$")
	see(t, page, "in a bag")
	press(page, "^Out of the bag$")
	see(t, page, "out of the bag")
	press(page, "^Still soft$")
	see(t, page, "Noted: Still soft after ")
	press(page, "^Take it back$")
	until(page, `() => !document.body.innerText.includes('Noted: Still soft')`)
	press(page, "^Broke$")
	field2(page, "How many").MustSelectAllText().MustInput("99")
	press(page, "^Note it: broke$")
	see(t, page, "are whole")
	field2(page, "How many").MustSelectAllText().MustInput("2")
	press(page, "^Note it: broke$")
	see(t, page, "Noted: 2 broke")
	// two windows: what one moves the other shows
	other := p.open(t, demoStudio+"/shelf")
	onTray(t, other, 1, 2, fronds)
	page.MustElement(".batch").MustFocus()
	page.Keyboard.MustType(input.ArrowLeft)
	onTray(t, page, 1, 1, fronds)
	onTray(t, other, 1, 1, fronds)
	// the batch on its own stage, and in the notebook
	p.to(page, demoStudio+"/commissions/1/dry?piece=3")
	see(t, page, "lie on ")
	clickOn(page, "summary", "What if")
	see(t, page, "A fan on them")
	see(t, page, "Overnight")
	p.to(page, demoStudio+"/notebook")
	see(t, page, "2 broke")
	see(t, page, "still in the old kitchen") // those looks are left out
	page.MustElement(`[aria-label^="Let it count: Clover leaves"]`).MustClick()
	see(t, page, "Drying of flower paste")
	page.MustElement("input[type=search]").MustInput("cracked")
	until(page, `() => !document.body.innerText.includes('Tasted well')`)
	see(t, page, "Bumblebees")
}

// field2 is the field inside a label.
func field2(page *rod.Page, label string) *rod.Element {
	return page.MustElementByJS(`l => [...document.querySelectorAll('label')].filter(x => x.textContent.trim().startsWith(l)).map(x => x.querySelector('input')).find(Boolean) ?? null`, label)
}

// TestLiveAirReachesTwoWindows: what the sensor says stands in two browsers, its nonsense is
// told and not used, its silence is told, and it goes on after the server was away.
func TestLiveAirReachesTwoWindows(t *testing.T) {
	t.Parallel()
	p := startAt(t, "2026-11-24T20:12:00Z")
	page, other := p.open(t, demoStudio+"/room"), p.open(t, demoStudio+"/room")
	see(t, page, "Drying box")
	clickOn(page, "summary", "The room sensor is a stand-in")
	press(page, "^usual day$")
	for _, x := range []*rod.Page{page, other} {
		see(t, x, "live")
	}
	was := other.MustElement(".place .big").MustText()
	press(page, "^damp spell$")
	for _, x := range []*rod.Page{page, other} {
		if err := comes(x, `() => Number(document.querySelector('.place .big')?.innerText.match(/([\d.]+) %/)?.[1]) > 60`); err != nil {
			t.Fatalf("the damp is not shown: %s, at first %s", x.MustElement(".place .big").MustText(), was)
		}
	}
	press(page, "^nonsense$")
	see(t, other, "that cannot be, and is not used")
	press(page, "^usual day$")
	until(other, `() => !document.body.innerText.includes('that cannot be')`)
	// a minute on it is kept, and the strip has it
	p.clock(t, "2026-11-24T20:13:00Z")
	until(page, `() => /Read (now|1 min ago)/.test(document.body.innerText)`)
	press(page, "^unplugged$")
	see(t, page, "Its sensor is silent: the room sensor does not answer.")
	p.clock(t, "2026-11-24T21:30:00Z")
	see(t, page, "older than it should be")
	p.stop(t)
	p.again(t)
	p.to(page, demoStudio+"/room")
	see(t, page, "older than it should be") // what was kept is still there
	clickOn(page, "summary", "The room sensor is a stand-in")
	press(page, "^usual day$")
	see(t, page, "live")
}

// TestReadingsAndNotesOutOfFiles come in through the window, their columns matched by hand.
func TestReadingsAndNotesOutOfFiles(t *testing.T) {
	t.Parallel()
	p := start(t)
	at, err := time.Parse(time.RFC3339, evening)
	if err != nil {
		t.Fatal(err)
	}
	var b strings.Builder
	b.WriteString("stamp,a,b\n")
	for i := range 200 {
		fmt.Fprintf(&b, "%s,%.1f,%.1f\n", at.Add(-time.Duration(i)*30*time.Minute).Format(time.RFC3339), 19.5, 47.0)
	}
	readings := filepath.Join(t.TempDir(), "air.csv")
	notes := filepath.Join(t.TempDir(), "notes.csv")
	for file, text := range map[string]string{readings: b.String(), notes: "day;item;outcome\n" + at.AddDate(0, -1, 0).Format("2006-01-02") + ";Lantern;cracked\nsometime;Lantern;firm\n"} {
		if err := os.WriteFile(file, []byte(text), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	page := p.open(t, demoStudio+"/room")
	see(t, page, "Drying box")
	page.MustElementR(".place", "Drying box").MustClick()
	see(t, page, "read in Drying box")
	page.MustElement("input[type=file]").MustSetFiles(readings)
	see(t, page, "Say which column is the time")
	for label, column := range map[string]string{"Time": "stamp", "Temperature": "a", "Humidity": "b"} {
		pick(page, label, column)
	}
	see(t, page, "200 readings would come in.")
	press(page, "^Bring them in$")
	see(t, page, "200 readings came in.")
	see(t, page, "19.5 °C, 47 %")
	p.to(page, demoStudio+"/notebook")
	clickOn(page, "summary", "Bring an older notebook in")
	page.MustElement("input[type=file]").MustSetFiles(notes)
	see(t, page, "0 notes would come in, 2 rows cannot be read.")
	pick(page, "When", "day")
	pick(page, "Piece", "item")
	pick(page, "What was seen", "outcome")
	see(t, page, "1 note would come in, 1 row cannot be read.")
	see(t, page, "Row 3: ")
	press(page, "^Bring them in$")
	see(t, page, "1 note came in.")
	see(t, page, "Lantern")
}

// pick picks an option of the list inside a label.
func pick(page *rod.Page, label, option string) {
	list := page.MustElementByJS(`l => [...document.querySelectorAll('label')].filter(x => x.textContent.trim().startsWith(l)).map(x => x.querySelector('select')).find(Boolean) ?? null`, label)
	list.MustEval(`o => { this.selectedIndex = [...this.options].findIndex(x => x.text === o); this.dispatchEvent(new Event('change', { bubbles: true })) }`, option)
}
