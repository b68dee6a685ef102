package api

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"strconv"
	"strings"
	"testing"
	"time"

	"dustyfern/store"
	"dustyfern/store/storetest"
	"dustyfern/studio/document"
	"dustyfern/studio/journal"
)

// stream is an open window's ear.
type stream struct {
	t      testing.TB
	events chan string
	cancel context.CancelFunc
	ended  chan struct{}
}

// listenTo opens a stream and waits for its hello.
func listenTo(t testing.TB, url, path string) *stream {
	t.Helper()
	ctx, cancel := context.WithCancel(t.Context())
	req, _ := http.NewRequestWithContext(ctx, "GET", url+"/api"+path, nil)
	resp, err := http.DefaultClient.Do(req)
	if err != nil {
		t.Fatal(err)
	}
	if resp.StatusCode != 200 || resp.Header.Get("Content-Type") != "text/event-stream" {
		t.Fatalf("%s: %s %s", path, resp.Status, resp.Header.Get("Content-Type"))
	}
	s := &stream{t, make(chan string, 1000), cancel, make(chan struct{})}
	go func() {
		defer close(s.ended)
		defer resp.Body.Close()
		for lines := bufio.NewScanner(resp.Body); lines.Scan(); {
			if e, ok := strings.CutPrefix(lines.Text(), "event: "); ok {
				s.events <- e
			}
		}
	}()
	t.Cleanup(cancel)
	s.hears("hello")
	return s
}

// hears waits for an event; other beats of the clock are let pass.
func (s *stream) hears(event string) {
	s.t.Helper()
	for late := time.After(10 * time.Second); ; {
		select {
		case e := <-s.events:
			if e == event {
				return
			}
		case <-s.ended:
			s.t.Fatalf("the stream ended before it said %s", event)
		case <-late:
			s.t.Fatalf("it never said %s", event)
		}
	}
}

// drain forgets what was said.
func (s *stream) drain() {
	for len(s.events) > 0 {
		<-s.events
	}
}

func (h *house) setPiece(name, field, text string) {
	h.t.Helper()
	p := h.piece(name)
	h.must(fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID), change(p.Version, set{field: text}), nil)
}

func TestChangesReachEveryWindow(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	h.must("/studios", set{"name": "Elm Bench"}, nil)
	second, err := store.Open(t.Context(), storetest.DSN(h.name))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(second.Close)
	other, _ := h.copyOf(second) // another copy of the program on the same database
	one, two, elm := listenTo(t, h.url, hollow+"/events"), listenTo(t, other, hollow+"/events"), listenTo(t, h.url, "/s/elm-bench/events")
	for _, s := range []*stream{one, two, elm} {
		s.drain()
	}
	h.setPiece("Beetles", "colour", "soot")
	one.hears("changed")
	two.hears("changed")
	select {
	case e := <-elm.events:
		if e == "changed" {
			t.Error("another studio heard of it")
		}
	default:
	}
	if resp, err := http.Get(h.url + "/api/s/nowhere/events"); err != nil || resp.StatusCode != 404 {
		t.Errorf("%v %v", resp, err)
	}
}

// TestAViewSaysWhichChangesItHolds: by the same count as the stream's words, so that a window knows
// what of it was read before a change.
func TestAViewSaysWhichChangesItHolds(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	views := []string{"/bench", "/kitchen", "/commissions", "/commissions/1", "/commissions/1/leaving", "/pieces/5", "/tools", "/pantry", "/line", "/week?from=2026-11-24", "/workload", "/shelf", "/room", "/ways", "/notebook", "/journal", "/needs", "/rescue"}
	holds := func(path string) int {
		t.Helper()
		resp, err := http.Get(h.url + "/api" + hollow + path)
		if err != nil {
			t.Fatal(err)
		}
		resp.Body.Close()
		n, err := strconv.Atoi(resp.Header.Get("X-Told"))
		if err != nil || resp.StatusCode != http.StatusOK {
			t.Errorf("%s: %s, holds %q", path, resp.Status, resp.Header.Get("X-Told"))
		}
		return n
	}
	was := holds("/bench")
	h.setPiece("Beetles", "colour", "soot")
	for _, path := range views {
		if n := holds(path); n <= was {
			t.Errorf("%s holds %d changes, of at least %d", path, n, was+1)
		}
	}
}

func TestAHundredWindowsOnOneSource(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	var all []*stream
	for range 100 {
		all = append(all, listenTo(t, h.url, hollow+"/events"))
	}
	if n := h.live.Open(); n != 100 {
		t.Fatalf("%d streams", n)
	}
	h.setPiece("Beetles", "colour", "soot")
	for _, s := range all {
		s.hears("changed")
	}
	// a stop does not wait for them
	h.live.Close()
	for _, s := range all {
		select {
		case <-s.ended:
		case <-time.After(10 * time.Second):
			t.Fatal("a stream outlives the stop")
		}
	}
}

func TestStreamsGoOnWhenTheDatabaseWasAway(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	s := listenTo(t, h.url, hollow+"/events")
	h.setPiece("Beetles", "colour", "soot")
	s.hears("changed")
	s.drain()
	p := h.piece("Beetles")
	if err := storetest.Exec(t, "postgres", "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '"+h.name+"'"); err != nil {
		t.Fatal(err)
	}
	s.hears("changed") // it listens again, and says that word may have been missed
	s.drain()
	for try := 0; ; try++ { // the pool finds out about its dead connections by using them
		if status, _ := h.ask(fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID), change(p.Version, set{"colour": "ink"}), nil); status == 200 {
			break
		} else if try > 20 {
			t.Fatal("the database stays away")
		}
	}
	s.hears("changed")
}

func TestWhoActsAndSendsTwice(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	for range 2 {
		req, _ := http.NewRequest("POST", h.url+"/api"+hollow+"/pieces/6/duplicate", strings.NewReader("{}"))
		req.Header.Set("Content-Type", "application/json")
		req.Header.Set("X-Person", "Zo%C3%AB")
		req.Header.Set("X-Act", "w1/1")
		resp, err := http.DefaultClient.Do(req)
		if err != nil || resp.StatusCode != 200 {
			t.Fatal(resp.Status, err)
		}
		resp.Body.Close()
	}
	var j journal.JournalView
	h.must(hollow+"/journal?commission=1", nil, &j)
	if j.Entries[0].Who != "Zoë" || j.Entries[0].Says != "copied Beetles" || j.Entries[1].Says == "copied Beetles" {
		t.Errorf("%+v", j.Entries[:2])
	}
	h.must(fmt.Sprintf("%s/journal/undo?entry=%d&last=true", hollow, h.journal().UndoID), set{}, nil)
	if n := len(h.commission().Pieces); n != 6 {
		t.Errorf("%d pieces", n)
	}
	again := h.journal().RedoID
	h.must(fmt.Sprintf("%s/journal/redo?entry=%d", hollow, again), set{}, nil)
	if n := len(h.commission().Pieces); n != 7 {
		t.Errorf("%d pieces", n)
	}
	if status, p := h.ask(fmt.Sprintf("%s/journal/redo?entry=%d", hollow, again), set{}, nil); status != 422 || p.Detail == "" {
		t.Errorf("%d %+v", status, p)
	}
}

func (h *house) journal() (j journal.JournalView) {
	h.t.Helper()
	h.must(hollow+"/journal", nil, &j)
	return j
}

func BenchmarkChangeHeard(b *testing.B) {
	h := serve(b, true)
	s := listenTo(b, h.url, hollow+"/events")
	h.setPiece("Beetles", "colour", "soot")
	s.hears("changed")
	n := 0
	for b.Loop() {
		n++
		b.StopTimer()
		s.drain()
		p := h.piece("Beetles")
		b.StartTimer()
		h.must(fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID), change(p.Version, set{"colour": fmt.Sprint("soot ", n)}), nil)
		s.hears("changed")
	}
}

func TestDocumentsThroughTheDoor(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	get := func(path string) (string, *http.Response) {
		t.Helper()
		resp, err := http.Get(h.url + "/api" + path)
		if err != nil {
			t.Fatal(err)
		}
		defer resp.Body.Close()
		b, _ := io.ReadAll(resp.Body)
		return string(b), resp
	}
	doc, resp := get(hollow + "/export")
	if resp.StatusCode != 200 || !strings.Contains(resp.Header.Get("Content-Disposition"), "hollow-lane-sugar-room.json") {
		t.Fatal(resp.Status, resp.Header)
	}
	send := func(path, body string, into any) int {
		t.Helper()
		resp, err := http.Post(h.url+"/api"+path, "application/json", strings.NewReader(body))
		if err != nil {
			t.Fatal(err)
		}
		defer resp.Body.Close()
		_ = json.NewDecoder(resp.Body).Decode(into)
		return resp.StatusCode
	}
	var seen document.Preview
	if status := send("/studios/import/look", doc, &seen); status != 200 || seen.Pieces != 28 {
		t.Errorf("%d %+v", status, seen)
	}
	var row document.StudioRow
	if status := send("/studios/import", doc, &row); status != 200 || row.Slug != "hollow-lane-sugar-room-2" {
		t.Errorf("%d %+v", status, row)
	}
	if again, _ := get("/s/" + row.Slug + "/export"); again != doc {
		t.Error("it came back changed")
	}
	// line by line: how far it is, never backward, and at last the studio
	status, lines := 0, []broughtIn{}
	resp2, err := http.Post(h.url+"/api/studios/import/lines", "application/json", strings.NewReader(doc))
	if err != nil {
		t.Fatal(err)
	}
	defer resp2.Body.Close()
	for d := json.NewDecoder(resp2.Body); ; {
		var l broughtIn
		if d.Decode(&l) != nil {
			break
		}
		lines = append(lines, l)
	}
	if status = resp2.StatusCode; status != 200 || len(lines) < 4 {
		t.Fatalf("%d %+v", status, lines)
	}
	for i, l := range lines[1:] {
		if l.Done < lines[i].Done || l.Of != lines[0].Of || l.Row != nil && i+2 < len(lines) {
			t.Errorf("%+v after %+v", l, lines[i])
		}
	}
	if last := lines[len(lines)-1]; last.Done != last.Of || last.Row == nil || last.Row.Slug != "hollow-lane-sugar-room-3" {
		t.Errorf("%+v", last)
	}
	var p Problem
	if status := send("/studios/import/lines", strings.Replace(doc, `"tempC": 21`, `"tempC": 400`, 1), &p); status != 422 || p.Fields[0].Field != "kitchen.tempC" {
		t.Errorf("%d %+v", status, p)
	}
	if status := send("/studios/import", strings.Replace(doc, `"tempC": 21`, `"tempC": 400`, 1), &p); status != 422 || p.Fields[0].Field != "kitchen.tempC" {
		t.Errorf("%d %+v", status, p)
	}
	if status := send("/studios/import", strings.Repeat(" ", 129<<20)+"{}", &p); status != 413 {
		t.Errorf("129 MB: %d", status)
	}
	h.must(hollow+"/rows/lots", map[string]any{"set": set{"name": "=1+1", "kind": "sugarPaste", "massG": "5 g"}}, nil)
	csv, resp := get(hollow + "/pantry/file/csv")
	if resp.Header.Get("Content-Type") != "text/csv; charset=utf-8" || !strings.HasPrefix(csv, "name,kind,massG,") || !strings.Contains(csv, "'=1+1,sugarPaste,5 g") {
		t.Error(csv)
	}
	if _, resp := get(hollow + "/csv/beetles"); resp.StatusCode != 422 {
		t.Error(resp.Status)
	}
	if status, p := h.ask(hollow+"/reset", set{}, nil); status != 404 || p.Detail == "" {
		t.Errorf("%d %+v", status, p)
	}
}
