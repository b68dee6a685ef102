package studio

import (
	"testing"
	"time"

	"dustyfern/craft/paste"
)

func TestNumbersInTheReadersUnits(t *testing.T) {
	metric, us := NewKitchen("a"), NewKitchen("b")
	us.Units, us.Words = "us", "us"
	m, u := reader{&metric}, reader{&us}
	for _, c := range []struct{ got, want string }{
		{m.mass(4.24), "4.2 g"}, {u.mass(4.24), "0.15 oz"}, {u.mass(0.4), "0.4 g"}, {u.mass(453.59237), "1 lb 0 oz"}, {u.mass(600), "1 lb 5.2 oz"}, {m.mass(1500), "1.5 kg"},
		{m.length(18.3), "18.5 mm"}, {u.length(25.4), "1 in"}, {u.length(38.1), "1 1/2 in"}, {m.temp(21), "21 °C"}, {u.temp(21), "70 °F"}, {u.temp(-18), "0 °F"},
		{m.say("moulds of sugar paste"), "moulds of sugar paste"}, {u.say("Colour the moulds of sugar paste, dust cornflour, 24 biscuits"), "Color the molds of fondant, dust cornstarch, 24 cookies"},
		{hours(4.3), "4 h 18"}, {hours(0.25), "15 min"}, {hours(52), "2 days 4 h"}, {percent(1.1789), "1.18 %"}, {trimmed(-0.0001, 2), "0"},
		{list(nil), ""}, {list([]string{"a"}), "a"}, {list([]string{"a", "b", "c"}), "a, b and c"}, {upperFirst("élan"), "Élan"}, {upperFirst(""), ""},
	} {
		if c.got != c.want {
			t.Errorf("%q, want %q", c.got, c.want)
		}
	}
}

// Every paste of the shelf, every demand and way has a name for people.
func TestEverythingHasAName(t *testing.T) {
	for _, k := range paste.Shelf {
		if pasteName(k.Code) == "" {
			t.Errorf("%s has no name", k.Code)
		}
	}
	for _, d := range paste.Demands {
		if demandSays[d.Code] == "" {
			t.Errorf("%s has no name", d.Code)
		}
	}
	for _, s := range paste.Schools {
		if schoolNames[s.Code] == "" {
			t.Errorf("%s has no name", s.Code)
		}
	}
}

// Fields of a form are told apart, and each limit can be met.
func TestFormsAreSound(t *testing.T) {
	k := NewKitchen("x")
	now := time.Date(2026, 11, 24, 20, 0, 0, 0, time.UTC)
	check := func(form string, fields []FieldView) {
		seen := map[string]bool{}
		for _, f := range fields {
			if seen[f.Name] || f.Name == "" || f.Label == "" || f.Group == "" {
				t.Errorf("%s: %+v", form, f)
			}
			seen[f.Name] = true
			if (f.Kind == "choice" || f.Kind == "many") && len(f.Choices) < 2 && f.Name != "mould" {
				t.Errorf("%s: %s has nothing to choose", form, f.Name)
			}
		}
	}
	tool, lot, order, piece := blankTool(), blankLot(), blankCommission(), blankPiece()
	check("kitchen", views(kitchenFields, reader{&k}, &k, now))
	check("tool", views(toolFields, reader{&k}, &tool, now))
	check("lot", views(lotFields, reader{&k}, &lot, now))
	check("commission", views(commissionFields, reader{&k}, &order, now))
	check("piece", views(pieceFields, reader{&k}, &piece, now))
	for _, f := range kitchenFields {
		if f.kind == "amount" || f.kind == "count" {
			for _, x := range []float64{f.lo, f.hi} {
				copied := k
				if err := f.set(reader{&k}, f.print(reader{&k}, x), &copied, now); err != nil {
					t.Errorf("%s refuses its own limit %v: %v", f.name, x, err)
				}
			}
		}
	}
}

func TestSlugs(t *testing.T) {
	for name, want := range map[string]string{"Elm & Bench!": "elm-bench", "🍰": "studio", "  Röschen ": "r-schen",
		"The very long name of a studio that goes on and on for ever": "the-very-long-name-of-a-studio-that-goes-on-and-on"} {
		if k := NewKitchen(name); k.Slug != want {
			t.Errorf("%q: %q", name, k.Slug)
		}
	}
}
