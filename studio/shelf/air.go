package shelf

import (
	"context"
	"fmt"
	"math"
	"slices"
	"time"

	"dustyfern/craft/drying"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Heard is what a room sensor says of a place that it calls so.
type Heard struct {
	Place     string
	TempC     float64
	RHPercent float64
	Bad       bool   // it cannot be so
	Live      bool   // it was heard just now
	Why       string // why nothing is heard
}

// AirView is the air of a place now.
type AirView struct {
	Says    string  `json:"says"`
	Age     string  `json:"age" doc:"since when that is known"`
	Stale   bool    `json:"stale"`
	Read    bool    `json:"read" doc:"by a sensor or out of a file, not as it was said"`
	Verdict string  `json:"verdict" doc:"what it does to things that dry"`
	Slow    bool    `json:"slow"`
	Sensor  string  `json:"sensor"`
	TempC   float64 `json:"tempC"`
	RH      float64 `json:"rh"`
}

func airView(k *noun.Kitchen, rack int64, now time.Time) AirView {
	r := read.Reader{K: k}
	t, rh, at := k.NowIn(rack, now)
	v := AirView{Says: r.Temp(t) + ", " + read.Trimmed(rh, 0) + " %", TempC: t, RH: rh, Sensor: k.Sensor, Age: "as it was said"}
	if x := k.RackOf(rack); x != nil {
		v.Sensor = x.Sensor
	}
	if !at.IsZero() {
		v.Read, v.Age, v.Stale = true, "read "+read.SayWhen(at, now), noun.Stale(at, now)
		if v.Stale {
			v.Age += ": older than it should be"
		}
	} else if v.Sensor != "" {
		v.Age = "as it was said; its sensor has not been heard"
	}
	v.Verdict, v.Slow = verdict(rh)
	return v
}

// Above slowRH everything dries slowly (docs/models/drying.md, 3); firm ends at limits of its own.
const slowRH = 60.0

func verdict(rh float64) (string, bool) {
	limits := firmLimits()
	switch {
	case rh >= limits[len(limits)-1].upTo:
		return "Nothing gets firm in it.", true
	case rh >= limits[0].upTo:
		return "Some pastes do not get firm in it.", true
	case rh >= slowRH:
		return "Everything dries slowly.", true
	case rh > 55:
		return "Things dry, half as long again as on a dry day.", false
	}
	return "Good for drying.", false
}

// limit is the humidity up to which a paste gets firm.
type limit struct {
	paste string
	upTo  float64
}

// firmLimits of sheets, the lowest first.
func firmLimits() (out []limit) {
	for _, paste := range []string{"sugarPaste", "halfAndHalf", "modellingPaste", "flowerPaste"} {
		b, err := drying.Balance(drying.BalanceIn{Paste: &paste, RHPercent: new(50.0)})
		if err == nil && b.FirmUpToRHPercent != nil {
			out = append(out, limit{paste, *b.FirmUpToRHPercent})
		}
	}
	slices.SortFunc(out, func(a, b limit) int { return int(math.Copysign(1, a.upTo-b.upTo)) })
	return out
}

// tackySays is when poured sugar grows tacky in a place.
func tackySays(k *noun.Kitchen, rack int64, now time.Time) string {
	t, rh, _ := k.NowIn(rack, now)
	x, err := drying.Syrup(drying.SyrupIn{TempC: &t, RHPercent: &rh})
	if err != nil || x.P50Hours == nil {
		return "Poured sugar stays dry here."
	}
	text, band := read.Estimate(*x.P50Hours, x.P10Hours, x.P90Hours)
	return fmt.Sprintf("Poured sugar grows tacky here after %s (%s): over 50 %% humidity. Into a closed box with a drying sachet.", text, band)
}

// beside is a day back and a day ahead of a place, by the hour.
func beside(k *noun.Kitchen, rack int64, now time.Time) []Hourly {
	out := []Hourly{}
	at := now.Truncate(time.Hour)
	for h := -24; h <= 24; h++ {
		t := at.Add(time.Duration(h) * time.Hour)
		_, rh := k.AirIn(rack, t, now)
		out = append(out, Hourly{MS: t.UnixMilli(), RH: math.Round(rh*10) / 10, Expected: h > 0, Slow: rh >= slowRH})
	}
	return out
}

// PlaceView is a place where things dry, as Kitchen shows it.
type PlaceView struct {
	ID   int64        `json:"id" doc:"0: the kitchen"`
	Name string       `json:"name"`
	Air  AirView      `json:"air"`
	Row  work.RowView `json:"row" doc:"its form; of the kitchen none"`
}

// RoomView is every place and its air.
type RoomView struct {
	Places  []PlaceView `json:"places"`
	Live    []LivePlace `json:"live" doc:"what the room sensor says now, of the places that name one"`
	StandIn bool        `json:"standIn"`
	Mode    string      `json:"mode"`
}

// Rooms are the places with their air; heard is what the sensor says now.
func (s *Shelf) Rooms(ctx context.Context, slug string, heard []Heard) (out RoomView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		out = RoomView{Places: []PlaceView{}, Live: []LivePlace{}}
		add := func(id int64, row work.RowView) {
			v := PlaceView{ID: id, Name: read.UpperFirst(k.RackName(id)), Air: airView(k, id, now), Row: row}
			if v.Air.Sensor != "" {
				says, bad := liveSays(read.Reader{K: k}, v.Air.Sensor, heard)
				out.Live = append(out.Live, LivePlace{id, says, bad})
			}
			out.Places = append(out.Places, v)
		}
		add(0, work.RowView{Says: []string{}, Fields: []read.FieldView{}})
		for i := range k.Around.Racks {
			x := &k.Around.Racks[i]
			add(x.ID, work.RowView{ID: x.ID, Version: x.Version, Name: x.Name, Says: []string{}, Fields: read.Views(read.RackFields, read.Reader{K: k}, x, now)})
		}
		return nil
	})
	return out, err
}

// liveSays is what the sensor says of a place now, and what it says that cannot be.
func liveSays(r read.Reader, sensor string, heard []Heard) (says, bad string) {
	if sensor == "" {
		return "", ""
	}
	for _, h := range heard {
		if h.Place != sensor {
			continue
		}
		text := r.Temp(h.TempC) + ", " + read.Trimmed(h.RHPercent, 1) + " %"
		switch {
		case !h.Live:
			return "", "Its sensor is silent: " + h.Why + "."
		case h.Bad:
			return "", "It says " + text + ": that cannot be, and is not used."
		}
		return text, ""
	}
	return "", ""
}

// Live is what the sensor says of each place of a studio, as text: it asks the database
// nothing.
func (s *Shelf) Live(ctx context.Context, slug string) (func(heard []Heard) LiveView, error) {
	var k noun.Kitchen
	err := s.In(ctx, slug, func(_ journal.Tx, is *noun.Kitchen, _ time.Time) error { k = *is; return nil })
	return func(heard []Heard) LiveView {
		out := LiveView{Places: []LivePlace{}}
		add := func(id int64, sensor string) {
			says, bad := liveSays(read.Reader{K: &k}, sensor, heard)
			if sensor != "" {
				out.Places = append(out.Places, LivePlace{id, says, bad})
			}
		}
		add(0, k.Sensor)
		for _, r := range k.Around.Racks {
			add(r.ID, r.Sensor)
		}
		return out
	}, err
}

// LiveView is pushed as it changes.
type LiveView struct {
	Places []LivePlace `json:"places"`
}

// LivePlace is what the sensor says of one place.
type LivePlace struct {
	ID  int64  `json:"id"`
	Say string `json:"says"`
	Bad string `json:"bad"`
}

// How much the air must have changed for windows to be told and the plan to follow
// (assumed): less moves no hour that anybody could keep.
const (
	tellC  = 1.0
	tellRH = 3.0
)

// Keep keeps what was heard in the last minute, in every studio that listens to it, and
// has the plan follow where that changed the air.
func (s *Shelf) Keep(ctx context.Context, heard []Heard) error {
	if len(heard) == 0 {
		return nil
	}
	all, err := s.Store.Studios(ctx)
	if err != nil {
		return err
	}
	for i := range all {
		if err := s.keepIn(ctx, all[i].Slug, heard); err != nil {
			return err
		}
	}
	return nil
}

func (s *Shelf) keepIn(ctx context.Context, slug string, heard []Heard) error {
	listens := false
	err := s.In(ctx, slug, func(_ journal.Tx, k *noun.Kitchen, now time.Time) error {
		listens = len(readingsOf(k, heard, now)) > 0
		return nil
	})
	if err != nil || !listens {
		return err
	}
	moved := false
	err = s.Store.Write(ctx, slug, func(tx journal.Tx) error {
		k := tx.Kitchen()
		now := s.Clock().In(k.Zone())
		readings := readingsOf(k, heard, now)
		was := map[int64][3]float64{}
		for _, x := range readings {
			t, rh, at := k.NowIn(x.Rack, now)
			was[x.Rack] = [3]float64{t, rh, float64(at.Unix() / 3600)}
		}
		if err := tx.AddReadings(readings); err != nil {
			return err
		}
		k = tx.Kitchen()
		for rack, w := range was {
			t, rh, at := k.NowIn(rack, now)
			moved = moved || math.Abs(t-w[0]) >= tellC || math.Abs(rh-w[1]) >= tellRH || float64(at.Unix()/3600) != w[2]
		}
		if !moved {
			return nil
		}
		if err := tx.WantPlan(); err != nil {
			return err
		}
		_, err := tx.Tell()
		return err
	})
	if err == nil && moved {
		s.PlanSoon(slug)
	}
	return err
}

// readingsOf are those of what was heard that a studio listens to.
func readingsOf(k *noun.Kitchen, heard []Heard, now time.Time) (out []noun.Reading) {
	add := func(rack int64, sensor string) {
		for _, h := range heard {
			if sensor != "" && h.Place == sensor && (h.Bad || noun.CanBe(h.TempC, h.RHPercent)) {
				out = append(out, noun.Reading{Rack: rack, At: now.UTC().Truncate(time.Minute), TempC: h.TempC, RHPercent: h.RHPercent, Bad: h.Bad})
			}
		}
	}
	add(0, k.Sensor)
	for _, r := range k.Around.Racks {
		add(r.ID, r.Sensor)
	}
	return out
}
