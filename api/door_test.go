package api

import (
	"bufio"
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"io"
	"net"
	"net/http"
	"strings"
	"testing"

	"dustyfern/studio/document"
	"dustyfern/studio/pantry"
)

// send posts bytes as they are to a path of the API.
func (h *house) send(path, kind string, raw []byte) (int, Problem, []byte) {
	h.t.Helper()
	resp, err := http.Post(h.url+"/api"+path, kind, bytes.NewReader(raw))
	if err != nil {
		h.t.Fatal(err)
	}
	defer resp.Body.Close()
	body, err := io.ReadAll(resp.Body)
	if err != nil {
		h.t.Fatal(err)
	}
	var p Problem
	if resp.StatusCode >= 300 {
		if err := json.Unmarshal(body, &p); err != nil || resp.Header.Get("Content-Type") != "application/problem+json" {
			h.t.Errorf("%s: no problem+json: %s", path, body)
		}
	}
	return resp.StatusCode, p, body
}

func TestThePhotoDoor(t *testing.T) {
	t.Parallel()
	h := serve(t, false)
	m := image.NewNRGBA(image.Rect(0, 0, 60, 40))
	for i := range 60 * 40 {
		m.SetNRGBA(i%60, i/60, color.NRGBA{R: 150, G: 60, B: 40, A: 255})
	}
	var asPNG, asJPEG bytes.Buffer
	if err := errors.Join(png.Encode(&asPNG, m), jpeg.Encode(&asJPEG, m, &jpeg.Options{Quality: 100})); err != nil {
		t.Fatal(err)
	}
	for kind, raw := range map[string][]byte{"image/png": asPNG.Bytes(), "image/jpeg": asJPEG.Bytes()} {
		code, _, body := h.send("/photo?x=0.5&y=0.5", kind, raw)
		var got struct{ Hex string }
		if err := json.Unmarshal(body, &got); err != nil || code != 200 || !strings.HasPrefix(got.Hex, "#9") {
			t.Errorf("%s: %d %s", kind, code, body)
		}
	}
	// what follows the picture in its file is not looked at: 12 MB is the line
	full := append(asJPEG.Bytes(), make([]byte, 12<<20-asJPEG.Len())...)
	if code, p, _ := h.send("/photo?x=0.5&y=0.5", "image/jpeg", full); code != 200 {
		t.Errorf("exactly 12 MB: %d %+v", code, p)
	}
	if code, p, _ := h.send("/photo?x=0.5&y=0.5", "image/jpeg", append(full, 0)); code != 413 || p.Field != "photo" || !strings.Contains(p.Detail, "12 MB") {
		t.Errorf("a byte more: %d %+v", code, p)
	}
	for name, c := range map[string]struct {
		query string
		raw   []byte
		says  string
	}{
		"a text":            {"?x=0.5&y=0.5", []byte("lovely green"), "PNG"},
		"nothing":           {"?x=0.5&y=0.5", nil, "PNG"},
		"half of a picture": {"?x=0.5&y=0.5", asPNG.Bytes()[:asPNG.Len()/2], "damaged"},
		"beside it":         {"?x=1.5&y=0.5", asPNG.Bytes(), "share"},
		"no spot":           {"", asPNG.Bytes(), "share"},
		"half a card":       {"?x=0.5&y=0.5&cardX=0.1", asPNG.Bytes(), "share"},
	} {
		if code, p, _ := h.send("/photo"+c.query, "image/png", c.raw); code != 422 || !strings.Contains(p.Detail, c.says) {
			t.Errorf("%s: %d %+v", name, code, p)
		}
	}
}

func TestThePantryDoor(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	const head = "name,kind,massG\n"
	large := []byte(head + strings.Repeat("Paste,sugarPaste,1 g\n", 4<<20/20))
	for _, door := range []string{"/pantry/look", "/pantry/import"} {
		if code, p, _ := h.send(hollow+door, "text/csv", large); code != 413 {
			t.Errorf("%s, 4 MB: %d %+v", door, code, p)
		}
		if code, p, _ := h.send(hollow+door, "text/csv", []byte{0xff, 0xfe, 0}); code != 422 || p.Detail == "" {
			t.Errorf("%s, no text: %d %+v", door, code, p)
		}
	}
	h.must(hollow+"/pantry", nil, &pantry.PantryView{})
	if code, p := h.ask("/s/hollow-lane-sugar-room/lots/1/take", map[string]any{"amount": "9 kg"}, nil); code != 422 || p.Field != "amount" {
		t.Errorf("%d %+v", code, p)
	}
	// another studio's lots are out of reach
	var other document.StudioRow
	h.must("/studios", set{"name": "Elm & Bench"}, &other)
	for _, path := range []string{"/lots/1/take", "/lots/1/feel/crackedBent"} {
		if code, _ := h.ask("/s/"+other.Slug+path, map[string]any{"amount": "1 g"}, nil); code != 404 {
			t.Errorf("%s: %d", path, code)
		}
	}
}

// TestThePhotoOfATool comes in as a camera saves it and goes out small, to keep.
func TestThePhotoOfATool(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	var tools []pantry.ToolView
	h.must(hollow+"/tools", nil, &tools)
	door := fmt.Sprintf("%s/tools/%d/photo", hollow, tools[0].ID)
	var raw bytes.Buffer
	if err := png.Encode(&raw, image.NewGray(image.Rect(0, 0, 2000, 100))); err != nil {
		t.Fatal(err)
	}
	if code, p, _ := h.send(door, "application/octet-stream", []byte("tea")); code != 422 || p.Field != "photo" || !strings.Contains(p.Detail, "PNG or a JPEG") {
		t.Errorf("%d %+v", code, p)
	}
	if code, p, _ := h.send(door, "application/octet-stream", raw.Bytes()); code != 200 {
		t.Fatalf("%d %+v", code, p)
	}
	h.must(hollow+"/tools", nil, &tools)
	resp, err := http.Get(fmt.Sprintf("%s/api%s/photos/%d", h.url, hollow, tools[0].Photo.ID))
	if err != nil {
		t.Fatal(err)
	}
	defer resp.Body.Close()
	cfg, kind, err := image.DecodeConfig(resp.Body)
	if err != nil || kind != "jpeg" || cfg.Width != 1000 || !strings.Contains(resp.Header.Get("Cache-Control"), "immutable") || resp.Header.Get("X-Content-Type-Options") != "nosniff" {
		t.Errorf("%s %+v %v %v", kind, cfg, resp.Header, err)
	}
	for _, bad := range []string{"9999", "tea", "-1"} {
		resp, err := http.Get(h.url + "/api" + hollow + "/photos/" + bad)
		if err != nil {
			t.Fatal(err)
		}
		resp.Body.Close()
		if resp.StatusCode != 404 {
			t.Errorf("photo %s: %d", bad, resp.StatusCode)
		}
	}
	if code, p := h.ask(door+"/9999/marks", map[string]any{"marks": []any{}}, nil); code != 422 || p.Field != "photo" {
		t.Errorf("%d %+v", code, p)
	}
}

// TestABodyThatIsTooLargeIsNotRead: every door says so by the length that is
// declared, and does not wait for what was announced.
func TestABodyThatIsTooLargeIsNotRead(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	for door, most := range map[string]int64{"/studios/import": mostDocument, hollow + "/pantry/look": mostPantry, "/photo": mostPhoto, hollow + "/tools/1/photo": mostPhoto, hollow + "/kitchen": mostBody} {
		conn, err := net.Dial("tcp", strings.TrimPrefix(h.url, "http://"))
		if err != nil {
			t.Fatal(err)
		}
		// the head alone: who waited for the body would never answer
		fmt.Fprintf(conn, "POST /api%s HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: %d\r\n\r\n", door, most+1)
		resp, err := http.ReadResponse(bufio.NewReader(conn), nil)
		if err != nil {
			t.Fatal(door, err)
		}
		var p Problem
		if err := json.NewDecoder(resp.Body).Decode(&p); err != nil || resp.StatusCode != 413 || !strings.Contains(p.Detail, "at most") {
			t.Errorf("%s: %d %+v %v", door, resp.StatusCode, p, err)
		}
		resp.Body.Close()
		conn.Close()
	}
}

// TestTheDoorSpeaksLikeTheRest: what the door itself refuses names the field and
// says what would be right, in the words of the house.
func TestTheDoorSpeaksLikeTheRest(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	for _, c := range []struct{ door, body, field, says string }{
		{"/bench/takeBack/0", "{}", "entry", "entry is at least 1."},
		{"/bench/takeBack/abc", "{}", "entry", "entry is a number."},
		{"/journal/undo", "{}", "entry", "entry is missing."},
		{"/journal/undo?entry=-3", "{}", "entry", "entry is at least 1."},
		{"/rows/pieces/1", `{"version": 1, "set": {"wanted": "3"}, "colour": "red"}`, "colour", `There is no field called "colour" here.`},
		{"/rows/pieces/1", `{"set": {"wanted": "3"}}`, "version", "version is missing."},
		{"/rows/pieces/1", `{"version": "first", "set": {}}`, "version", "version is a number."},
		{"/rows/pieces/1", `{"version": 1, "set": []}`, "set", "set holds fields by name."},
		{"/rows/ovens/1", `{"version": 1, "set": {}}`, "kind", "kind is one of"},
		{"/commissions/1/state/eaten", "{}", "state", "state is one of"},
		{"/timers", `{"minutes": 8, "says": "x"}`, "minutes", "minutes is a text."},
	} {
		code, p, _ := h.send(hollow+c.door, "application/json", []byte(c.body))
		if code != 422 || p.Field != c.field || !strings.HasPrefix(p.Detail, c.says) {
			t.Errorf("%s %s: %d %q: %s", c.door, c.body, code, p.Field, p.Detail)
		}
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
