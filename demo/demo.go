// Package demo is the made-up studio that shows what Dusty Fern does. It is
// loaded through the use cases that people have, with dates that follow the
// day on which it is loaded.
package demo

import (
	"context"
	"fmt"
	"strconv"
	"time"

	"dustyfern/studio"
)

// Slug is the demo studio's address.
const Slug = "hollow-lane-sugar-room"

type texts = map[string]string

var kitchen = texts{
	"tempC": "21", "rhPercent": "50", "freezerPlaces": "6", "gramsPerTsp": "2.8 g", "trays": "5 of 400 x 300 mm",
	"formers": "24 cupped holes\n1 foam block\n4 dowels of 30 mm",
	"hours":   "Tue 19:00-22:00 Ines\nWed 19:00-22:00 Ines\nThu 19:00-22:00 Ines, Tobi\nFri 9:00-13:00 Ines, Tobi\nSat 7:00-9:30 Ines\nSun 14:00-18:00 Ines",
}

var moulds = []texts{
	{"name": "Fern frond, large", "shape": "block", "lengthMM": "92", "widthMM": "46", "depthMM": "4", "detailMM": "0.8", "branching": "yes", "patterned": "yes", "chilled": "yes", "copies": "2", "weighedG": "4.2 g"},
	{"name": "Fern frond, medium", "shape": "block", "lengthMM": "74", "widthMM": "36", "depthMM": "3.5", "detailMM": "0.8", "branching": "yes", "patterned": "yes", "chilled": "yes", "weighedG": "2.6 g"},
	{"name": "Fern frond, small", "shape": "block", "lengthMM": "58", "widthMM": "28", "depthMM": "3", "detailMM": "0.8", "branching": "yes", "patterned": "yes", "chilled": "yes", "weighedG": "1.5 g"},
	{"name": "Toadstool cap", "shape": "dome", "lengthMM": "20", "widthMM": "20", "depthMM": "10", "cavityML": "2.1"},
	{"name": "Toadstool stem", "shape": "rod", "lengthMM": "25", "widthMM": "8", "depthMM": "8", "cavityML": "1.2"},
	{"name": "Beetles, sheet of three", "shape": "block", "lengthMM": "26", "widthMM": "18", "depthMM": "5", "detailMM": "0.5", "undercut": "yes", "patterned": "yes", "chilled": "yes", "cavities": "3", "weighedG": "1.8 g"},
	{"name": "Bead string, 4 mm", "shape": "rod", "lengthMM": "180", "widthMM": "4", "depthMM": "4", "branching": "yes", "chilled": "yes", "cavityML": "1.9"},
}

// lots of the pantry; openedDaysAgo "" means a closed packet.
var lots = []texts{
	{"name": "White sugar paste, open", "kind": "sugarPaste", "massG": "1 kg", "grade": "3", "openedOn": "-9"},
	{"name": "White sugar paste, closed", "kind": "sugarPaste", "massG": "2 kg"},
	{"name": "Soft white sugar paste", "kind": "softSugarPaste", "massG": "500 g", "grade": "2", "openedOn": "-20"},
	{"name": "White flower paste", "kind": "flowerPaste", "massG": "500 g", "allergens": "egg"},
	{"name": "Ready half-and-half", "kind": "halfAndHalf", "massG": "250 g"},
	{"name": "Dark chocolate dough", "kind": "darkChocolate", "massG": "400 g", "allergens": "milk, soya"},
	{"name": "Marzipan", "kind": "marzipan", "massG": "300 g", "allergens": "nuts"},
	{"name": "Leftover, sage", "kind": "sugarPaste", "massG": "140 g", "openedOn": "-12", "swatch": "#A9B99A"},
	{"name": "Leftover, terracotta", "kind": "sugarPaste", "massG": "60 g", "openedOn": "-16", "swatch": "#B4694B"},
	{"name": "Leftover, pale yellow", "kind": "sugarPaste", "massG": "85 g", "openedOn": "-6", "swatch": "#EFDF9C"},
	{"name": "Hard end of navy", "kind": "sugarPaste", "massG": "40 g", "grade": "5", "openedOn": "-60", "swatch": "#26324F"},
}

// pieces of the fernery, by the name of their mould.
var pieces = []struct {
	mould string
	set   texts
}{
	{"Fern frond, large", texts{"name": "Fern fronds, large", "wanted": "14", "colour": "fern green, dark", "swatch": "#4F7A3F", "eaten": "nibbled", "stance": "upright", "heightMM": "92", "joined": "dry", "support": "foam", "dusted": "yes", "trial": "4.2 g"}},
	{"Fern frond, medium", texts{"name": "Fern fronds, medium", "wanted": "12", "colour": "fern green, mid", "swatch": "#6B9455", "eaten": "nibbled", "bent": "yes", "joined": "dry", "support": "foam", "dusted": "yes", "trial": "2.6 g"}},
	{"Fern frond, small", texts{"name": "Fern fronds, small", "wanted": "10", "colour": "fern green, light", "swatch": "#8FB377", "eaten": "nibbled", "bent": "yes", "joined": "dry", "support": "foam", "dusted": "yes", "trial": "1.5 g"}},
	{"Toadstool cap", texts{"name": "Toadstool caps", "wanted": "14", "colour": "toadstool red", "swatch": "#B5442F", "eaten": "nibbled", "knifePasses": "yes", "joined": "dry", "support": "foam"}},
	{"Toadstool stem", texts{"name": "Toadstool stems", "wanted": "14", "colour": "ivory", "swatch": "#EFE6D0", "eaten": "nibbled", "stance": "upright", "heightMM": "25", "carries": "yes", "joined": "dry", "support": "foam"}},
	{"Beetles, sheet of three", texts{"name": "Beetles", "wanted": "9", "colour": "near black", "swatch": "#2B3A34", "eaten": "shown", "joined": "dry", "support": "foam", "dusted": "yes", "trial": "1.8 g"}},
}

// Load makes the demo studio as if it had been begun some hours before now: the
// small fronds are pressed already and lie drying.
func Load(ctx context.Context, store studio.Store, now time.Time) error {
	clock := now.Add(-5*time.Hour - 30*time.Minute).Truncate(time.Minute)
	s := &studio.Service{Store: store, Clock: func() time.Time { return clock }}
	row, err := s.CreateStudio(ctx, "Hollow Lane Sugar Room")
	if err != nil {
		return err
	}
	slug := row.Slug
	if _, err := s.ChangeKitchen(ctx, slug, studio.ChangeIn{Version: 1, Set: kitchen}); err != nil {
		return fmt.Errorf("kitchen: %w", err)
	}
	mouldID := map[string]int64{}
	for _, m := range moulds {
		id, err := s.Create(ctx, slug, studio.KindTool, 0, copyOf(m))
		if err != nil {
			return fmt.Errorf("%s: %w", m["name"], err)
		}
		mouldID[m["name"]] = id
	}
	for _, l := range lots {
		set := copyOf(l)
		if days, err := strconv.Atoi(set["openedOn"]); err == nil {
			set["openedOn"] = now.AddDate(0, 0, days).Format(time.DateOnly)
		}
		if _, err := s.Create(ctx, slug, studio.KindLot, 0, set); err != nil {
			return fmt.Errorf("%s: %w", l["name"], err)
		}
	}
	id, err := commissions(ctx, s, slug, now)
	if err != nil {
		return err
	}
	small := int64(0)
	for _, p := range pieces {
		set := copyOf(p.set)
		set["mould"] = strconv.FormatInt(mouldID[p.mould], 10)
		pid, err := s.Create(ctx, slug, studio.KindPiece, id, set)
		if err != nil {
			return fmt.Errorf("%s: %w", set["name"], err)
		}
		if p.mould == "Fern frond, small" {
			small = pid
		}
	}
	for i, kind := range []string{"knead", "press"} {
		clock = clock.Add(time.Duration(30+150*i) * time.Minute)
		line, err := s.Line(ctx, slug, id)
		if err != nil {
			return err
		}
		for _, st := range line.Rows[0].Steps {
			if st.PieceID != nil && *st.PieceID == small && st.Kind == kind {
				if _, err := s.Finish(ctx, slug, st.Op, st.Version); err != nil {
					return fmt.Errorf("%s: %w", st.Title, err)
				}
				break
			}
		}
	}
	clock = now
	if _, err := s.Bench(ctx, slug); err != nil {
		return err
	}
	return store.In(ctx, slug, func(tx studio.Tx) error {
		p := tx.Plan()
		p.Summary.Moved, p.Summary.Before = nil, nil // seen long ago
		if err := tx.SavePlan(p); err != nil {
			return err
		}
		ts, err := tx.Timers()
		for i := range ts { // what rang before anybody looked was answered then
			if t := &ts[i]; err == nil && !t.RingsAt.After(now) {
				t.AnsweredAt = &t.RingsAt
				err = tx.SaveTimer(t)
			}
		}
		return err
	})
}

func commissions(ctx context.Context, s *studio.Service, slug string, now time.Time) (fernery int64, err error) {
	saturday := (int(time.Saturday) - int(now.Weekday()) + 7) % 7
	if saturday == 0 {
		saturday = 7
	}
	on := func(days int, clock string) string {
		return now.AddDate(0, 0, days).Format(time.DateOnly) + " " + clock
	}
	for i, set := range []texts{
		{"title": "Fernery centenary", "customer": "The Ashmere Fernery Society, its hundredth year", "handOver": on(saturday+7, "10:00"), "carrier": "tiers",
			"tiers":  "round 250 mm, 110 mm tall, coated 5 mm sage sugar paste\nround 200 mm, 110 mm tall, coated 5 mm sage sugar paste\nround 150 mm, 110 mm tall, coated 5 mm sage sugar paste",
			"guests": "about 90 adults and a few children", "children": "yes", "allergies": "nuts", "notes": "Fronds in three greens, part-mixed. Toadstools must match in pairs. Ginkgo leaves, acorns, plaques and the moss band follow."},
		{"title": "Observatory evening", "customer": "The friends of the old observatory", "handOver": on(5, "18:00"), "carrier": "biscuits", "count": "24", "acrossMM": "65", "guests": "two dozen grown-ups",
			"notes": "Moon discs with craters, comets with ribbon tails, star chains; deep blue to violet."},
		{"title": "The clockmaker's seventieth", "customer": "A birthday among clocks", "handOver": on(21, "15:00"), "carrier": "tiers", "tiers": "square 180 mm, 120 mm tall, coated 4 mm ivory sugar paste", "noAlcohol": "yes",
			"notes": "Eighteen gears, one mantel clock 140 mm high from a drawing, a bow, twelve small ribbon roses."},
	} {
		id, err := s.Create(ctx, slug, studio.KindCommission, 0, set)
		if err != nil {
			return 0, fmt.Errorf("%s: %w", set["title"], err)
		}
		if i == 0 {
			fernery = id
		}
	}
	// a commission of last month cannot be typed as one to come
	last := now.AddDate(0, -1, -3)
	over := time.Date(last.Year(), last.Month(), last.Day(), 14, 0, 0, 0, last.Location())
	return fernery, s.Store.In(ctx, slug, func(tx studio.Tx) error {
		return tx.CreateCommission(&studio.Commission{Version: 1, Title: "Last month's meadow biscuits", Customer: "A garden party", HandOver: &over, Carrier: "biscuits", Count: new(36),
			Tiers: []studio.Tier{}, Allergies: []string{}, Guests: "a garden party", Notes: "Small flowers and leaves, all on time.", State: "handedOver"})
	})
}

func copyOf(t texts) texts {
	out := texts{}
	for k, v := range t {
		out[k] = v
	}
	return out
}
