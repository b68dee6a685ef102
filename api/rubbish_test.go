package api

import (
	"fmt"
	"io"
	"net/http"
	"regexp"
	"strings"
	"testing"
)

// rubbish is what no number of a screen may be.
var rubbish = regexp.MustCompile(`NaN|[+-]?Inf\b|%!|\b\d+\.\d{6,}(?:e[+-]?\d+)? (?:g|mm|min|h|%)|-0 |undefined|<nil>`)

// TestNoRubbishReachesAScreen walks every view of an empty studio, of one with an order
// without pieces, and of one with a piece of which nothing is known and no pantry.
func TestNoRubbishReachesAScreen(t *testing.T) {
	t.Parallel()
	h := serve(t, false)
	h.must("/studios", set{"name": "Elm Bench"}, nil)
	at := "/s/elm-bench"
	walk := func(say string, orders, pieces []int64) {
		t.Helper()
		paths := []string{"/kitchen", "/commissions", "/tools", "/tools/kinds", "/ways", "/line", "/bench", "/journal", "/pantry", "/needs", "/schools", "/find?text=a", "/blank/tools", "/blank/lots", "/blank/commissions", "/blank/pieces"}
		for _, o := range orders {
			for _, of := range []string{"", "/offers", "/colours", "/together"} {
				paths = append(paths, fmt.Sprintf("/commissions/%d%s", o, of))
			}
			paths = append(paths, fmt.Sprintf("/line?commission=%d", o))
		}
		for _, p := range pieces {
			paths = append(paths, fmt.Sprintf("/pieces/%d", p))
		}
		for _, path := range paths {
			res, err := http.Get(h.url + "/api" + at + path)
			if err != nil {
				t.Fatal(err)
			}
			body, _ := io.ReadAll(res.Body)
			_ = res.Body.Close()
			if res.StatusCode != http.StatusOK {
				t.Errorf("%s: %s answers %d: %.200s", say, path, res.StatusCode, body)
			}
			if bad := rubbish.FindString(string(body)); bad != "" {
				i := strings.Index(string(body), bad)
				t.Errorf("%s: %s shows %q in %.120s", say, path, bad, body[max(0, i-60):])
			}
		}
	}
	walk("empty", nil, nil)
	var o, p, q struct{ ID int64 }
	h.must(at+"/rows/commissions", map[string]any{"set": set{"title": "Fair", "handOver": "Sat week, 10:00"}}, &o)
	walk("an order", []int64{o.ID}, nil)
	h.must(at+"/rows/pieces", map[string]any{"parent": o.ID, "set": set{"name": "Stars", "wanted": "0"}}, &p)
	h.must(at+"/rows/pieces", map[string]any{"parent": o.ID, "set": set{"name": "Moons", "wanted": "12", "technique": "T10", "colour": "moss"}}, &q)
	walk("pieces of nothing", []int64{o.ID}, []int64{p.ID, q.ID})
	var m struct{ ID int64 }
	h.must(at+"/rows/tools", map[string]any{"set": set{"name": "Star", "kind": "cavityMould", "lengthMM": "30 mm", "widthMM": "30 mm", "depthMM": "6 mm", "cavityML": "2 ml"}}, &m)
	var r struct{ ID int64 }
	h.must(at+"/rows/pieces", map[string]any{"parent": o.ID, "set": set{"name": "Pressed", "wanted": "12", "tool": fmt.Sprint(m.ID), "colour": "moss"}}, &r)
	walk("no pantry", []int64{o.ID}, []int64{p.ID, q.ID, r.ID})
}

// TestRubbishIsKnown: what the walk looks for.
func TestRubbishIsKnown(t *testing.T) {
	t.Parallel()
	for text, is := range map[string]bool{"NaN g": true, "+Inf mm": true, "0.0061234 g": true, "%!d(string=x)": true, "4.2 g": false, "12.345 mm": false, "Information": false} {
		if rubbish.MatchString(text) != is {
			t.Errorf("%q: %t", text, !is)
		}
	}
}
