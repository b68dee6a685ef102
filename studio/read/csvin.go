package read

import (
	"bytes"
	"encoding/csv"
	"errors"
	"fmt"
	"io"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"dustyfern/craft/fault"
)

// Sheet is a CSV that is brought in: its head and its rows, whatever they are called.
type Sheet struct {
	Head []string
	Rows [][]string
}

// ReadSheet reads a CSV with a row of names first; a semicolon or a tab between the cells is
// seen by itself. Errors are *fault.Fault on file.
func ReadSheet(raw []byte, most int) (Sheet, error) {
	raw = bytes.TrimPrefix(raw, []byte("\ufeff"))
	if !utf8.Valid(raw) || bytes.IndexByte(raw, 0) >= 0 {
		return Sheet{}, fault.New(fault.Syntax, "file", "It is not written in UTF-8: save it as UTF-8 and bring it in again.")
	}
	c := csv.NewReader(bytes.NewReader(raw))
	c.FieldsPerRecord, c.LazyQuotes, c.TrimLeadingSpace = -1, false, true
	first, _, _ := bytes.Cut(raw, []byte("\n"))
	switch {
	case bytes.Count(first, []byte(";")) > bytes.Count(first, []byte(",")):
		c.Comma = ';'
	case bytes.Count(first, []byte("\t")) > bytes.Count(first, []byte(",")):
		c.Comma = '\t'
	}
	head, err := c.Read()
	if err != nil || len(head) < 2 {
		return Sheet{}, fault.New(fault.Syntax, "file", "A table with a row of names first is wanted, and at least two columns.")
	}
	out := Sheet{Head: head}
	for {
		row, err := c.Read()
		if errors.Is(err, io.EOF) {
			return out, nil
		}
		if err != nil {
			return Sheet{}, fault.New(fault.Syntax, "file", "It breaks off after row %d: %v.", len(out.Rows)+1, err)
		}
		if len(out.Rows) >= most {
			return Sheet{}, fault.New(fault.OutOfRange, "file", "More than %d rows: bring them in in parts.", most)
		}
		out.Rows = append(out.Rows, row)
	}
}

// Guess finds a column by words that its name may hold; -1: none does.
func (s *Sheet) Guess(words ...string) int {
	for _, w := range words {
		for i, h := range s.Head {
			if strings.Contains(strings.ToLower(h), w) {
				return i
			}
		}
	}
	return -1
}

// Cell is the text of a column, "" when there is none.
func (s *Sheet) Cell(row []string, column int) string {
	if column < 0 || column >= len(row) {
		return ""
	}
	return strings.TrimSpace(row[column])
}

var instants = []string{time.RFC3339, "2006-01-02 15:04:05", "2006-01-02 15:04", "2006-01-02T15:04:05", "2006-01-02T15:04", "2006/01/02 15:04:05", "2006/01/02 15:04", "2006-01-02"}

// Instant reads an instant as tables have it, in the reader's zone where it says none; day
// and month stand as the reader writes them.
func (r Reader) Instant(text string, zone *time.Location) (time.Time, error) {
	dayFirst := []string{"02/01/2006 15:04:05", "02/01/2006 15:04", "2/1/2006 15:04", "02.01.2006 15:04:05", "02.01.2006 15:04", "2.1.2006 15:04", "02/01/2006", "02.01.2006"}
	if r.Us() {
		dayFirst = []string{"01/02/2006 15:04:05", "01/02/2006 15:04", "1/2/2006 15:04", "1/2/2006 3:04 PM", "01/02/2006"}
	}
	for _, layout := range append(append([]string{}, instants...), dayFirst...) {
		if t, err := time.ParseInLocation(layout, text, zone); err == nil {
			return t, within(t)
		}
	}
	if x, err := strconv.ParseFloat(text, 64); err == nil && x > 1e8 && x < 1e14 {
		if x > 1e11 {
			x /= 1000
		}
		t := time.Unix(int64(x), 0)
		return t, within(t)
	}
	return time.Time{}, fmt.Errorf("%q is no instant: 2026-03-05 19:00 is wanted", text)
}

func within(t time.Time) error {
	if t.Year() < 1990 || t.Year() > 2200 {
		return fmt.Errorf("%s is not of our time", t.Format(time.DateOnly))
	}
	return nil
}

// Plain reads a number as tables have it, with a comma or a point, and whatever unit
// stands behind it.
func Plain(text string) (float64, error) {
	t := strings.TrimRight(strings.TrimSpace(text), " %°CFhgm")
	x, err := strconv.ParseFloat(strings.Replace(t, ",", ".", 1), 64)
	if err != nil || x != x {
		return 0, fmt.Errorf("%q is no number", text)
	}
	return x, nil
}
