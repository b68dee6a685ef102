// Package document is a studio as a file: out, looked at, checked, in; and its older
// versions.
package document

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Documents are studios as files: out, looked at, in.
type Documents struct{ Desk *journal.Desk }

// DocumentFormat names the JSON document of a whole studio (docs/formats.md).
const DocumentFormat = documentName + "/9"

const documentName = "dustyfern-studio"

// Document is a studio as one JSON document. Rows are numbered from 1 in the
// order in which they stand; what points to a row names its number. What was
// deleted is left out, and what is planned of a batch that has not begun: one that
// has keeps the chain it began with. Of a wait that runs
// only its length is kept: when it began follows from the step before it.
type Document struct {
	Format      string          `json:"format"`
	Kitchen     noun.Kitchen    `json:"kitchen"`
	Ways        []noun.OwnWay   `json:"ways"`
	Photos      [][]byte        `json:"photos,omitempty"` // JPEGs in base64: those of tools and notes
	Tools       []noun.Tool     `json:"tools"`
	Lots        []noun.Lot      `json:"lots"`
	Racks       []noun.Rack     `json:"racks,omitempty"`
	Readings    []noun.Reading  `json:"readings,omitempty"` // of the last days, by the hour
	Commissions []CommissionDoc `json:"commissions"`
	Notes       []noun.Note     `json:"notes,omitempty"`
	Timers      []noun.Timer    `json:"timers"`
	Journal     []EntryDoc      `json:"journal"`
}

// CommissionDoc is a commission with its pieces and what has happened of it.
type CommissionDoc struct {
	noun.Commission
	Pieces []PieceDoc `json:"pieces"`
	Steps  []StepDoc  `json:"steps"`
}

// PieceDoc is a piece; Tool is the number of a tool, 0 for none.
type PieceDoc struct {
	noun.Piece
	Tool int `json:"tool,omitempty"`
}

// StepDoc is a step that has begun; Piece is the number of a piece within the
// commission, 0 for the assembly.
type StepDoc struct {
	noun.Step
	Piece int `json:"piece,omitempty"`
}

// EntryDoc is a line of the journal in words; Commission is a number, 0 for
// none.
type EntryDoc struct {
	At         time.Time `json:"at"`
	Who        string    `json:"who"`
	Says       string    `json:"says"`
	Kind       string    `json:"kind"`
	Bench      bool      `json:"bench"`
	Undone     bool      `json:"undone"`
	Commission int       `json:"commission,omitempty"`
}

// Preview is what an import would bring.
type Preview struct {
	Name        string   `json:"name"`
	Tools       int      `json:"tools"`
	Lots        int      `json:"lots"`
	Commissions []string `json:"commissions"`
	Pieces      int      `json:"pieces"`
	Steps       int      `json:"steps"`
	Says        string   `json:"says"`
}

// Export writes a studio as one document.
func (s *Documents) Export(ctx context.Context, slug string) ([]byte, error) {
	var d Document
	err := s.Desk.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) (err error) {
		d, err = wholeOf(tx, k, now)
		return err
	})
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	e.SetIndent("", " ")
	err = e.Encode(d)
	return b.Bytes(), err
}

// opOf reports whether a step's name belongs to a commission and a piece of it.
func opOf(commission, piece int, op string) bool {
	head, rest, ok := strings.Cut(op, ".")
	want := fmt.Sprintf("c%d", commission)
	if piece > 0 {
		want = fmt.Sprintf("p%d-%d", commission, piece)
	}
	return ok && head == want && rest != ""
}

// preview says in words what a document holds.
func (d *Document) preview() Preview {
	p := Preview{Name: d.Kitchen.Name, Tools: len(d.Tools), Lots: len(d.Lots), Commissions: []string{}}
	for _, c := range d.Commissions {
		p.Commissions = append(p.Commissions, c.Title)
		p.Pieces += len(c.Pieces)
		p.Steps += len(c.Steps)
	}
	p.Says = fmt.Sprintf("A new studio %q with %s, %s, %s with %s, and %s of what has begun.", p.Name, read.Count(p.Tools, "tool"), read.Count(p.Lots, "lot"), read.Count(len(p.Commissions), "commission"), read.Count(p.Pieces, "piece"), read.Count(p.Steps, "step"))
	return p
}

// Look reads a document and says what an import would bring, without doing it.
func (s *Documents) Look(_ context.Context, raw []byte) (Preview, error) {
	d, err := ReadDocument(raw)
	if err != nil {
		return Preview{}, err
	}
	return d.preview(), nil
}

// Table is rows of a studio as a table of texts, the first row the names.
func (s *Documents) Table(ctx context.Context, slug, kind string) (rows [][]string, err error) {
	err = s.Desk.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		r := read.Reader{K: k}
		switch kind {
		case "tools":
			ts, err := tx.Tools()
			rows = toolTable(r, now, ts)
			return err
		case "steps":
			cs, err2 := tx.AllCommissions()
			all, err := tx.AllSteps()
			steps := work.Derived(all, k, now)
			titles := noun.TitlesOf(cs)
			rows = [][]string{{"commission", "step", "kind", "hands", "plannedStart", "plannedEnd", "actualStart", "actualEnd", "made", "broken"}}
			for _, st := range steps {
				title := titles[st.CommissionID]
				at := func(t *time.Time) string {
					if t == nil {
						return ""
					}
					return t.In(now.Location()).Format(time.RFC3339)
				}
				made := ""
				if st.Made != nil {
					made = strconv.Itoa(*st.Made)
				}
				rows = append(rows, []string{read.Harmless(title), read.Harmless(st.Title), st.Kind, map[bool]string{true: "yes", false: "no"}[st.Attended], at(&st.PlannedStart), at(&st.PlannedEnd), at(st.ActualStart), at(st.ActualEnd), made, strconv.Itoa(st.Broken())})
			}
			return errors.Join(err, err2)
		}
		return fault.New(fault.UnknownValue, "kind", "There are tables of tools and steps; the pantry has its own.")
	})
	return rows, err
}

// toolTable has a column for each measure that one of the tools has.
func toolTable(r read.Reader, now time.Time, ts []noun.Tool) [][]string {
	head := []string{}
	for i := range ts {
		for _, f := range read.ToolFields(&ts[i], nil) {
			if !slices.Contains(head, f.Name) {
				head = append(head, f.Name)
			}
		}
	}
	rows := [][]string{head}
	for i := range ts {
		row := make([]string, len(head))
		for _, f := range read.ToolFields(&ts[i], nil) {
			row[slices.Index(head, f.Name)] = read.Harmless(f.Text(r, &ts[i], now))
		}
		rows = append(rows, row)
	}
	return rows
}

// StudioRow is a studio in the list.
type StudioRow struct {
	Slug string `json:"slug"`
	Name string `json:"name"`
}

// FreeSlug is an address that no studio has yet.
func (s *Documents) FreeSlug(ctx context.Context, base string) (string, error) {
	all, err := s.Desk.Store.Studios(ctx)
	slug := base
	for n := 2; slices.ContainsFunc(all, func(o noun.Kitchen) bool { return o.Slug == slug }); n++ {
		slug = fmt.Sprintf("%s-%d", base, n)
	}
	return slug, err
}
