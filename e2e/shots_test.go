package e2e

import (
	"os"
	"path/filepath"
	"testing"
	"time"
)

// views are the pictures of docs/screenshots, by name and address.
var views = []struct{ name, path, see string }{
	{"bench", demoStudio + "/bench", "Fernery"},
	{"commissions", demoStudio + "/commissions", "Fernery centenary"},
	{"brief", demoStudio + "/commissions/1/brief", "Who and what for"},
	{"pieces", demoStudio + "/commissions/1/pieces", "How it is used"},
	{"paste", demoStudio + "/commissions/1/paste?piece=5", "Toadstool stems"},
	{"colour", demoStudio + "/commissions/1/colour?piece=1", "How it goes in"},
	{"make", demoStudio + "/commissions/1/make", "Balls to make"},
	{"dry", demoStudio + "/commissions/1/dry", "Out of the freezer"},
	{"finish", demoStudio + "/commissions/1/finish", "Add a tone"},
	{"assemble", demoStudio + "/commissions/1/assemble?piece=5", "The order at the cake"},
	{"leaving", demoStudio + "/commissions/4/leaving", "Before it goes"},
	{"rescue", demoStudio + "/rescue?technique=T4&seen=tipsMissing", "Next time"},
	{"line", demoStudio + "/commissions/1/line", "Planned to go on"},
	{"shelf", demoStudio + "/shelf", "Drying box"},
	{"notebook", demoStudio + "/notebook", "Foretold and noted"},
	{"pantry", demoStudio + "/pantry", "White flower paste"},
	{"drawer", demoStudio + "/drawer", "Fern frond, large"},
	{"kitchen", demoStudio + "/kitchen", "Weekly hours"},
	{"hands", demoStudio + "/hands", "Lay out first"},
}

// TestShots remakes the pictures of the README when SHOTS names a folder;
// SCHEME (light, dark) and NARROW choose what they show, ONLY one of them.
func TestShots(t *testing.T) {
	t.Parallel()
	out := os.Getenv("SHOTS")
	if out == "" {
		t.Skip("SHOTS names no folder")
	}
	p := start(t)
	page := p.open(t, "/")
	name := os.Getenv("SCHEME")
	if name == "" {
		name = "light"
	}
	for _, v := range views {
		if only := os.Getenv("ONLY"); only != "" && only != v.name {
			continue
		}
		if os.Getenv("NARROW") != "" {
			page.MustSetViewport(390, 844, 1, true)
		}
		if os.Getenv("TALL") != "" {
			page.MustSetViewport(1280, 2600, 1, false)
		}
		p.to(page, v.path)
		scheme(page, name)
		see(t, page, v.see)
		if err := page.WaitStable(200 * time.Millisecond); err != nil {
			t.Fatal(err)
		}
		page.MustScreenshot(filepath.Join(out, v.name+".png"))
	}
}
