package studio_test

import (
	"testing"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/shelf"
)

// BenchmarkYearsStrip opens the strip of a year whose air was read by the minute.
func BenchmarkYearsStrip(b *testing.B) {
	h, _, _ := stocked(b)
	for d := range 365 {
		all := make([]noun.Reading, 0, 1440)
		for m := range 1440 {
			all = append(all, noun.Reading{At: h.now.AddDate(0, 0, -d).Add(-time.Duration(m) * time.Minute).UTC(), TempC: 21, RHPercent: 40 + float64(m%20)})
		}
		h.ok(h.Store.Write(b.Context(), h.slug, func(tx journal.Tx) error { return tx.AddReadings(all) }))
	}
	for _, hours := range []int{72, 8760} {
		b.Run(map[int]string{72: "days", 8760: "year"}[hours], func(b *testing.B) {
			for b.Loop() {
				v, err := h.Shelf.Strip(b.Context(), h.slug, 0, hours)
				if err != nil || len(v.Read) < 70 {
					b.Fatal(err, len(v.Read))
				}
			}
		})
	}
}

// BenchmarkKeepAMinute is what a minute of the room sensor costs: it is written, its hour
// summed, and nothing is planned while the air stays.
func BenchmarkKeepAMinute(b *testing.B) {
	h, _, _ := stocked(b)
	h.kitchen(set{"sensor": "kitchen"})
	heard := []shelf.Heard{{Place: "kitchen", TempC: 21, RHPercent: 50, Live: true}}
	for b.Loop() {
		h.now = h.now.Add(time.Minute)
		if err := h.Shelf.Keep(b.Context(), heard); err != nil {
			b.Fatal(err)
		}
	}
}

// BenchmarkShelf reads the shelf with a batch on it.
func BenchmarkShelf(b *testing.B) {
	h, m, o := stocked(b)
	h.piece(o, m, set{"wanted": "6", "joined": "dry", "eaten": "shown"})
	h.now = h.steps("knead")[0].Start.Add(10 * time.Minute)
	h.finish("knead")
	h.after(40 * time.Minute)
	h.finish("press")
	for b.Loop() {
		if _, err := h.Shelf.Look(b.Context(), h.slug); err != nil {
			b.Fatal(err)
		}
	}
}
