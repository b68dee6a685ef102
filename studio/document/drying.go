package document

import (
	"fmt"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// mostRacks, mostReadings and mostNotes are what a document holds of drying.
const (
	mostRacks    = 50
	mostReadings = 20_000
	mostNotes    = 100_000
)

// racks are where things dry, and what was read there lately, by the hour.
func (w *whole) racks() error {
	k := w.tx.Kitchen()
	w.rackNo = map[int64]int64{0: 0}
	for _, r := range k.Around.Racks {
		w.rackNo[r.ID] = int64(len(w.doc.Racks) + 1)
		r.ID, r.Version = 0, 0
		w.doc.Racks = append(w.doc.Racks, r)
	}
	for _, h := range k.Around.Hours {
		no, known := w.rackNo[h.Rack]
		if !known {
			continue
		}
		w.doc.Readings = append(w.doc.Readings, noun.Reading{Rack: no, At: time.Unix(h.At*3600, 0).UTC(), TempC: h.TempC, RHPercent: h.RHPercent})
	}
	w.doc.Kitchen.Expects = slices.Clone(k.Expects)
	for i := range w.doc.Kitchen.Expects {
		e := &w.doc.Kitchen.Expects[i]
		e.From = e.From.UTC()
		noun.Utc(&e.Until)
	}
	return nil
}

// tended is what hands did to a drying, with the numbers of places.
func (w *whole) tended(all []noun.Tended) []noun.Tended {
	out := slices.Clone(all)
	for i := range out {
		out[i].At, out[i].Rack = out[i].At.UTC(), w.rackNo[out[i].Rack]
	}
	return out
}

// body is what dries, with the number of its place.
func (w *whole) body(b *noun.Body) *noun.Body {
	if b == nil || b.Rack == 0 {
		return b
	}
	out := *b
	out.Rack = w.rackNo[b.Rack]
	return &out
}

// notes are all that were made, the oldest first.
func (w *whole) notes() error {
	all, err := w.tx.Notes(noun.NoteFind{}, 0, mostNotes)
	if err != nil {
		return err
	}
	for _, n := range slices.Backward(all) {
		n.ID, n.Version, n.At, n.Op = 0, 0, n.At.UTC(), w.ops[n.Op]
		n.PieceID = nil
		if n.CommissionID != nil {
			no, ok := w.orderNo[*n.CommissionID]
			n.CommissionID = new(int64(no))
			if !ok {
				n.CommissionID = nil
			}
		}
		if n.Photo != nil {
			jpeg, err := w.tx.Photo(*n.Photo)
			if err != nil {
				return err
			}
			w.doc.Photos = append(w.doc.Photos, jpeg)
			n.Photo = new(int64(len(w.doc.Photos)))
		}
		w.doc.Notes = append(w.doc.Notes, n)
	}
	return nil
}

// racks writes where things dry, and what was read there.
func (f *filling) racks() error {
	f.rack = []int64{0}
	for _, r := range f.d.Racks {
		r.ID, r.Version, r.DeletedAt, r.Trays, r.Room = 0, 1, nil, noun.Some(r.Trays), noun.Some(r.Room)
		if err := f.tx.Create(&r); err != nil {
			return err
		}
		f.rack = append(f.rack, r.ID)
	}
	all := slices.Clone(f.d.Readings)
	for i := range all {
		all[i].Rack = f.rack[all[i].Rack]
	}
	return f.tx.AddReadings(all)
}

// rackID is the place of a number; nil stays nil.
func (f *filling) rackID(no *int64) *int64 {
	if no == nil || *no == 0 {
		return nil
	}
	return &f.rack[*no]
}

// notes writes what was seen, and what that teaches.
func (f *filling) notes() error {
	var all []noun.Note
	for _, n := range f.d.Notes {
		n.ID, n.Version, n.DeletedAt, n.Op = 0, 1, nil, f.ops[n.Op]
		if n.CommissionID != nil {
			n.CommissionID = &f.orders[*n.CommissionID]
		}
		if n.Photo != nil {
			n.Photo = &f.photos[*n.Photo-1]
		}
		all = append(all, n)
	}
	if len(all) == 0 {
		return nil
	}
	if err := journal.CreateAll(f.tx, all); err != nil {
		return err
	}
	return journal.Relearn(f.tx)
}

// checkDrying refuses places, readings and notes that nobody can have made.
func (d *Document) checkDrying() error {
	if len(d.Racks) > mostRacks || len(d.Readings) > mostReadings || len(d.Notes) > mostNotes {
		return fault.New(fault.OutOfRange, "racks", "At most %d places where things dry, %d readings and %d notes.", mostRacks, mostReadings, mostNotes)
	}
	for i, r := range d.Racks {
		if err := read.CheckRow(fmt.Sprintf("racks[%d]", i), read.RackFields, r); err != nil {
			return err
		}
		for _, t := range r.Trays {
			if t.Count < 1 || t.Count > 1000 || !(t.LengthMM >= 50 && t.LengthMM <= 3000) || !(t.WidthMM >= 50 && t.WidthMM <= 3000) {
				return fault.New(fault.OutOfRange, fmt.Sprintf("racks[%d].trays", i), "1 to 1000 trays of 50 to 3000 mm.")
			}
		}
		if !(r.AirMS >= 0 && r.AirMS <= 5) {
			return fault.New(fault.OutOfRange, fmt.Sprintf("racks[%d].airMS", i), "Air moves at 0 to 5 m/s.")
		}
	}
	for i, x := range d.Readings {
		if x.Rack < 0 || x.Rack > int64(len(d.Racks)) || !noun.CanBe(x.TempC, x.RHPercent) || x.At.Year() < 1990 || x.At.Year() > 2200 {
			return fault.New(fault.OutOfRange, fmt.Sprintf("readings[%d]", i), "A reading is of a place of the document, 5 to 40 C and 5 to 95 %%.")
		}
	}
	for i, e := range d.Kitchen.Expects {
		if !(e.RHPercent >= 5 && e.RHPercent <= 95) || e.TempC != nil && !(*e.TempC >= 5 && *e.TempC <= 40) || len(e.Says) > 200 || e.Until != nil && !e.Until.After(e.From) {
			return fault.New(fault.OutOfRange, fmt.Sprintf("kitchen.expects[%d]", i), "A humidity of 5 to 95 %% and a warmth of 5 to 40 C is expected, and it ends after it begins.")
		}
	}
	if !(d.Kitchen.AirMS >= 0 && d.Kitchen.AirMS <= 5) {
		return fault.New(fault.OutOfRange, "kitchen.airMS", "Air moves at 0 to 5 m/s.")
	}
	for i := range d.Notes {
		n, at := &d.Notes[i], fmt.Sprintf("notes[%d]", i)
		if _, known := noun.NoteKindOf(n.What); !known {
			return fault.New(fault.UnknownValue, at+".what", "A note is one of %s, not %q.", read.List(noun.NoteCodes()), n.What)
		}
		if n.CommissionID != nil && (*n.CommissionID < 1 || *n.CommissionID > int64(len(d.Commissions))) || n.Photo != nil && (*n.Photo < 1 || *n.Photo > int64(len(d.Photos))) || n.PieceID != nil {
			return fault.New(fault.UnknownValue, at+".commissionId", "A note names a commission and a photo of the document by their numbers.")
		}
		if n.Count < 0 || n.Count > 100000 || len(n.Says) > read.MostText || len(n.Name)+len(n.Tool)+len(n.Who) > read.MostText || n.At.Year() < 1990 || n.At.Year() > 2200 {
			return fault.New(fault.OutOfRange, at, "A note is of our time, of at most 100000 pieces and %d characters.", read.MostText)
		}
		for _, x := range []float64{n.Hours, n.ModelHours, n.LowHours, n.MidHours, n.HighHours} {
			if !(x >= 0 && x <= 720) {
				return fault.New(fault.OutOfRange, at+".hours", "Hours of drying run from 0 to 720.")
			}
		}
		if n.ModelHours > 0 && !noun.Dries(n.Paste) {
			return fault.New(fault.UnknownValue, at+".paste", "What teaches of drying is of a paste that dries, not of %q.", n.Paste)
		}
	}
	return nil
}
