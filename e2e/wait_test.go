package e2e

import (
	"context"
	"errors"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/cdp"
)

// comes waits until a function of the page, given some values, finds something. The page looks by
// itself: when something in it has changed, and else four times a second.
func comes(page *rod.Page, js string, values ...any) error {
	in := page.Timeout(patience)
	defer in.CancelTimeout()
	for {
		_, err := in.Eval(`(...values) => new Promise(come => {
			const found = `+js+`
			let news = true
			const watch = new MutationObserver(() => (news = true))
			watch.observe(document, { subtree: true, childList: true, characterData: true, attributes: true })
			let at = 0
			const look = () => {
				if (news || at % 8 === 0) {
					news = false
					try { if (found(...values)) { watch.disconnect(); return come(true) } } catch { /* not yet */ }
				}
				at++
				setTimeout(look, 30)
			}
			look()
		})`, values...)
		var gone *cdp.Error
		switch {
		case err == nil:
			return nil
		case in.GetContext().Err() != nil:
			return context.DeadlineExceeded
		case !errors.As(err, &gone):
			return err
		}
		// the page went elsewhere, and what looked with it
	}
}

// until waits likewise and fails the test of the page.
func until(page *rod.Page, js string, values ...any) {
	if comes(page, js, values...) != nil {
		page.Timeout(time.Millisecond).MustWait(js, values...)
	}
}

// see waits until the page's text holds the words.
func see(t testing.TB, page *rod.Page, words string) {
	t.Helper()
	if err := comes(page, `w => document.body.innerText.includes(w)`, words); err != nil {
		t.Fatalf("never saw %q on %s (%v); it says:\n%.1500s", words, page.MustInfo().URL, err, page.MustEval(`() => document.body.innerText`).Str())
	}
}

// wrong waits until something is said among what is wrong today, in sight or folded.
func wrong(t testing.TB, page *rod.Page, words string) {
	t.Helper()
	until(page, `w => {
		for (const folded of document.querySelectorAll('.troubles details:not([open]) > summary')) folded.click()
		return document.body.innerText.includes(w)
	}`, words)
}

// clickOn presses the first element of that selector whose text matches, as soon as it can be: it
// stands uncovered, and is not disabled. It is pressed itself, not its place: a line hung anew
// beside the write may move it under the mouse.
func clickOn(page *rod.Page, selector, words string) {
	until(page, `(selector, words) => {
		const like = new RegExp(words)
		const is = [...document.querySelectorAll(selector)].find(x => like.test(x.innerText ?? x.textContent))
		if (!is || is.disabled) return false
		const uncovered = () => {
			const box = is.getBoundingClientRect()
			const top = document.elementFromPoint(box.left + box.width / 2, box.top + box.height / 2)
			return box.width > 0 && box.height > 0 && top && (is.contains(top) || top.contains(is))
		}
		if (!uncovered()) is.scrollIntoView({ block: 'center', behavior: 'instant' })
		if (!uncovered()) return false
		is.click()
		return true
	}`, selector, words)
}

// stands waits until the field under a label holds a text that begins so.
func stands(page *rod.Page, label, text string) {
	until(page, `(l, t) => [...document.querySelectorAll('label')].some(x => x.textContent.trim().startsWith(l) && document.getElementById(x.htmlFor)?.value.startsWith(t))`, label, text)
}
