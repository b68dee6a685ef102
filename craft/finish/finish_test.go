package finish

import (
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"dustyfern/craft/colour"
)

// TestFadeFollowsWhatIsWanted: in good advice the rows cover as they should, and a colour
// that is half as strong takes about twice the passes.
func TestFadeFollowsWhatIsWanted(t *testing.T) {
	r := rand.New(rand.NewPCG(14, 3))
	for range 400 {
		in := FadeIn{RunMM: new(300 + 700*r.Float64()), HeightMM: new(60 + 120*r.Float64()), CoverLowShare: new(0.3 + 0.6*r.Float64()), DistanceMM: new(60 + 120*r.Float64())}
		out, err := Fade(in)
		if err != nil {
			t.Fatal(err)
		}
		if out.Advice == "good" && out.WorstShare > 0.25 {
			t.Fatalf("%+v: %.2f off", in, out.WorstShare)
		}
		if out.OversprayShare < 0 || out.OversprayShare > 1 || math.Abs(out.Drops-out.LiquidML*4) > 1e-9 {
			t.Fatalf("%+v", out)
		}
		in.DropsPerML = new(2.0)
		weak, err := Fade(in)
		if err != nil {
			t.Fatal(err)
		}
		if weak.Passes < out.Passes || weak.WorstShare > out.WorstShare+0.12 {
			t.Fatalf("half as strong: %d passes for %d, %.2f off for %.2f", weak.Passes, out.Passes, weak.WorstShare, out.WorstShare)
		}
	}
}

// TestALockIsSaid: whatever is on a piece, something fixes it or the way out is said; no
// spirit where it is avoided.
func TestALockIsSaid(t *testing.T) {
	all := []string{"petalDust", "lustre", "glitter", "metallic", "gelPaint", "pen", "airbrush"}
	for bits := 1; bits < 1<<len(all); bits++ {
		var on []string
		for i, f := range all {
			if bits>>i&1 == 1 {
				on = append(on, f)
			}
		}
		for _, avoid := range [][]string{nil, {"alcohol"}, {"animal"}} {
			out, err := Lock(LockIn{Finishes: on, Avoid: avoid})
			if err != nil {
				t.Fatal(err)
			}
			if n := len(out.Refused) + len(out.Others); out.Fits && n != len(locks)-1 || !out.Fits && (n != len(locks) || out.WayOut == "") {
				t.Fatalf("%v %v: %+v", on, avoid, out)
			}
			if slices.Contains(avoid, "alcohol") && slices.Contains([]string{"glazeMist", "lacquer", "shineSpray"}, out.Lock) {
				t.Fatalf("%v: %s carries alcohol", on, out.Lock)
			}
		}
	}
}

// TestShadeKeepsLightToDark: within a class tones go from light to dark, heights from dark
// to light, and grams do not depend on the order.
func TestShadeKeepsLightToDark(t *testing.T) {
	r := rand.New(rand.NewPCG(14, 4))
	roles := []string{"base", "depth", "vein", "edge", "underside", "tip", "high", "speck"}
	hexes := []string{"#F4F0E6", "#D8C7A0", "#7F8F4A", "#5B6B3A", "#4A3422", "#B3202C"}
	for range 200 {
		var in ShadeIn
		in.Ground = new("#F7F5EE")
		role, hex := map[string]string{}, map[string]string{}
		for i := range 2 + r.IntN(6) {
			id := string(rune('a' + i))
			role[id], hex[id] = roles[r.IntN(len(roles))], hexes[r.IntN(len(hexes))]
			in.Areas = append(in.Areas, Area{ID: &id, Role: new(role[id]), AreaMM2: new(10 + 900*r.Float64()), Hex: new(hex[id])})
		}
		out, err := Shade(in)
		if err != nil {
			t.Fatal(err)
		}
		if len(out.Order) != len(in.Areas) {
			t.Fatal("an area is lost")
		}
		for i := 1; i < len(out.Order); i++ {
			a, b := out.Order[i-1].ID, out.Order[i].ID
			la, _ := colour.Lightness(hex[a])
			lb, _ := colour.Lightness(hex[b])
			ca, cb := classes[role[a]], classes[role[b]]
			if ca > cb || ca == cb && (ca == 3 && la > lb+1e-9 || ca != 3 && la < lb-1e-9) {
				t.Fatalf("%s (%s %s) before %s (%s %s)", a, role[a], hex[a], b, role[b], hex[b])
			}
		}
	}
}

// TestMetalCoats: thinner paint takes more coats for no less powder on the piece.
func TestMetalCoats(t *testing.T) {
	last := 0
	for _, ratio := range []float64{2, 1, 0.6, 0.4, 0.3, 0.2, 0.12} {
		out, err := Metal(MetalIn{AreaMM2: new(5000.0), Medium: new("clearSpirit"), PowderGPerML: new(ratio)})
		if err != nil {
			t.Fatal(err)
		}
		if out.Coats < last || float64(out.Coats)*out.CoatMGPerMM2 < wantedMG-1e-9 || out.PowderG < 5000*wantedMG/1000 {
			t.Fatalf("%.2f g/ml: %+v", ratio, out)
		}
		last = out.Coats
	}
}
