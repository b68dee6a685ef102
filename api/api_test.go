package api

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"github.com/jackc/pgx/v5"

	"dustyfern/demo"
	"dustyfern/store"
	"dustyfern/store/storetest"
	"dustyfern/studio"
	"dustyfern/studio/evening"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/pantry"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

func TestMain(m *testing.M) { os.Exit(storetest.Run(m)) }

// house is a served copy of the program with a database and a clock of its own.
type house struct {
	t     testing.TB
	url   string
	now   time.Time
	store *store.Store
	name  string
	live  *Live
}

var tuesday = time.Date(2026, 11, 24, 20, 12, 0, 0, time.UTC)

func serve(t testing.TB, withDemo bool) *house {
	t.Helper()
	ctx := t.Context()
	h := &house{t: t, now: tuesday}
	h.store, h.name = storetest.Open(t)
	if withDemo {
		if err := demo.Load(ctx, h.store, h.now); err != nil {
			t.Fatal(err)
		}
	}
	h.url, h.live = h.copyOf(h.store)
	if withDemo {
		h.must(hollow+"/bench", nil, nil) // a look has the plan made
	}
	return h
}

// line is all of the first commission in the plan, made anew when it is due.
func (h *house) line() (v plan.LineView) {
	h.t.Helper()
	h.must(hollow+"/line?commission=1", nil, nil)
	h.must(hollow+"/line?commission=1", nil, &v)
	return v
}

// steps of the first commission with their words.
func (h *house) steps() (out []plan.LineStep) {
	h.t.Helper()
	h.line()
	if err := h.store.Read(h.t.Context(), "hollow-lane-sugar-room", func(tx journal.Tx) error {
		all, err := tx.Steps(1)
		for _, s := range work.Derived(all, h.now) {
			out = append(out, plan.NewLineStep(s, "", h.now))
		}
		return err
	}); err != nil {
		h.t.Fatal(err)
	}
	return out
}

// pieces of the first commission, whole.
func (h *house) pieces() (out []work.PieceView) {
	h.t.Helper()
	for _, p := range h.commission().Pieces {
		var v work.PieceView
		h.must(fmt.Sprintf("%s/pieces/%d", hollow, p.ID), nil, &v)
		out = append(out, v)
	}
	return out
}

// copyOf serves another copy of the program on a store.
func (h *house) copyOf(s *store.Store) (url string, live *Live) {
	h.t.Helper()
	live = NewLive()
	ctx, stop := context.WithCancel(context.Background())
	ended, listens := make(chan struct{}), make(chan struct{})
	var once sync.Once
	go func() {
		s.Listen(ctx, func(id, told int64) {
			once.Do(func() { close(listens) })
			live.Tell(id, told)
		})
		close(ended)
	}()
	<-listens
	service := studio.New(s, func() time.Time { return h.now })
	// a plan that is wanted is made at once, so that tests need not wait for it
	service.Wake = func(slug string) { _ = service.Plan(context.Background(), slug) }
	e, _ := New(Options{Service: service, Live: live, Log: slog.New(slog.DiscardHandler)})
	srv := httptest.NewServer(e)
	h.t.Cleanup(func() {
		live.Close()
		srv.Close()
		stop()
		<-ended
	})
	return srv.URL, live
}

// ask sends a request; a body of nil is a GET.
func (h *house) ask(path string, body any, into any) (int, Problem) {
	h.t.Helper()
	var resp *http.Response
	var err error
	if body == nil {
		resp, err = http.Get(h.url + "/api" + path)
	} else {
		b, _ := json.Marshal(body)
		resp, err = http.Post(h.url+"/api"+path, "application/json", bytes.NewReader(b))
	}
	if err != nil {
		h.t.Fatal(err)
	}
	defer resp.Body.Close()
	raw, _ := io.ReadAll(resp.Body)
	var p Problem
	if resp.StatusCode >= 300 {
		if err := json.Unmarshal(raw, &p); err != nil || resp.Header.Get("Content-Type") != "application/problem+json" {
			h.t.Errorf("%s: no problem+json: %s", path, raw)
		}
	} else if into != nil {
		if err := json.Unmarshal(raw, into); err != nil {
			h.t.Fatal(err)
		}
	}
	return resp.StatusCode, p
}

func (h *house) must(path string, body any, into any) {
	h.t.Helper()
	if status, p := h.ask(path, body, into); status >= 300 {
		h.t.Fatalf("%s: %d %+v", path, status, p)
	}
}

type set = map[string]string

const hollow = "/s/hollow-lane-sugar-room"

func change(version int64, s set) any { return map[string]any{"version": version, "set": s} }

func (h *house) commission() work.CommissionView {
	h.t.Helper()
	var c work.CommissionView
	h.must(hollow+"/commissions/1", nil, &c)
	return c
}

func (h *house) lot(name string) pantry.LotView {
	h.t.Helper()
	var p pantry.PantryView
	h.must(hollow+"/pantry", nil, &p)
	for _, sh := range p.Shelves {
		for _, l := range sh.Lots {
			if l.Name == name {
				var v pantry.LotView
				h.must(fmt.Sprintf("%s/lots/%d", hollow, l.ID), nil, &v)
				return v
			}
		}
	}
	h.t.Fatalf("there is no lot %q", name)
	return pantry.LotView{}
}

func (h *house) piece(name string) work.PieceView {
	h.t.Helper()
	for _, p := range h.commission().Pieces {
		if p.Name == name {
			var v work.PieceView
			h.must(fmt.Sprintf("%s/pieces/%d", hollow, p.ID), nil, &v)
			return v
		}
	}
	h.t.Fatalf("no piece %q", name)
	return work.PieceView{}
}

func TestTheDemoIsAliveOnEachWeekday(t *testing.T) {
	for day := range 7 {
		t.Run((tuesday.AddDate(0, 0, day)).Weekday().String(), func(t *testing.T) {
			t.Parallel()
			h := serve(t, false)
			h.now = tuesday.AddDate(0, 0, day)
			if err := demo.Load(t.Context(), h.store, h.now); err != nil {
				t.Fatal(err)
			}
			line := h.line()
			if line.Trouble != "" || len(line.LeftOut) > 0 || len(line.Rows) != 1 || len(line.Late) > 0 {
				t.Errorf("%+v %v %v", line.Trouble, line.LeftOut, line.Late)
			}
			var list studio.CommissionsView
			h.must(hollow+"/commissions", nil, &list)
			rows := append(list.Rows, list.Closed...)
			if len(rows) != 4 || rows[3].State != "handedOver" {
				t.Errorf("%+v", rows)
			}
			begun := 0
			for _, r := range rows {
				for _, l := range r.Frond {
					if l.State != "curled" {
						begun++
					}
				}
			}
			if begun == 0 {
				t.Error("nothing is on the bench or drying")
			}
		})
	}
}

func TestTwoWindowsMergeOrMeet(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	p := h.piece("Beetles")
	row := fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID)
	h.must(row, change(p.Version, set{"wanted": "11"}), nil)
	h.must(row, change(p.Version, set{"colour": "green black"}), nil) // another field of the same old version
	if p := h.piece("Beetles"); p.Wanted != 11 || p.Colour != "green black" {
		t.Errorf("%+v", p)
	}
	status, prob := h.ask(row, change(p.Version, set{"wanted": "20"}), nil)
	if status != 409 || prob.Theirs["wanted"] != "11" || prob.Yours["wanted"] != "20" || prob.Version <= p.Version {
		t.Fatalf("%d %+v", status, prob)
	}
	h.must(row, change(prob.Version, set{"wanted": "20"}), nil)
	c := h.commission()
	h.must(hollow+"/rows/commissions/1", change(c.Version, set{"guests": "a hundred"}), nil)
	if status, prob := h.ask(hollow+"/rows/commissions/1", change(c.Version, set{"guests": "two"}), nil); status != 409 || prob.Theirs["guests"] != "a hundred" {
		t.Errorf("%d %+v", status, prob)
	}
}

// TestBadInputOnEveryField sends what people and cats type into each field of
// each form: a sentence beside the field, and the row stays as it was.
func TestBadInputOnEveryField(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	var k studio.KitchenView
	h.must(hollow+"/kitchen", nil, &k)
	var toolRows []work.RowView
	h.must(hollow+"/tools", nil, &toolRows)
	paste, gel := h.lot("White sugar paste, open"), h.lot("Fern green")
	c, first := h.commission(), h.pieces()[0]
	for _, form := range []struct {
		path    string
		version int64
		fields  []read.FieldView
	}{
		{hollow + "/kitchen", k.Row.Version, k.Row.Fields}, {fmt.Sprintf(hollow+"/rows/tools/%d", toolRows[0].ID), toolRows[0].Version, toolRows[0].Fields},
		{fmt.Sprintf(hollow+"/rows/lots/%d", paste.ID), paste.Version, paste.Fields}, {fmt.Sprintf(hollow+"/rows/lots/%d", gel.ID), gel.Version, gel.Fields}, {hollow + "/rows/commissions/1", c.Version, c.Fields},
		{fmt.Sprintf(hollow+"/rows/pieces/%d", first.ID), first.Version, append(first.Fields, read.FieldView{Name: "trial", Kind: "amount"}, read.FieldView{Name: "peg", Kind: "amount"})},
	} {
		for _, f := range form.fields {
			bad := []string{strings.Repeat("x", 10000)}
			switch f.Kind {
			case "amount", "count":
				bad = append(bad, "twelve-ish fish", "-5", "1e999", "99999999999", "🍰", "3 °C 4 g", "NaN")
			case "choice":
				bad = append(bad, "none of these", "🍰")
			case "date":
				bad = append(bad, "someday", "32 Nov", "🍰", "1 Jan 1900")
			case "swatch":
				bad = append(bad, "#12", "greenish")
			case "yes":
				bad = append(bad, "perhaps")
			case "many":
				bad = append(bad, "kryptonite")
			case "lines":
				bad = append(bad, "???")
			}
			if f.Name == "trial" {
				bad = append(bad, "37 l") // in the middle of its density 49.95 kg, at the end of it more than can be kept
			}
			if f.Name == "timeZone" {
				bad = append(bad, "Mars/Olympus", "")
			}
			for _, text := range bad {
				status, p := h.ask(form.path, change(form.version, set{f.Name: text}), nil)
				if status != 422 || len(p.Fields) != 1 || p.Fields[0].Field != f.Name || len(p.Fields[0].Detail) < 10 {
					t.Errorf("%s %s = %.20q: %d %+v", form.path, f.Name, text, status, p)
				}
			}
		}
	}
	if after := h.commission(); after.Version != c.Version || after.Pieces[0].Version != c.Pieces[0].Version {
		t.Error("bad input changed a row")
	}
	if status, p := h.ask(hollow+"/rows/commissions/1", change(c.Version, set{"handOver": "1 Nov 2026"}), nil); status != 422 || !strings.Contains(p.Detail, "over") {
		t.Errorf("a hand-over in the past: %d %+v", status, p)
	}
}

func TestAllergensAreRefused(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	p := h.piece("Toadstool caps")
	status, prob := h.ask(fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID), change(p.Version, set{"dough": "marzipan"}), nil)
	if status != 422 || !strings.Contains(prob.Detail, "nuts") {
		t.Errorf("marzipan at a table with a nut allergy: %d %+v", status, prob)
	}
	c := h.commission()
	h.must(hollow+"/rows/commissions/1", change(c.Version, set{"allergies": "nuts, egg"}), nil)
	stems := h.piece("Toadstool stems") // wants flower paste, whose label says egg
	if len(stems.Paste.Refused) == 0 || stems.Paste.Short == "" {
		t.Errorf("%+v", stems.Paste)
	}
	for _, m := range stems.Paste.Mix {
		if strings.Contains(m.Name, "flower") {
			t.Error("flower paste with egg is still mixed in")
		}
	}
}

func TestAnEmptyWindowAndItsWaysOut(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	p := h.piece("Beetles") // undercuts, 1.4 and up
	row := fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID)
	h.must(row, change(p.Version, set{"eaten": "mouthful"}), nil) // children eat: 1.0 at most
	p = h.piece("Beetles")
	if !p.Paste.Empty || len(p.Paste.Clash) != 2 || p.Paste.Open {
		t.Fatalf("%+v", p.Paste)
	}
	for _, do := range []string{"splitThePiece", "serveUneaten", "backIt"} {
		i := slices.IndexFunc(p.Paste.Ways, func(w work.WayView) bool { return w.Do == do })
		if i < 0 {
			t.Fatalf("no way out %q in %+v", do, p.Paste.Ways)
		}
		h.must(row, change(p.Version, p.Paste.Ways[i].Set), nil)
		taken := h.piece("Beetles")
		if !taken.Paste.Open || taken.Paste.Peg == nil {
			t.Errorf("%s opens nothing: %+v", do, taken.Paste)
		}
		back := set{"eaten": "mouthful"}
		if j := slices.IndexFunc(taken.Paste.Ways, func(w work.WayView) bool { return w.Applied }); j >= 0 {
			back = taken.Paste.Ways[j].Set
		} else if do != "serveUneaten" {
			t.Errorf("%s cannot be taken back: %+v", do, taken.Paste.Ways)
		}
		h.must(row, change(taken.Version, back), nil)
		if p = h.piece("Beetles"); !p.Paste.Empty {
			t.Errorf("%s taken back leaves it open", do)
		}
	}
}

func TestPegSchoolAndGrams(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	p := h.piece("Fern fronds, medium")
	row := fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID)
	h.must(row, change(p.Version, set{"peg": "2.3"}), nil)
	p = h.piece("Fern fronds, medium")
	if p.Paste.Peg.Value != 2.3 || !slices.Contains(p.Paste.Broken, "nibbled, mostly looked at") {
		t.Errorf("%+v", p.Paste)
	}
	gum, mass := 0.0, 0.0
	for _, m := range p.Paste.Mix {
		e := map[string]float64{"White sugar paste, open": 0.4, "White flower paste": 2.8, "Ready half-and-half": 1.6, "White sugar paste, closed": 0.4, "Soft white sugar paste": 0.15}[m.Name]
		gum, mass = gum+e*m.Grams.Value, mass+m.Grams.Value
	}
	if d := gum/mass - 2.3; d > 1e-6 || d < -1e-6 {
		t.Errorf("the mix has %.4f %% gum", gum/mass)
	}
	h.must(row, change(p.Version, set{"peg": "", "school": "modelling"}), nil)
	p = h.piece("Fern fronds, medium")
	// one level teaspoon of 2.8 g to 237.5 g: 1.179 % of plain paste
	if d := p.Paste.Peg.Value - (0.4+1.17895)/1.0117895; d > 1e-4 || d < -1e-4 {
		t.Errorf("the middle dose moves the peg to %.5f", p.Paste.Peg.Value)
	}
	h.must(row, change(p.Version, set{"trial": "1½ tsp"}), nil)
	if p = h.piece("Fern fronds, medium"); !p.Make.Estimate || !strings.Contains(p.Make.Note, "estimate") || p.Make.Ball.Value < 10 {
		t.Errorf("%+v", p.Make)
	}
}

func TestADampRoomIsSaidAndPlannedAround(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	var k studio.KitchenView
	h.must(hollow+"/kitchen", nil, &k)
	h.must(hollow+"/kitchen", change(k.Row.Version, set{"rhPercent": "72 %"}), nil)
	p := h.piece("Beetles")
	if p.Dry.Never == "" || len(p.Dry.Help) == 0 {
		t.Errorf("%+v", p.Dry)
	}
	if line := h.line(); len(line.LeftOut) == 0 {
		t.Error("what will not set is out of the plan, and said")
	}
}

func TestTheBenchFinishesAndTakesBack(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	h.now = time.Date(2026, 12, 3, 19, 0, 0, 0, time.UTC)
	var before, b, back evening.BenchView
	h.must(hollow+"/bench", nil, nil)
	h.must(hollow+"/bench", nil, &before)
	first := before.Now
	path := fmt.Sprintf(hollow+"/bench/%s/finish/%d", first.Op, first.Version)
	h.now = h.now.Add(7 * time.Minute)
	h.must(path, set{}, &b)
	if b.Now.Op == first.Op || b.Done[len(b.Done)-1].Op != first.Op {
		t.Fatalf("%s is still to do", first.Op)
	}
	if status, p := h.ask(path, set{}, nil); status != 409 || p.Code != "overtaken" || !strings.Contains(p.Detail, "done already") {
		t.Errorf("done once more: %d %+v", status, p)
	}
	if status, p := h.ask(fmt.Sprintf("%s/bench/takeBack/%d", hollow, b.LastID-1), set{}, nil); status != 409 || !strings.Contains(p.Detail, "Meanwhile") {
		t.Errorf("an older line as the last one: %d %+v", status, p)
	}
	h.must(fmt.Sprintf("%s/bench/takeBack/%d", hollow, b.LastID), set{}, &back)
	if back.Now.Op != first.Op {
		t.Errorf("taken back, %s should be to do, not %s", first.Op, back.Now.Op)
	}
	// a later step of a batch waits for the earlier one
	for _, s := range back.Next {
		if s.PieceID != nil && first.PieceID != nil && *s.PieceID == *first.PieceID {
			if status, p := h.ask(fmt.Sprintf(hollow+"/bench/%s/finish/%d", s.Op, s.Version), set{}, nil); status != 422 || !strings.Contains(p.Detail, "First") {
				t.Errorf("%d %+v", status, p)
			}
		}
	}
}

func TestALateCommissionIsSaid(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	c := h.commission()
	h.must(hollow+"/rows/commissions/1", change(c.Version, set{"handOver": "tomorrow 10:00"}), nil)
	if line := h.line(); line.Fits || len(line.Late) != 1 || !strings.Contains(line.Late[0], "late by") {
		t.Errorf("%+v %v", line.Fits, line.Late)
	}
}

func TestRowsComeAndGo(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	p := h.piece("Beetles")
	n := len(h.commission().Pieces)
	row := fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID)
	h.must(row+"/remove", set{}, nil)
	if got := len(h.commission().Pieces); got != n-1 {
		t.Errorf("%d pieces", got)
	}
	h.must(row+"/restore", set{}, nil)
	h.must(fmt.Sprintf(hollow+"/pieces/%d/duplicate", p.ID), set{}, nil)
	h.must(fmt.Sprintf(hollow+"/pieces/%d/move/up", p.ID), set{}, nil)
	var names []string
	for _, x := range h.commission().Pieces {
		names = append(names, x.Name)
	}
	if len(names) != n+1 || names[n-2] != "Beetles" || names[n] != "Beetles (copy)" {
		t.Error(names)
	}
	var tools []work.RowView
	h.must(hollow+"/tools", nil, &tools)
	for _, tool := range tools {
		if tool.Name == "Toadstool cap" {
			if status, p := h.ask(fmt.Sprintf(hollow+"/rows/tools/%d/remove", tool.ID), set{}, nil); status != 422 || !strings.Contains(p.Detail, "Toadstool caps") {
				t.Errorf("a mould in use was taken away: %d %+v", status, p)
			}
		}
	}
	if status, p := h.ask(hollow+"/rows/tools", map[string]any{"set": set{"name": "Half a mould"}}, nil); status != 422 || p.Fields[0].Field != "lengthMM" {
		t.Errorf("%d %+v", status, p)
	}
	h.must(hollow+"/commissions/1/state/aside", set{}, nil)
	if line := h.line(); len(line.Rows) != 0 {
		t.Error("what is put aside is still planned")
	}
}

func TestTheDoor(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	send := func(method, path string, header map[string]string, body string) *http.Response {
		req, _ := http.NewRequest(method, h.url+path, strings.NewReader(body))
		for k, v := range header {
			req.Header.Set(k, v)
		}
		if v := header["Host"]; v != "" {
			req.Host = v
		}
		resp, err := http.DefaultClient.Do(req)
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(func() { resp.Body.Close() })
		return resp
	}
	for _, c := range []struct {
		say, method, path string
		header            map[string]string
		body              string
		status            int
	}{
		{"another name for this machine", "GET", "/api/studios", map[string]string{"Host": "evil.example"}, "", 403},
		{"another site's page", "POST", "/api/studios", map[string]string{"Sec-Fetch-Site": "cross-site", "Content-Type": "application/json"}, `{"name":"x"}`, 403},
		{"another origin", "POST", "/api/studios", map[string]string{"Origin": "http://evil.example", "Content-Type": "application/json"}, `{"name":"x"}`, 403},
		{"no such address", "GET", "/api/nothing", nil, "", 404},
		{"no such studio", "GET", "/api/s/nowhere/kitchen", nil, "", 404},
		{"too much", "POST", "/api/studios", map[string]string{"Content-Type": "application/json"}, `{"name":"` + strings.Repeat("x", 2<<20) + `"}`, 413},
		{"no JSON", "POST", "/api/studios", map[string]string{"Content-Type": "application/json"}, `{`, 400},
		{"a topic", "POST", "/api/reckon/spare.make", nil, `{"wanted":36}`, 200},
		{"a bad topic", "POST", "/api/reckon/spare.much", nil, `{}`, 404},
		{"a bad field", "POST", "/api/reckon/spare.make", nil, `{"wanted":-1}`, 400},
		{"a wish that cannot be", "POST", "/api/reckon/spare.make", nil, `{"wanted":10,"priorA":50,"priorB":1}`, 422},
		{"alive", "GET", "/healthz", nil, "", 200},
		{"ready", "GET", "/readyz", nil, "", 200},
	} {
		resp := send(c.method, c.path, c.header, c.body)
		if resp.StatusCode != c.status {
			b, _ := io.ReadAll(resp.Body)
			t.Errorf("%s: %d %s", c.say, resp.StatusCode, b)
		}
		if c.status >= 400 && !strings.HasPrefix(resp.Header.Get("Content-Type"), "application/problem+json") {
			t.Errorf("%s: %s", c.say, resp.Header.Get("Content-Type"))
		}
		for _, name := range []string{"X-Request-Id"} {
			if resp.Header.Get(name) == "" {
				t.Errorf("%s: no %s", c.say, name)
			}
		}
	}
	if csp := send("GET", "/healthz", nil, "").Header.Get("Content-Security-Policy"); !strings.Contains(csp, "default-src 'self'") {
		t.Error(csp)
	}
}

func TestADatabaseAwayIsSaid(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	h.store.Close()
	if status, p := h.ask(hollow+"/bench", nil, nil); status != 503 || p.Detail == "" {
		t.Errorf("%d %+v", status, p)
	}
	resp, err := http.Get(h.url + "/readyz")
	if err != nil {
		t.Fatal(err)
	}
	defer resp.Body.Close()
	if resp.StatusCode != 503 {
		t.Error(resp.Status)
	}
}

// TestEveryFigureHasItsReason finds no computed quantity of a piece without a why.
func TestEveryFigureHasItsReason(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	for _, p := range h.pieces() {
		figures := []*noun.Figure{&p.Make.Ball, &p.Make.Balls, &p.Make.Paste, p.Make.Rounds, p.Make.Bench, p.Make.Waiting, p.Paste.Peg}
		for i := range p.Paste.Mix {
			figures = append(figures, &p.Paste.Mix[i].Grams)
		}
		for _, f := range figures {
			if f == nil || f.Why == nil || f.Why.Rule == "" || f.Why.Formula == "" || len(f.Why.Values) == 0 || f.Text == "" {
				t.Errorf("%s: %+v", p.Name, f)
			}
		}
		if p.Dry.Why == nil {
			t.Errorf("%s dries without a reason", p.Name)
		}
	}
}

// queries counts what reaches the database, but what opens and closes a
// transaction.
type queries struct{ n, rows atomic.Int64 }

func (q *queries) TraceQueryStart(ctx context.Context, _ *pgx.Conn, d pgx.TraceQueryStartData) context.Context {
	s := strings.ToLower(strings.TrimSpace(d.SQL))
	if s != "" && !strings.HasPrefix(s, "begin") && !strings.HasPrefix(s, "commit") && !strings.HasPrefix(s, "rollback") && !strings.Contains(s, "set_config") && !strings.HasPrefix(s, "-- ping") {
		q.n.Add(1)
	}
	return ctx
}
func (q *queries) TraceQueryEnd(_ context.Context, _ *pgx.Conn, d pgx.TraceQueryEndData) {
	q.rows.Add(d.CommandTag.RowsAffected())
}

func counted(t testing.TB) (*studio.Service, *queries) {
	h := serve(t, true)
	q := &queries{}
	s, err := store.Open(t.Context(), storetest.DSN(h.name), q)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(s.Close)
	service := studio.New(s, func() time.Time { return h.now })
	if err := service.Plan(t.Context(), demo.Slug); err != nil {
		t.Fatal(err)
	}
	return service, q
}

func TestACommissionIsReadInTenQueries(t *testing.T) {
	t.Parallel()
	s, q := counted(t)
	before := q.n.Load()
	if _, err := s.Commission(t.Context(), demo.Slug, 1); err != nil {
		t.Fatal(err)
	}
	if n := q.n.Load() - before; n < 4 || n > 10 {
		t.Errorf("%d queries", n)
	}
}

func TestTheBenchIsReadInTwelveQueries(t *testing.T) {
	t.Parallel()
	s, q := counted(t)
	before := q.n.Load()
	b, err := s.Bench(t.Context(), demo.Slug)
	if err != nil || b.Now == nil {
		t.Fatal(err)
	}
	if n := q.n.Load() - before; n < 4 || n > 12 {
		t.Errorf("%d queries", n)
	}
}

// BenchmarkKeyPress is what a Space at the bench costs on the server: a ball
// pressed, the journal, the plan, and the bench read again.
func BenchmarkKeyPress(b *testing.B) {
	s, _ := counted(b)
	ctx := b.Context()
	view, err := s.Bench(ctx, demo.Slug)
	if err != nil {
		b.Fatal(err)
	}
	if view, err = s.Hands(ctx, demo.Slug, view.Now.Op, view.Now.Version, ""); err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		if view, err = s.Hands(ctx, demo.Slug, view.Now.Op, view.Now.Version, ""); err != nil {
			b.Fatal(err)
		}
		if view.Move == nil || view.Move.N > 10 {
			b.StopTimer()
			for view.Move == nil || view.Move.N > 2 {
				if view, err = s.TakeBack(ctx, demo.Slug, view.LastID); err != nil {
					b.Fatal(err)
				}
			}
			b.StartTimer()
		}
	}
}

func BenchmarkBenchRead(b *testing.B) {
	s, q := counted(b)
	before, n := q.n.Load(), 0
	for b.Loop() {
		n++
		if _, err := s.Bench(b.Context(), demo.Slug); err != nil {
			b.Fatal(err)
		}
	}
	b.ReportMetric(float64(q.n.Load()-before)/float64(n), "queries/op")
}

func BenchmarkCommissionRead(b *testing.B) {
	s, q := counted(b)
	before := q.n.Load()
	n := 0
	for b.Loop() {
		n++
		if _, err := s.Commission(b.Context(), demo.Slug, 1); err != nil {
			b.Fatal(err)
		}
	}
	b.ReportMetric(float64(q.n.Load()-before)/float64(n), "queries/op")
}
