package document

import (
	"bytes"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"strings"
	"time"
	"unicode/utf8"

	"dustyfern/craft/fault"
	"dustyfern/craft/photo"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// mostOf is how many of each a document holds; no studio that the program keeps
// goes beyond it.
var mostOf = struct{ tools, lots, commissions, pieces, steps, timers, journal, fills, lines, joins int }{20_000, 50_000, 50_000, 2000, 20_000, 10_000, 200_000, 20_000, 500, 40}

// ReadDocument reads and checks a document, with the place of what is wrong. One
// of an older version is brought up to this one first.
func ReadDocument(raw []byte) (Document, error) {
	refuse := func(place, format string, args ...any) (Document, error) {
		return Document{}, fault.New(fault.Syntax, place, format, args...)
	}
	if !utf8.Valid(raw) || bytes.Contains(raw, []byte(`\u0000`)) || bytes.IndexByte(raw, 0) >= 0 {
		return refuse("document", "There is a character in it that cannot be kept.")
	}
	var head struct {
		Format string `json:"format"`
	}
	whole := json.NewDecoder(bytes.NewReader(raw))
	if err := whole.Decode(&head); err != nil {
		return refuse("document", "Line %d: this is no studio document: %s.", lineOf(raw, err), strings.TrimPrefix(err.Error(), "json: "))
	}
	if _, err := whole.Token(); !errors.Is(err, io.EOF) {
		return refuse("document", "After the document there is more: one document is wanted.")
	}
	var ran map[string]bool // the clocks that ran in a document of version 1
	switch version, known := formatVersion(head.Format); {
	case !known:
		return refuse("format", "The format is %q; this program reads %q.", head.Format, DocumentFormat)
	case version > documentVersion:
		return refuse("format", "It was written by a newer Dusty Fern (%s); this one reads up to %s. Bring this program up to date: nothing was touched.", head.Format, DocumentFormat)
	case version < documentVersion:
		var err error
		if version == 1 {
			raw, ran, err = upgrade1(raw)
		}
		if err == nil && version <= 2 {
			raw, err = upgrade2(raw)
		}
		if err == nil && version <= 3 {
			raw, err = upgrade3(raw)
		}
		if err == nil && version <= 4 { // what versions 6 to 9 add may be absent
			raw, err = upgrade4(raw)
		}
		if err != nil {
			return refuse("document", "It cannot be brought up to %s: %v.", DocumentFormat, err)
		}
	}
	var d Document
	usual := noun.NewKitchen("")
	d.Kitchen.DropG, d.Kitchen.DabG, d.Kitchen.UnitGrams, d.Kitchen.SpoonGrams, d.Kitchen.Sides, d.Kitchen.ToFree, d.Kitchen.AirMS = usual.DropG, usual.DabG, usual.UnitGrams, usual.SpoonGrams, usual.Sides, usual.ToFree, usual.AirMS // a document of before has none
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&d); err != nil {
		line := 1 + bytes.Count(raw[:min(len(raw), int(dec.InputOffset()))], []byte("\n"))
		var wrong *json.UnmarshalTypeError
		if errors.As(err, &wrong) {
			return refuse(wrong.Field, "Line %d: %s holds %s where %s is wanted.", line, wrong.Field, wrong.Value, wrong.Type)
		}
		return refuse("document", "Line %d: this is no studio document: %s.", line, strings.TrimPrefix(err.Error(), "json: "))
	}
	d.Format = DocumentFormat
	k := &d.Kitchen
	k.Trays, k.Hours, k.Exceptions, k.Room = noun.Some(k.Trays), noun.Some(k.Hours), noun.Some(k.Exceptions), noun.Some(k.Room)
	k.Busy, k.Expects = noun.Some(k.Busy), noun.Some(k.Expects)
	if k.UnitGrams == nil {
		k.UnitGrams = noun.UnitGrams{}
	}
	if k.SpoonGrams == nil {
		k.SpoonGrams = noun.UnitGrams{}
	}
	if k.Sides == nil {
		k.Sides = noun.Sides{}
	}
	if err := d.check(); err != nil || ran == nil {
		return d, err
	}
	d.answerAllBut(ran)
	return d, nil
}

// answerAllBut keeps the clocks silent that had been heard: in a document of
// version 1 those that ran stood as rows, and what follows from its steps beside
// them had been answered.
func (d *Document) answerAllBut(ran map[string]bool) {
	for i, c := range d.Commissions {
		var steps []noun.Step
		for _, st := range c.Steps {
			x := st.Step
			x.CommissionID = int64(i + 1)
			if st.Piece > 0 {
				x.PieceID = new(int64(st.Piece))
			}
			steps = append(steps, x)
		}
		for _, t := range work.Clocks(work.Derived(steps, &d.Kitchen, time.Time{}), nil) {
			if !ran[t.Key()] {
				t.AnsweredAt, t.CommissionID = &t.RingsAt, new(int64(i+1))
				d.Timers = append(d.Timers, t)
			}
		}
	}
}

func lineOf(raw []byte, err error) int {
	var at *json.SyntaxError
	offset := len(raw)
	if errors.As(err, &at) {
		offset = min(len(raw), int(at.Offset))
	}
	return 1 + bytes.Count(raw[:offset], []byte("\n"))
}

const documentVersion = 9

// check refuses values that no form would have let through, and lists that no
// studio comes to.
func (d *Document) check() error {
	k := d.Kitchen
	if _, err := time.LoadLocation(k.TimeZone); err != nil || k.TimeZone == "" || k.TimeZone == "Local" {
		return fault.New(fault.UnknownValue, "kitchen.timeZone", "%q is no time zone.", k.TimeZone)
	}
	for _, l := range []struct {
		at      string
		n, most int
	}{{"tools", len(d.Tools), mostOf.tools}, {"photos", len(d.Photos), mostOf.tools}, {"lots", len(d.Lots), mostOf.lots}, {"commissions", len(d.Commissions), mostOf.commissions}, {"timers", len(d.Timers), mostOf.timers}, {"journal", len(d.Journal), mostOf.journal},
		{"kitchen.trays", len(k.Trays), mostOf.lines}, {"kitchen.hours", len(k.Hours), mostOf.lines}, {"kitchen.exceptions", len(k.Exceptions), mostOf.lines}, {"kitchen.busy", len(k.Busy), noun.MostBusy}} {
		if l.n > l.most {
			return fault.New(fault.OutOfRange, l.at, "At most %d, not %d.", l.most, l.n)
		}
	}
	if err := read.CheckRow("kitchen", read.KitchenFields, k); err != nil {
		return err
	}
	if err := checkHours(&k); err != nil {
		return err
	}
	for i, b := range k.Busy {
		if !b.End.After(b.Start) || b.End.Sub(b.Start) > 366*24*time.Hour || len(b.Who) > 80 {
			return fault.New(fault.OutOfRange, fmt.Sprintf("kitchen.busy[%d]", i), "A busy stretch ends after it begins, within a year.")
		}
	}
	if err := work.CheckSides(&k); err != nil {
		return err
	}
	if err := read.CheckGrams("kitchen.spoonGrams", k.SpoonGrams, read.Powders, 1, 8); err != nil {
		return err
	}
	if err := read.CheckGrams("kitchen.unitGrams", k.UnitGrams, read.CountedUnits, 0.01, 50000); err != nil {
		return err
	}
	if err := d.checkWays(); err != nil {
		return err
	}
	photoBytes := 0
	for i, jpeg := range d.Photos {
		if photoBytes += len(jpeg); photoBytes > noun.MostPhotoBytes {
			return fault.New(fault.OutOfRange, "photos", "The photos of a studio take %d MB at most.", noun.MostPhotoBytes>>20)
		}
		if err := photo.CheckKept(jpeg); err != nil {
			return fault.At(err, fmt.Sprintf("photos[%d].", i))
		}
	}
	if err := d.checkTools(); err != nil {
		return err
	}
	for i, l := range d.Lots {
		if err := work.CheckLot(fmt.Sprintf("lots[%d]", i), l); err != nil {
			return err
		}
	}
	if err := d.checkDrying(); err != nil {
		return err
	}
	for i := range d.Commissions {
		if err := d.checkCommission(i); err != nil {
			return err
		}
	}
	return d.checkRest()
}

// checkWays refuses ways of making whose chains do not hold together.
func (d *Document) checkWays() error {
	if len(d.Ways) > mostOf.lines {
		return fault.New(fault.OutOfRange, "ways", "At most %d ways of one's own.", mostOf.lines)
	}
	seen := map[string]bool{}
	for i := range d.Ways {
		w, at := &d.Ways[i], fmt.Sprintf("ways[%d]", i)
		if w.Definition == nil || w.Key == "" || w.Definition.Key != w.Key || seen[w.Key] || technique.Ours.Of(w.Key) != nil {
			return fault.New(fault.Contradiction, at+".key", "A way of one's own has a key that no other has, in its data as well.")
		}
		seen[w.Key] = true
		next, err := w.Definition.Copy()
		if err == nil {
			_, err = technique.Ours.With(next)
		}
		if err != nil {
			return fault.New(fault.Contradiction, at+".definition", "The chain does not hold together: %v.", err)
		}
	}
	return nil
}
