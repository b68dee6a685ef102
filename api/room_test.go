package api

import (
	"bufio"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"testing"

	"dustyfern/studio/shelf"
)

// sensor is one whose words the test says.
type sensor struct {
	mu  sync.Mutex
	say []shelf.Heard
}

func (s *sensor) Heard() []shelf.Heard {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.say
}

func (s *sensor) says(h ...shelf.Heard) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.say = h
}

// TestTheDoorsOfTheRoom: what is refused says what would be right, a table that is too large
// is not read, and what is said of the air stands in the answer.
func TestTheDoorsOfTheRoom(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	for path, want := range map[string]int{"/room/strip?hours=71": 422, "/room/strip?rack=99": 404, "/room/strip?hours=8760": 200, "/room": 200, "/shelf": 200, "/notebook?find=daisies": 200, "/notebook/learnt": 200, "/notebook/file/csv": 200, "/notebook/file/json": 200, "/notebook/file/exe": 404} {
		resp, err := http.Get(h.url + "/api" + hollow + path)
		if err != nil {
			t.Fatal(err)
		}
		resp.Body.Close()
		if resp.StatusCode != want {
			t.Errorf("%s answers %d instead of %d", path, resp.StatusCode, want)
		}
	}
	for _, c := range []struct {
		path, kind, body string
		code             int
		field            string
	}{
		{"/room/readings/look", "application/octet-stream", "one\n", 422, "file"},
		{"/room/readings?at=0&temp=0&rh=1", "application/octet-stream", "a,b\n1,2\n", 422, "columns"},
		{"/notebook/look", "application/octet-stream", "\xff\xfe", 422, "file"},
		{"/shelf/nothing", "application/json", `{"do":"turn"}`, 404, ""},
		{"/shelf/p1.1.dry", "application/json", `{"do":"fly"}`, 422, "do"},
		{"/notes", "application/json", `{"op":"p1.1.dry","what":"sang"}`, 422, "what"},
		{"/notebook/setBack", "application/json", `{"paste":"concrete"}`, 422, "paste"},
		{"/rows/racks", "application/json", `{"parent":0,"set":{"name":"Attic","tempC":"70 C"}}`, 422, "tempC"},
		{"/rows/notes/1", "application/json", `{"version":1,"set":{"what":"firm"}}`, 422, "what"},
	} {
		code, p, body := h.send(hollow+c.path, c.kind, []byte(c.body))
		if code != c.code || c.field != "" && p.Field != c.field && !strings.Contains(string(body), `"field":"`+c.field+`"`) {
			t.Errorf("%s %s: %d %q, %.300s", c.path, c.body, code, p.Field, body)
		}
	}
	if code, p, _ := h.send(hollow+"/room/readings/look", "application/octet-stream", make([]byte, mostTable+1)); code != 413 || !strings.Contains(p.Detail, "40 MB") {
		t.Errorf("too large: %d %q", code, p.Detail)
	}
	code, _, body := h.send(hollow+"/rows/racks", "application/json", []byte(`{"parent":0,"set":{"name":"Attic","tempC":"68 F","rhPercent":"45"}}`))
	if code != 200 {
		t.Fatalf("%d %s", code, body)
	}
}

// TestTheAirIsPushed: what the sensor says stands in the stream as it changes, of the places
// that name it, and its nonsense is told as such.
func TestTheAirIsPushed(t *testing.T) {
	t.Parallel()
	says := &sensor{}
	h := serveWith(t, true, &RoomSensor{Reads: says})
	resp, err := http.Get(h.url + "/api" + hollow + "/room/live")
	if err != nil {
		t.Fatal(err)
	}
	defer resp.Body.Close()
	lines := bufio.NewScanner(resp.Body)
	next := func(want string) {
		t.Helper()
		for lines.Scan() {
			data, ok := strings.CutPrefix(lines.Text(), "data: ")
			var v shelf.LiveView
			if ok && json.Unmarshal([]byte(data), &v) == nil && strings.Contains(fmt.Sprint(v), want) {
				return
			}
		}
		t.Fatalf("never heard %q", want)
	}
	says.says(shelf.Heard{Place: "kitchen", TempC: 21.25, RHPercent: 51.25, Live: true})
	next("51.2 %")
	says.says(shelf.Heard{Place: "kitchen", TempC: 85, RHPercent: 0, Live: true, Bad: true})
	next("that cannot be, and is not used")
	says.says(shelf.Heard{Place: "kitchen", Why: "the room sensor does not answer"})
	next("Its sensor is silent: the room sensor does not answer.")
}
