package e2e

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"image"
	"image/png"
	"math"
	"net/http"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"
)

// send posts a body to the interface's own API and gives the id that it answers.
func (p *program) send(t testing.TB, path string, body any) int64 {
	t.Helper()
	raw, err := json.Marshal(body)
	if err != nil {
		t.Fatal(err)
	}
	resp, err := http.Post(p.url+"/api"+path, "application/json", bytes.NewReader(raw))
	if err != nil {
		t.Fatal(err)
	}
	defer resp.Body.Close()
	var answer struct {
		ID     int64
		Detail string
	}
	_ = json.NewDecoder(resp.Body).Decode(&answer)
	if resp.StatusCode != http.StatusOK {
		t.Fatalf("%s: %s %s", path, resp.Status, answer.Detail)
	}
	return answer.ID
}

type texts = map[string]string

// oneOfEach is a tool and a piece for each way of making.
var oneOfEach = []struct {
	way   string
	tool  texts
	piece texts
	words string // that stand on the screen while it is made
}{
	{"T01", texts{"kind": "cavityMould", "lengthMM": "20 mm", "widthMM": "20 mm", "depthMM": "8 mm", "weighedG": "3 g"}, texts{"dusted": "yes"}, "Press ball 1 of"},
	{"T02", texts{"kind": "channelMould", "lengthMM": "180 mm", "widthMM": "5 mm", "depthMM": "5 mm", "weighedG": "5 g"}, nil, "then into the freezer"},
	{"T03", texts{"kind": "sheetMould", "lengthMM": "120 mm", "widthMM": "25 mm", "depthMM": "10 mm", "weighedG": "12 g"}, nil, "then into the freezer"},
	{"T04", texts{"kind": "cavityMould", "lengthMM": "60 mm", "widthMM": "40 mm", "depthMM": "6 mm", "branching": "yes", "weighedG": "5 g"}, nil, "then into the freezer"},
	{"T05", texts{"kind": "cavityMould", "lengthMM": "40 mm", "widthMM": "40 mm", "depthMM": "6 mm", "weighedG": "9 g"}, texts{"dough": "darkChocolate"}, "then into the freezer"},
	{"T06", texts{"kind": "lippedMould", "lengthMM": "110 mm", "widthMM": "45 mm", "depthMM": "3 mm", "weighedG": "9 g"}, nil, "Press piece 1 of"},
	{"T07", texts{"kind": "bandMould", "lengthMM": "150 mm", "heightMM": "18 mm", "depthMM": "3 mm", "weighedG": "12 g"}, nil, "piece 1 of"},
	{"T08", texts{"kind": "channelMould", "lengthMM": "180 mm", "widthMM": "6 mm", "depthMM": "4 mm", "weighedG": "3 g"}, texts{"joined": "pliable", "bagged": "yes"}, "piece 1 of"},
	{"T09", texts{"kind": "laceMould", "lengthMM": "70 mm", "widthMM": "40 mm", "depthMM": "2 mm", "weighedG": "3 g"}, nil, "piece 1 of"},
	{"T10", texts{"kind": "plungerCutter", "lengthMM": "34 mm", "widthMM": "26 mm"}, texts{"measure.letters": "2"}, "Cut sheet"},
	{"T12", texts{"kind": "blossomCutter", "diameterMM": "40 mm"}, nil, "Wet the foot of the DRY centre"},
	{"T13", texts{"kind": "stripCutter", "lengthMM": "180 mm", "widthMM": "40 mm"}, nil, "strips in one rose"},
	{"T15", nil, nil, "each loop: two a bow"},
	{"T24", texts{"kind": "spoonMould", "diameterMM": "36 mm", "volumeML": "12 ml"}, nil, "hard crack here: from"},
	{"T27", texts{"kind": "model", "lengthMM": "40 mm", "widthMM": "30 mm", "heightMM": "12 mm", "volumeML": "6 ml"}, nil, "Three short bursts"},
}

type stepNow struct {
	Op    string
	Start time.Time
	Piece string
}

type benchNow struct {
	Now          *stepNow
	Offers, Next []stepNow
	Move         *struct {
		Do, Say, Sub string
		AtMs         int64
	}
	Opens    string
	BeforeMS int64 `json:"beforeMs"`
}

// TestEachWayIsWorked makes one piece in each family of ways, from the first knead to
// the cake, in the window in which hands work, and a toadstool of two parts.
func TestEachWayIsWorked(t *testing.T) {
	t.Parallel()
	p := startAt(t, "2026-11-24T08:00:00Z")
	const studio = "/s/elm-bench"
	p.send(t, "/studios", texts{"name": "Elm Bench"})
	kitchen := struct{ Row struct{ Version int64 } }{}
	p.get(t, studio+"/kitchen", &kitchen)
	p.send(t, studio+"/kitchen", map[string]any{"version": kitchen.Row.Version, "set": texts{"hours": hoursOfADay(), "freezerPlaces": "6", "settleMinutes": "5"}})
	for _, l := range []texts{{"name": "White", "kind": "sugarPaste", "massG": "3 kg"}, {"name": "Flower", "kind": "flowerPaste", "massG": "2 kg"}, {"name": "Dark", "kind": "darkChocolate", "massG": "1 kg"}} {
		p.send(t, studio+"/rows/lots", map[string]any{"set": l})
	}
	order := p.send(t, studio+"/rows/commissions", map[string]any{"set": texts{"title": "One of each", "handOver": "Sun week 12:00"}})
	for _, x := range oneOfEach {
		piece := texts{"name": "Piece " + x.way, "wanted": "1", "technique": x.way}
		tool := int64(0)
		if x.tool != nil {
			x.tool["name"] = "Tool " + x.way
			tool = p.send(t, studio+"/rows/tools", map[string]any{"set": x.tool})
			piece["tool"] = fmt.Sprint(tool)
		}
		for k, v := range x.piece {
			piece[k] = v
		}
		id := p.send(t, studio+"/rows/pieces", map[string]any{"parent": order, "set": piece})
		if x.way == "T01" { // its cap goes on as a part
			p.send(t, fmt.Sprintf("%s/pieces/%d/parts/-1", studio, id), texts{"name": "Cap", "each": "1", "with": "royal icing"})
			var v struct{ Parts []struct{ Part, Each int64 } }
			p.get(t, fmt.Sprintf("%s/pieces/%d", studio, id), &v)
			p.send(t, fmt.Sprintf("%s/rows/pieces/%d", studio, v.Parts[0].Part), map[string]any{"version": 1, "set": texts{"tool": fmt.Sprint(tool)}})
		}
	}
	page := p.open(t, studio+"/hands")
	seen := map[string]bool{}
	joined, cooked := false, false
	var clock time.Time
	for range 900 {
		screen := page.MustElement(".hands").MustText()
		for _, x := range oneOfEach {
			if strings.Contains(screen, "One of each · Piece "+x.way) && strings.Contains(screen, x.words) {
				seen[x.way] = true
			}
		}
		joined = joined || strings.Contains(screen, "Put 1 Cap on to Piece T01")
		if !cooked && strings.Contains(screen, "hard crack here: from") {
			cooked = true
			thePan(t, page)
		}
		if page.MustEval(`() => !!document.querySelector('button.do:not(:disabled)')`).Bool() {
			pressed(t, page)
			continue
		}
		// the clock goes on to what the bench waits for
		var b benchNow
		p.get(t, studio+"/bench", &b)
		var at time.Time
		switch later := append(b.Offers, b.Next...); {
		case b.Move != nil && b.Move.Do == "wait":
			at = time.UnixMilli(b.Move.AtMs).Add(time.Second)
		case b.Now != nil:
			at = b.Now.Start
		case len(later) > 0:
			at = slices.MinFunc(later, func(x, y stepNow) int { return x.Start.Compare(y.Start) }).Start
		}
		if at.IsZero() {
			if p.planned(t, studio) { // it was still being made
				p.to(page, studio+"/hands")
				page.MustElement(".step, .none")
				continue
			}
			if p.get(t, studio+"/bench", &b); b.Now == nil && b.Move == nil && len(b.Offers)+len(b.Next) == 0 {
				break
			}
			continue
		}
		if at.After(clock) {
			clock = at
			p.clock(t, at.UTC().Format(time.RFC3339))
		}
		// the window hears of the hour by itself
		if page.Timeout(patience/9).Wait(rod.Eval(`was => !!document.querySelector('button.do:not(:disabled)') || document.querySelector('.hands')?.innerText !== was`, screen)) != nil {
			p.to(page, studio+"/hands")
			page.MustElement(".step, .none")
		}
	}
	var done struct {
		Frond []struct{ Name, State, Says string }
	}
	p.get(t, fmt.Sprintf("%s/commissions/%d", studio, order), &done)
	for _, l := range done.Frond {
		if l.State != "placed" && l.Name != "Cap" {
			t.Errorf("%s is %s, %s", l.Name, l.State, l.Says)
		}
	}
	for _, x := range oneOfEach {
		if !seen[x.way] {
			t.Errorf("%s was never on the screen with %q", x.way, x.words)
		}
	}
	if !joined {
		t.Error("the cap never went on to its piece")
	}
	see(t, page, "Nothing waits for your hands")
}

// thePan is looked at while syrup is cooked: by a key, live, and when its plug is pulled.
func thePan(t testing.TB, page *rod.Page) {
	t.Helper()
	page.Keyboard.MustType(input.KeyH)
	see(t, page, "hard crack here: 149 °C to 154 °C")
	see(t, page, "Syrup near 150 C") // the caution stands beside it
	press(page, "^heating$")
	until(page, `() => parseFloat(document.querySelector('.pan .live').innerText) > 60`)
	see(t, page, "Stir, wash the sides down")
	press(page, "^unplugged$")
	see(t, page, "The thermometer does not answer. Without it: a drop in cold water")
	press(page, "^off$")
	page.MustElement(".pan .live")
	page.Keyboard.MustType(input.Escape)
	until(page, `() => !document.querySelector('.pan')`)
}

// hoursOfADay are hours at the bench every day, all day.
func hoursOfADay() string {
	var lines []string
	for _, d := range []string{"Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"} {
		lines = append(lines, d+" 7:00-23:00")
	}
	return strings.Join(lines, "\n")
}

// pressed does what the screen says, and waits until it says the next.
func pressed(t testing.TB, page *rod.Page) {
	t.Helper()
	before := page.MustElement(".hands").MustText()
	page.Keyboard.MustType(input.Space)
	if err := comes(page, `b => document.querySelector('.step, .none') && !document.querySelector('.p-button-loading') && document.querySelector('.hands').innerText !== b`, before); err != nil {
		t.Fatalf("after Space it still says: %s", before)
	}
}

// TestAToolIsPhotographed: a photo with its deep zones marked stands beside the
// pressing; marks are moved with the arrows and taken off again.
func TestAToolIsPhotographed(t *testing.T) {
	t.Parallel()
	p := start(t)
	page := p.open(t, demoStudio+"/drawer")
	clickOn(page, "button.line", "Fern frond")
	see(t, page, "with its deep zones and small ends marked")
	img := image.NewRGBA(image.Rect(0, 0, 400, 300))
	for i := range img.Pix {
		img.Pix[i] = 0x80 | uint8(i%64)
	}
	file := filepath.Join(t.TempDir(), "mould.png")
	f, err := os.Create(file)
	if err != nil {
		t.Fatal(err)
	}
	if err := errors.Join(png.Encode(f, img), f.Close(), os.WriteFile(file+".txt", []byte("tea"), 0o600)); err != nil {
		t.Fatal(err)
	}
	page.MustElement(".photo input[type=file]").MustSetFiles(file + ".txt")
	see(t, page, "a PNG or a JPEG is wanted")
	page.MustElement(".photo input[type=file]").MustSetFiles(file)
	page.MustElement(`[aria-label="Mark a deep zone"]`).MustFocus().MustType(input.Enter)
	until(page, `() => document.activeElement.matches('.mark.deep')`)
	page.Keyboard.MustType(input.ArrowRight)
	until(page, `() => document.querySelector('.mark.deep').style.left === '52%'`)
	press(page, "Mark small ends")
	box := page.MustElement(`[aria-label="Mark a small end"]`).MustScrollIntoView().MustShape().Box()
	page.Mouse.MustMoveTo(box.X+box.Width/4, box.Y+box.Height/4).MustClick(proto.InputMouseButtonLeft)
	see(t, page, "Small ends tear")
	for _, side := range []string{"left", "top"} {
		at := page.MustElement(".mark.small").MustEval(`side => parseFloat(this.style[side])`, side).Num()
		if math.Abs(at-25) > 1 {
			t.Errorf("%s of the mark is %.1f %%, pressed at a quarter", side, at)
		}
	}
	page.MustElement(".mark.small").MustFocus().MustType(input.Delete)
	until(page, `() => !document.querySelector('.mark.small')`)
	see(t, page, "Deep zones first")
}
