package pantry

import (
	"bytes"
	"context"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// PantryFormat names the JSON document of a pantry (docs/formats.md).
const PantryFormat = "dustyfern-pantry/1"

// PantryDocument is the lots of a pantry.
type PantryDocument struct {
	Format string     `json:"format"`
	Lots   []noun.Lot `json:"lots"`
}

const (
	mostLotRows = 5000
	shownRows   = 50
)

// PantryFile writes the pantry as csv or json.
func (s *Keeping) PantryFile(ctx context.Context, slug, kind string) (out []byte, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		ls, err := tx.Lots()
		if err != nil {
			return err
		}
		ls = slices.DeleteFunc(ls, func(l noun.Lot) bool { return l.DeletedAt != nil })
		if kind == "json" {
			d := PantryDocument{PantryFormat, []noun.Lot{}}
			for _, l := range ls {
				d.Lots = append(d.Lots, noun.LotDocument(l))
			}
			var b bytes.Buffer
			e := json.NewEncoder(&b)
			e.SetEscapeHTML(false)
			e.SetIndent("", " ")
			err := e.Encode(d)
			out = b.Bytes()
			return err
		}
		var b bytes.Buffer
		w := csv.NewWriter(&b)
		house := *k
		house.Units = "metric" // a file reads the same everywhere
		r := read.Reader{K: &house}
		var head []string
		for _, f := range read.LotFields {
			head = append(head, f.Name)
		}
		_ = w.Write(head) // to memory
		for i := range ls {
			row := []string{}
			for _, f := range read.LotFields {
				row = append(row, read.Harmless(f.Exact(r, &ls[i], now)))
			}
			_ = w.Write(row)
		}
		w.Flush()
		out = b.Bytes()
		return w.Error()
	})
	return out, err
}

// BadRow is a row of a file that cannot be taken in, and why.
type BadRow struct {
	Row   int    `json:"row" doc:"its line in the table, or its number in the list"`
	Place string `json:"place" doc:"the column or field"`
	Why   string `json:"why"`
}

// PantryPreview is what a file would bring into the pantry.
type PantryPreview struct {
	Says string   `json:"says"`
	Good []string `json:"good"`
	Bad  []BadRow `json:"bad"`
	More int      `json:"more" doc:"bad rows beyond those that are shown"`
}

// ReadPantry reads a CSV or JSON file row by row: the good ones and the bad.
func ReadPantry(k *noun.Kitchen, now time.Time, raw []byte) (good []noun.Lot, bad []BadRow, err error) {
	raw = bytes.TrimPrefix(raw, []byte("\xef\xbb\xbf"))
	r := read.Reader{K: k}
	if trimmed := bytes.TrimSpace(raw); len(trimmed) > 0 && trimmed[0] == '{' {
		return readPantryJSON(r, raw)
	}
	if !utf8.Valid(raw) || bytes.IndexByte(raw, 0) >= 0 {
		return nil, nil, fault.New(fault.Syntax, "", "This is no text in UTF-8: save the table as CSV UTF-8.")
	}
	c := csv.NewReader(bytes.NewReader(raw))
	c.FieldsPerRecord, c.Comma = -1, separator(raw)
	head, err := c.Read()
	if errors.Is(err, io.EOF) {
		return nil, nil, fault.New(fault.Required, "", "The file is empty.")
	}
	if err != nil {
		return nil, nil, fault.New(fault.Syntax, "", "This is no CSV table: %v.", err)
	}
	seen := map[string]bool{}
	for i, name := range head {
		j := slices.IndexFunc(read.LotFields, func(f *read.Field[noun.Lot]) bool {
			is := func(x string) bool { return strings.EqualFold(strings.TrimSpace(name), x) }
			return is(f.Name) || is(f.Label) || is(r.Say(f.Label))
		})
		if j < 0 {
			return nil, nil, fault.New(fault.Syntax, "", "There is no column %q: the first line names name, kind, massG and others of docs/formats.md.", strings.TrimSpace(name))
		}
		head[i] = read.LotFields[j].Name
		if seen[head[i]] {
			return nil, nil, fault.New(fault.Contradiction, head[i], "The column %q stands there twice.", head[i])
		}
		seen[head[i]] = true
	}
	for _, must := range []string{"name", "kind", "massG"} {
		if !seen[must] {
			return nil, nil, fault.New(fault.Required, must, "The column %q is missing.", must)
		}
	}
	for n := 1; ; n++ {
		cells, err := c.Read()
		if errors.Is(err, io.EOF) {
			return good, bad, nil
		}
		var p *csv.ParseError
		if errors.As(err, &p) {
			bad = append(bad, BadRow{p.StartLine, "", fmt.Sprintf("This line is no CSV: %v.", p.Err)})
			continue
		}
		if err != nil {
			return nil, nil, err
		}
		line, _ := c.FieldPos(0)
		if n > mostLotRows {
			return nil, nil, fault.New(fault.OutOfRange, "", "At most %d rows at once.", mostLotRows)
		}
		if len(cells) != len(head) {
			bad = append(bad, BadRow{line, "", fmt.Sprintf("It has %d cells, the first line %d.", len(cells), len(head))})
			continue
		}
		set := map[string]string{}
		for i, x := range cells {
			set[head[i]] = strings.TrimPrefix(x, "'")
		}
		l := noun.BlankLot()
		if err := fill(&l, r, set, now); err != nil {
			var f *fault.Fault
			if !errors.As(err, &f) {
				return nil, nil, err
			}
			bad = append(bad, BadRow{line, f.Field, f.Message})
			continue
		}
		good = append(good, l)
	}
}

// separator is what stands between the names of the first line: many programs
// write a semicolon or a tab where the comma is the decimal sign.
func separator(raw []byte) rune {
	first, _, _ := bytes.Cut(raw, []byte("\n"))
	best, most := ',', bytes.Count(first, []byte(","))
	for _, c := range ";\t" {
		if n := bytes.Count(first, []byte(string(c))); n > most {
			best, most = c, n
		}
	}
	return best
}

// fill sets a lot from its cells; the grade of a table is no new squeeze.
func fill(l *noun.Lot, r read.Reader, set map[string]string, now time.Time) error {
	for _, must := range []string{"name", "kind", "massG"} {
		if strings.TrimSpace(set[must]) == "" {
			return fault.New(fault.Required, must, "This cannot be left empty.")
		}
	}
	if r.K.Words != "us" && strings.EqualFold(strings.TrimSpace(set["kind"]), "gum paste") {
		return fault.New(fault.UnknownValue, "kind", "Some say gum paste for flower paste, others for hardened sugar paste: write flower paste or modelling paste.")
	}
	err := read.Apply(read.LotFields, r, l, set, now)
	l.Felt = []noun.Felt{}
	return err
}

func readPantryJSON(r read.Reader, raw []byte) (good []noun.Lot, bad []BadRow, err error) {
	var d struct {
		Format string            `json:"format"`
		Lots   []json.RawMessage `json:"lots"`
	}
	dec := json.NewDecoder(bytes.NewReader(raw))
	dec.DisallowUnknownFields()
	if err := dec.Decode(&d); err != nil {
		return nil, nil, fault.New(fault.Syntax, "", "This is no pantry document: %v.", err)
	}
	if d.Format != PantryFormat {
		return nil, nil, fault.New(fault.UnknownValue, "format", "The format is %q, not %q.", PantryFormat, d.Format)
	}
	if len(d.Lots) > mostLotRows {
		return nil, nil, fault.New(fault.OutOfRange, "lots", "At most %d lots at once.", mostLotRows)
	}
	for i, x := range d.Lots {
		l := noun.BlankLot()
		dec := json.NewDecoder(bytes.NewReader(x))
		dec.DisallowUnknownFields()
		if err := dec.Decode(&l); err != nil {
			bad = append(bad, BadRow{i + 1, "", fmt.Sprintf("It cannot be read: %v.", err)})
			continue
		}
		l = noun.LotFresh(l)
		if math.IsNaN(l.MassG) || l.MassG < 0 {
			bad = append(bad, BadRow{i + 1, "massG", "A mass is not below nothing."})
			continue
		}
		if err := work.CheckLot("lot", l); err != nil {
			var f *fault.Fault
			if !errors.As(err, &f) {
				return nil, nil, err
			}
			bad = append(bad, BadRow{i + 1, strings.TrimPrefix(f.Field, "lot."), f.Message})
			continue
		}
		good = append(good, l)
	}
	return good, bad, nil
}

func previewOf(good []noun.Lot, bad []BadRow, there []noun.Lot) PantryPreview {
	p := PantryPreview{Good: []string{}, Bad: []BadRow{}}
	for _, l := range good[:min(len(good), shownRows)] {
		p.Good = append(p.Good, l.Name)
	}
	p.Bad = append(p.Bad, bad[:min(len(bad), shownRows)]...)
	p.More = len(bad) - len(p.Bad)
	p.Says = fmt.Sprintf("%s can be taken in.", read.Count(len(good), "lot"))
	if len(bad) > 0 {
		p.Says = fmt.Sprintf("%s can be taken in, %s cannot.", read.Count(len(good), "lot"), read.Count(len(bad), "row"))
	}
	twice := 0
	for _, l := range good {
		if slices.ContainsFunc(there, func(o noun.Lot) bool { return o.DeletedAt == nil && strings.EqualFold(o.Name, l.Name) }) {
			twice++
		}
	}
	if twice > 0 {
		are := "1 is"
		if twice > 1 {
			are = fmt.Sprintf("%d are", twice)
		}
		p.Says += fmt.Sprintf(" By name %s there already and would stand there twice.", are)
	}
	return p
}

// LookAtPantry says what a file would bring, without doing it.
func (s *Keeping) LookAtPantry(ctx context.Context, slug string, raw []byte) (out PantryPreview, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		good, bad, err := ReadPantry(k, now, raw)
		if err != nil {
			return err
		}
		there, err := tx.Lots()
		out = previewOf(good, bad, there)
		return err
	})
	return out, err
}

// ImportPantry puts the good rows of a file into the pantry, all or none.
func (s *Keeping) ImportPantry(ctx context.Context, slug string, raw []byte) (out PantryPreview, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		good, bad, err := ReadPantry(a.House, a.Now, raw)
		if err != nil {
			return err
		}
		there, err := a.Lots()
		if err != nil {
			return err
		}
		out = previewOf(good, bad, there)
		if len(good) == 0 {
			return fault.New(fault.Unreachable, "", "There is no row in it that can be taken in.")
		}
		a.Say(0, "brought %s into the pantry", read.Count(len(good), "lot"))
		for i := range good {
			if err := a.Create(&good[i]); err != nil {
				return err
			}
		}
		return nil
	}, nil)
	return out, err
}
