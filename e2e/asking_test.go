package e2e

import (
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"strings"
	"testing"
	"time"
)

// untilHung waits until the line of the demo follows from all that was done.
func untilHung(url string) error {
	tick := time.NewTicker(50 * time.Millisecond)
	defer tick.Stop()
	for late := time.After(patience); ; {
		resp, err := http.Get(url + "/api" + demoStudio + "/line")
		if err != nil {
			return err
		}
		var line struct{ Follows bool }
		err = json.NewDecoder(resp.Body).Decode(&line)
		resp.Body.Close()
		if err != nil || line.Follows {
			return err
		}
		select {
		case <-tick.C:
		case <-late:
			return errors.New("the line was never hung")
		}
	}
}

// get asks the interface's own API, once more while the database is away.
func (p *program) get(t testing.TB, path string, into any) {
	t.Helper()
	tick := time.NewTicker(100 * time.Millisecond)
	defer tick.Stop()
	for late := time.After(patience); ; {
		resp, err := http.Get(p.url + "/api" + path)
		if err != nil {
			t.Fatal(err)
		}
		b, err := io.ReadAll(resp.Body)
		resp.Body.Close()
		switch {
		case err != nil:
			t.Fatal(err)
		case resp.StatusCode == http.StatusOK:
			if err := json.Unmarshal(b, into); err != nil {
				t.Fatal(err)
			}
			return
		case resp.StatusCode != http.StatusServiceUnavailable:
			t.Fatalf("%s: %s %s", path, resp.Status, b)
		}
		select {
		case <-tick.C:
		case <-late:
			t.Fatalf("%s: %s %s", path, resp.Status, b)
		}
	}
}

// planned waits until the plan of a studio follows from all that was done; it tells whether it
// had to wait.
func (p *program) planned(t testing.TB, studio string) (waited bool) {
	t.Helper()
	tick := time.NewTicker(100 * time.Millisecond)
	defer tick.Stop()
	for late := time.After(patience); ; {
		var line struct{ Follows bool }
		if p.get(t, studio+"/line", &line); line.Follows {
			return waited
		}
		waited = true
		select {
		case <-tick.C:
		case <-late:
			t.Fatal("no plan was made")
		}
	}
}

// post does what another window would.
func (p *program) post(t testing.TB, path string) {
	t.Helper()
	resp, err := http.Post(p.url+"/api"+path, "application/json", strings.NewReader("{}"))
	if err != nil {
		t.Fatal(err)
	}
	defer resp.Body.Close()
	if resp.StatusCode != http.StatusOK {
		b, _ := io.ReadAll(resp.Body)
		t.Fatalf("%s: %s %s", path, resp.Status, b)
	}
}
