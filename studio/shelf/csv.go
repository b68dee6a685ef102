package shelf

import (
	"context"
	"fmt"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// ReadingsFile is a table of readings before it is brought in.
type ReadingsFile struct {
	Head    []string `json:"head"`
	At      int      `json:"at" doc:"which column is the instant, from 0; -1: none"`
	Temp    int      `json:"temp"`
	RH      int      `json:"rh"`
	Good    int      `json:"good"`
	Unused  int      `json:"unused" doc:"that cannot be: marked and not used"`
	Bad     []string `json:"bad" doc:"rows that cannot be read, and why"`
	BadMore int      `json:"badMore"`
	Says    string   `json:"says"`
}

// Columns says which column is which; -1: guessed.
type Columns struct{ At, Temp, RH int }

const (
	mostReadings = 600_000 // more than a year by the minute
	shownBad     = 6
)

// LookIn reads a table of readings and says what would come in.
func (s *Shelf) LookIn(ctx context.Context, slug string, raw []byte, c Columns) (out ReadingsFile, err error) {
	err = s.In(ctx, slug, func(_ journal.Tx, k *noun.Kitchen, now time.Time) error {
		out, _, err = readReadings(k, raw, c, 0, now)
		return err
	})
	return out, err
}

// BringIn keeps the readings of a table, of a place. The same file again changes nothing.
func (s *Shelf) BringIn(ctx context.Context, slug string, rack int64, raw []byte, c Columns) (n int, err error) {
	err = s.Store.Write(ctx, slug, func(tx journal.Tx) error {
		k := tx.Kitchen()
		now := s.Clock().In(k.Zone())
		if rack != 0 && k.RackOf(rack) == nil {
			return journal.ErrNotFound
		}
		_, all, err := readReadings(k, raw, c, rack, now)
		if err != nil {
			return err
		}
		n = len(all)
		if err := tx.AddReadings(all); err != nil {
			return err
		}
		if err := tx.WantPlan(); err != nil {
			return err
		}
		_, err = tx.Tell()
		return err
	})
	if err == nil {
		s.PlanSoon(slug)
	}
	return n, err
}

func readReadings(k *noun.Kitchen, raw []byte, c Columns, rack int64, now time.Time) (v ReadingsFile, all []noun.Reading, err error) {
	v = ReadingsFile{Bad: []string{}, At: c.At, Temp: c.Temp, RH: c.RH}
	sheet, err := read.ReadSheet(raw, mostReadings)
	if err != nil {
		return v, nil, err
	}
	v.Head = sheet.Head
	if v.At < 0 {
		v.At = sheet.Guess("time", "date", "when", "at")
	}
	if v.Temp < 0 {
		v.Temp = sheet.Guess("temp", "°c", "°f", "warm")
	}
	if v.RH < 0 {
		v.RH = sheet.Guess("humid", "rh", "%")
	}
	if v.At < 0 || v.Temp < 0 || v.RH < 0 || v.At >= len(sheet.Head) || v.Temp >= len(sheet.Head) || v.RH >= len(sheet.Head) {
		v.Says = "Say which column is the time, which the temperature and which the humidity."
		return v, nil, nil
	}
	if v.At == v.Temp || v.At == v.RH || v.Temp == v.RH {
		return v, nil, fault.New(fault.Contradiction, "columns", "Time, temperature and humidity are three columns.")
	}
	warm := strings.ToLower(sheet.Head[v.Temp])
	us := strings.Contains(warm, "°f") || strings.Contains(warm, "fahrenheit") || strings.HasSuffix(warm, "_f")
	r := read.Reader{K: k}
	for i, row := range sheet.Rows {
		x, err := readReading(r, sheet.Cell(row, v.At), sheet.Cell(row, v.Temp), sheet.Cell(row, v.RH), us, now)
		if err != nil {
			if len(v.Bad) < shownBad {
				v.Bad = append(v.Bad, fmt.Sprintf("Row %d: %v.", i+2, err))
			} else {
				v.BadMore++
			}
			continue
		}
		x.Rack = rack
		if x.Bad {
			v.Unused++
		} else {
			v.Good++
		}
		all = append(all, x)
	}
	v.Says = fmt.Sprintf("%s would come in", read.UpperFirst(read.Count(v.Good, "reading")))
	if v.Unused > 0 {
		v.Says += fmt.Sprintf(", %d cannot have been so and are marked", v.Unused)
	}
	if bad := len(v.Bad) + v.BadMore; bad > 0 {
		v.Says += fmt.Sprintf(", %s cannot be read", read.Count(bad, "row"))
	}
	v.Says += "."
	return v, all, nil
}

func readReading(r read.Reader, at, temp, rh string, us bool, now time.Time) (x noun.Reading, err error) {
	if x.At, err = r.Instant(at, now.Location()); err != nil {
		return x, err
	}
	if x.At.After(now.Add(time.Hour)) {
		return x, fmt.Errorf("%s is still to come", at)
	}
	if x.TempC, err = read.Plain(temp); err != nil {
		return x, err
	}
	if x.RHPercent, err = read.Plain(rh); err != nil {
		return x, err
	}
	if us {
		x.TempC = (x.TempC - 32) / 1.8
	}
	if !(x.TempC > -1e6 && x.TempC < 1e6 && x.RHPercent > -1e6 && x.RHPercent < 1e6) {
		return x, fmt.Errorf("%s and %s are no air", temp, rh)
	}
	x.At = x.At.UTC()
	x.Bad = !noun.CanBe(x.TempC, x.RHPercent)
	return x, nil
}
