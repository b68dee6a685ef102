package e2e

import (
	"fmt"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
)

// reader waits until what is said of a pennant holds the words.
func reader(t testing.TB, page *rod.Page, words string) {
	t.Helper()
	if err := comes(page, `w => document.querySelector('.reader')?.innerText.includes(w)`, words); err != nil {
		t.Fatalf("never read %q; it says:\n%s", words, page.MustElement(".reader").MustText())
	}
}

func stepOf(t testing.TB, p *program, order int, op string) (s planned) {
	t.Helper()
	var line struct{ Rows []struct{ Steps []planned } }
	p.get(t, fmt.Sprintf("%s/line?commission=%d", demoStudio, order), &line)
	for _, r := range line.Rows {
		for _, x := range r.Steps {
			if x.Op == op {
				return x
			}
		}
	}
	t.Fatalf("%s is not on the line", op)
	return s
}

// TestTheLineIsReadAndMoved: a pennant is read by keys, by the pointer and by touch; it is
// put elsewhere with the effect said before, and taken back.
func TestTheLineIsReadAndMoved(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/commissions/1/line")
	see(t, page, "Touch a pennant or a cord")
	const op = "p4.1.knead" // of the toadstool caps
	was := stepOf(t, p, 1, op)

	// by keys: along the string, then a quarter of an hour on
	page.MustElement(`.hang[tabindex="0"]`).MustEval(`() => this.focus()`)
	first := page.MustElement(".reader h2").MustText()
	page.Keyboard.MustType(input.ArrowDown)
	until(page, fmt.Sprintf(`() => ![undefined, %q].includes(document.querySelector('.reader h2')?.innerText)`, first))
	hang := page.MustElement(fmt.Sprintf(`.hang[data-op=%q]`, op))
	hang.MustEval(`() => this.focus()`)
	reader(t, page, "for Toadstool caps")
	reader(t, page, "Could begin as late as ")
	reader(t, page, "in hand")
	page.Keyboard.MustType(input.ArrowRight) // to its press, and back
	reader(t, page, "Press 17 Toadstool caps")
	page.Keyboard.MustType(input.ArrowLeft)
	reader(t, page, "Knead 51 g for Toadstool caps")
	for range 2 {
		if err := page.Keyboard.Press(input.ShiftLeft); err != nil {
			t.Fatal(err)
		}
		page.Keyboard.MustType(input.ArrowRight)
		if err := page.Keyboard.Release(input.ShiftLeft); err != nil {
			t.Fatal(err)
		}
	}
	at := time.UnixMilli(was.Start).UTC().Add(30 * time.Minute)
	reader(t, page, at.Format(" 15:04")+" to ")
	if stepOf(t, p, 1, op).Start != was.Start {
		t.Error("it has moved before it was let go")
	}
	if n := len(page.MustElements(".ghost")); n == 0 {
		t.Error("it is not drawn where it would stand")
	}
	page.Keyboard.MustType(input.Enter)
	reader(t, page, "Pinned to ")
	until(page, fmt.Sprintf(`() => document.querySelector('.reader b').innerText.includes(%q)`, at.Format(" 15:04")+" to ")) // the plan follows beside the write
	press(page, "Bring it back|Take it back|Undo")
	until(page, `() => !document.querySelector('.reader').innerText.includes('Pinned to')`)
	until(page, fmt.Sprintf(`() => document.querySelector('.reader b').innerText.includes(%q)`, time.UnixMilli(was.Start).UTC().Format(" 15:04")+" to "))

	// by hand: drawn on to a night it finds hours, or says that there are none
	hang = page.MustElement(fmt.Sprintf(`.hang[data-op=%q]`, op))
	hang.MustEval(`() => this.scrollIntoView({block: "center"})`)
	box := hang.MustShape().Box()
	page.Mouse.MustMoveTo(box.X+box.Width/2, box.Y+box.Height/2)
	page.Mouse.MustDown("left")
	page.Mouse.MustMoveTo(box.X+60, box.Y+box.Height/2)
	page.Mouse.MustMoveTo(box.X+120, box.Y+box.Height/2)
	page.MustElement(".ghost.own")
	page.Mouse.MustMoveTo(box.X+box.Width/2, box.Y+box.Height/2)
	page.Keyboard.MustType(input.Escape)
	page.Mouse.MustUp("left")
	until(page, `() => !document.querySelector('.ghost')`)

	// what hangs on a string, and how
	press(page, "^by piece$")
	until(page, `() => [...document.querySelectorAll('.lane .name')].every(x => !x.innerText.includes('part 1'))`)
	p.to(page, demoStudio+"/line")
	see(t, page, "every order")
	press(page, "Fold every order")
	see(t, page, "Open every order")
	folded := len(page.MustElements(".lane"))
	press(page, "Open every order")
	until(page, fmt.Sprintf(`() => document.querySelectorAll('.lane').length > %d`, folded+5))
	press(page, "^by person$")
	page.MustElementR(".lane .name, .title", "Tobi")
	press(page, "^three$")
	see(t, page, "Wed 25 Nov to Tue 15 Dec")
	press(page, "^nights long$")
	until(page, `() => document.querySelector('.lines').scrollWidth > 4000`)

	// a telephone: touched, it is read, and buttons put it elsewhere
	p.to(page, demoStudio+"/commissions/1/line")
	page.MustSetViewport(390, 844, 1, true)
	page.MustElement(fmt.Sprintf(`.hang[data-op=%q]`, op)).MustEval(`() => this.focus()`)
	reader(t, page, "Knead 51 g for Toadstool caps")
	press(page, "^15 min later$")
	reader(t, page, "From ")
	press(page, "^Leave it where it was$")
	until(page, `() => !document.querySelector('.reader').innerText.includes("Leave it where it was")`)
}

// TestTheWeekOnPaper: seven days with a box each, whose hands, and what is handed over;
// the weeks ahead as hands against hours.
func TestTheWeekOnPaper(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/week")
	see(t, page, "Thursday 26 Nov")
	see(t, page, "19:00 to 22:00, Ines and Tobi")
	see(t, page, "Handed over: Observatory evening, 18:00")
	if n := len(page.MustElements(".day")); n != 7 {
		t.Errorf("%d days", n)
	}
	if n, m := len(page.MustElements(".week .box")), len(page.MustElements(".week tbody tr")); n < 20 || n != m {
		t.Errorf("%d boxes for %d steps", n, m)
	}
	press(page, "^Later$")
	see(t, page, "Handed over: Fernery centenary, 10:00")
	p.to(page, demoStudio+"/workload")
	see(t, page, "The fullest: ")
	clickOn(page, "summary", "The same in words")
	see(t, page, "Thursday 26 Nov: ")
	see(t, page, "at once")
	if full := len(page.MustElements(".busy.full")); full != 0 {
		t.Errorf("%d evenings of the demo are crammed", full)
	}
}

// TestCalendarsInAndOut: an address with a secret, renewed and switched off; busy times
// out of a file, seen before the hours close.
func TestCalendarsInAndOut(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/kitchen")
	press(page, "Make an address for a calendar")
	first := page.MustElement("code.address").MustText()
	press(page, "Another secret")
	until(page, fmt.Sprintf(`() => document.querySelector('code.address').innerText !== %q`, first))
	press(page, "Switch it off")
	see(t, page, "Make an address for a calendar")

	file := filepath.Join(t.TempDir(), "busy.ics")
	if err := os.WriteFile(file, []byte("no calendar"), 0o600); err != nil {
		t.Fatal(err)
	}
	press(page, "^Ines$")
	page.MustElement(`input[accept*=".ics"]`).MustSetFiles(file)
	see(t, page, "This is no calendar file")
	ics := "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:x\r\nBEGIN:VEVENT\r\nUID:1\r\nDTSTART:20261126T180000Z\r\nDTEND:20261126T230000Z\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n"
	if err := os.WriteFile(file, []byte(ics), 0o600); err != nil {
		t.Fatal(err)
	}
	page.MustElement(`input[accept*=".ics"]`).MustSetFiles(file)
	see(t, page, "1 busy stretch in the next 90 days, 1 of them in hours at the bench of Ines")
	press(page, "Close the hours then")
	see(t, page, "Ines: 1 busy stretch, the last until Thu 23:00")
	p.to(page, demoStudio+"/week")
	see(t, page, "19:00 to 22:00, Tobi")
}

// TestAnEveningOfTwo: each sees the own steps; hands that are called off find what to
// cover and come back; a few minutes are filled.
func TestAnEveningOfTwo(t *testing.T) {
	t.Parallel()
	p := startAt(t, "2026-11-26T19:00:30Z")
	page := p.open(t, demoStudio+"/bench")
	page.MustElement(".people")
	press(page, "^Tobi$")
	until(page, `() => document.querySelector('.now .acts')?.innerText.includes('Tobi')`)
	press(page, "^Ines$")
	until(page, `() => document.querySelector('.now .acts')?.innerText.includes('Ines')`)
	see(t, page, "For other hands")
	press(page, "^Called off$")
	see(t, page, "Called off since 19:00")
	see(t, page, "Cover the paste")
	p.clock(t, "2026-11-26T19:12:00Z")
	see(t, page, "min: ")
	press(page, "^I am back at it$")
	until(page, `() => !document.body.innerText.includes('Called off since')`)
	press(page, "^40 min$")
	see(t, page, "would fit into 40 min")
	press(page, "Take back: was called off|Take back: went on after")
	see(t, page, "Called off since 19:00")
}
