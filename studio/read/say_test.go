package read

import (
	"testing"
	"time"

	"dustyfern/craft/paste"
	"dustyfern/studio/noun"
)

func TestNumbersInTheReadersUnits(t *testing.T) {
	metric, us := noun.NewKitchen("a"), noun.NewKitchen("b")
	us.Units, us.Words = "us", "us"
	m, u := Reader{&metric}, Reader{&us}
	for _, c := range []struct{ got, want string }{
		{m.Mass(4.24), "4.2 g"}, {u.Mass(4.24), "4.2 g"}, {u.Mass(0.4), "0.4 g"}, {u.Mass(453.59237), "454 g (16 oz)"}, {u.Mass(600), "600 g (21.2 oz)"}, {m.Mass(1500), "1.5 kg"},
		{m.Length(18.3), "18.5 mm"}, {u.Length(25.4), "1 in"}, {u.Length(38.1), "1 1/2 in"}, {m.Temp(21), "21 °C"}, {u.Temp(21), "70 °F"}, {u.Temp(-18), "0 °F"},
		{m.Say("moulds of sugar paste"), "moulds of sugar paste"}, {u.Say("Colour the moulds of sugar paste, dust cornflour, 24 biscuits"), "Color the molds of fondant, dust cornstarch, 24 cookies"},
		{Hours(4.3), "4 h 18"}, {Hours(0.25), "15 min"}, {Hours(52), "2 days 4 h"}, {Percent(1.1789), "1.18 %"}, {Trimmed(-0.0001, 2), "0"},
		{List(nil), ""}, {List([]string{"a"}), "a"}, {List([]string{"a", "b", "c"}), "a, b and c"}, {UpperFirst("élan"), "Élan"}, {UpperFirst(""), ""},
	} {
		if c.got != c.want {
			t.Errorf("%q, want %q", c.got, c.want)
		}
	}
}

// Every paste of the shelf, every demand and way has a name for people.
func TestEverythingHasAName(t *testing.T) {
	for _, k := range paste.Shelf {
		if PasteName(k.Code) == "" {
			t.Errorf("%s has no name", k.Code)
		}
	}
	for _, d := range paste.Demands {
		if DemandSays[d.Code] == "" {
			t.Errorf("%s has no name", d.Code)
		}
	}
	for _, s := range paste.Schools {
		if SchoolNames[s.Code] == "" {
			t.Errorf("%s has no name", s.Code)
		}
	}
}

// Fields of a form are told apart, and each limit can be met.
func TestFormsAreSound(t *testing.T) {
	k := noun.NewKitchen("x")
	now := time.Date(2026, 11, 24, 20, 0, 0, 0, time.UTC)
	check := func(form string, fields []FieldView) {
		seen := map[string]bool{}
		for _, f := range fields {
			if seen[f.Name] || f.Name == "" || f.Label == "" || f.Group == "" {
				t.Errorf("%s: %+v", form, f)
			}
			seen[f.Name] = true
			if (f.Kind == "choice" || f.Kind == "many") && len(f.Choices) < 2 && f.Name != "tool" && f.Name != "technique" && f.Name != "rack" {
				t.Errorf("%s: %s has nothing to choose", form, f.Name)
			}
		}
	}
	tool, lot, order, piece := noun.BlankTool("cavityMould"), noun.BlankLot(), noun.BlankCommission(), noun.BlankPiece()
	check("kitchen", Views(KitchenFields, Reader{&k}, &k, now))
	check("tool", Views(ToolFields(&tool, nil), Reader{&k}, &tool, now))
	check("lot", Views(LotFields, Reader{&k}, &lot, now))
	check("commission", Views(CommissionFields, Reader{&k}, &order, now))
	check("piece", Views(PieceFields, Reader{&k}, &piece, now))
	for _, f := range KitchenFields {
		if f.Kind == "amount" || f.Kind == "count" {
			for _, x := range []float64{f.Lo, f.Hi} {
				copied := k
				if err := f.set(Reader{&k}, f.print(Reader{&k}, x), &copied, now); err != nil {
					t.Errorf("%s refuses its own limit %v: %v", f.Name, x, err)
				}
			}
		}
	}
}

func TestSlugs(t *testing.T) {
	for name, want := range map[string]string{"Elm & Bench!": "elm-bench", "🍰": "studio", "  Röschen ": "r-schen",
		"The very long name of a studio that goes on and on for ever": "the-very-long-name-of-a-studio-that-goes-on-and-on"} {
		if k := noun.NewKitchen(name); k.Slug != want {
			t.Errorf("%q: %q", name, k.Slug)
		}
	}
}
