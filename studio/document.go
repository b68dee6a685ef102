package studio

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/fault"
)

// DocumentFormat names the JSON document of a whole studio (docs/formats.md).
const DocumentFormat = "dustyfern-studio/1"

// Document is a studio as one JSON document. Rows are numbered from 1 in the
// order in which they stand; what points to a row names its number. What was
// deleted, and what is planned but not begun, is left out.
type Document struct {
	Format      string          `json:"format"`
	Kitchen     Kitchen         `json:"kitchen"`
	Tools       []Tool          `json:"tools"`
	Lots        []Lot           `json:"lots"`
	Commissions []CommissionDoc `json:"commissions"`
	Timers      []Timer         `json:"timers"`
	Journal     []EntryDoc      `json:"journal"`
}

// CommissionDoc is a commission with its pieces and what has happened of it.
type CommissionDoc struct {
	Commission
	Pieces []PieceDoc `json:"pieces"`
	Steps  []StepDoc  `json:"steps"`
}

// PieceDoc is a piece; Mould is the number of a tool, 0 for none.
type PieceDoc struct {
	Piece
	Mould int `json:"mould,omitempty"`
}

// StepDoc is a step that has begun; Piece is the number of a piece within the
// commission, 0 for the assembly.
type StepDoc struct {
	Step
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

func utc(ts ...**time.Time) {
	for _, t := range ts {
		if *t != nil {
			u := (*t).UTC()
			*t = &u
		}
	}
}

// Export writes a studio as one document.
func (s *Service) Export(ctx context.Context, slug string) ([]byte, error) {
	var d Document
	err := s.in(ctx, slug, func(tx Tx, k *Kitchen, _ time.Time) (err error) {
		d, err = document(tx, k)
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

func document(tx Tx, k *Kitchen) (Document, error) {
	d := Document{Format: DocumentFormat, Kitchen: *k, Tools: []Tool{}, Lots: []Lot{}, Commissions: []CommissionDoc{}, Timers: []Timer{}, Journal: []EntryDoc{}}
	d.Kitchen.ID, d.Kitchen.Version, d.Kitchen.Slug = 0, 0, "" // the address is the importer's affair
	ts, err1 := tx.Tools()
	ls, err2 := tx.Lots()
	cs, err3 := tx.Commissions()
	steps, err4 := tx.Steps(0)
	timers, err5 := tx.Timers()
	if err := errors.Join(err1, err2, err3, err4, err5); err != nil {
		return d, err
	}
	toolNo, orderNo := map[int64]int{}, map[int64]int{}
	for _, t := range ts {
		if t.DeletedAt == nil {
			toolNo[t.ID] = len(d.Tools) + 1
			t.Weighings = slices.Clone(t.Weighings)
			for i := range t.Weighings {
				t.Weighings[i].At = t.Weighings[i].At.UTC()
			}
			t.ID, t.Version = 0, 0
			d.Tools = append(d.Tools, t)
		}
	}
	lotNo := map[int64]int64{}
	for _, l := range ls {
		if l.DeletedAt == nil {
			lotNo[l.ID] = int64(len(d.Lots) + 1)
			d.Lots = append(d.Lots, l.document())
		}
	}
	ops := map[string]string{"": ""} // names of steps: our ids to numbers
	for _, c := range cs {
		if c.DeletedAt != nil {
			continue
		}
		no := len(d.Commissions) + 1
		orderNo[c.ID] = no
		x := CommissionDoc{Commission: c, Pieces: []PieceDoc{}, Steps: []StepDoc{}}
		x.ID, x.Version = 0, 0
		utc(&x.HandOver, &x.CakeReady)
		ps, err := tx.Pieces(c.ID)
		if err != nil {
			return d, err
		}
		pieceNo := map[int64]int{}
		opNo := map[string]string{fmt.Sprintf("c%d", c.ID): fmt.Sprintf("c%d", no)}
		for _, p := range ps {
			if p.DeletedAt != nil {
				continue
			}
			pieceNo[p.ID] = len(x.Pieces) + 1
			opNo[fmt.Sprintf("p%d", p.ID)] = fmt.Sprintf("p%d-%d", no, len(x.Pieces)+1)
			y := PieceDoc{Piece: p}
			y.ID, y.Version, y.CommissionID, y.MouldID, y.Position = 0, 0, 0, nil, len(x.Pieces)+1
			if p.MouldID != nil {
				y.Mould = toolNo[*p.MouldID]
			}
			x.Pieces = append(x.Pieces, y)
		}
		rename := func(op string) string {
			head, rest, _ := strings.Cut(op, ".")
			if to, ok := opNo[head]; ok {
				ops[op] = to + "." + rest
			}
			return ops[op]
		}
		for _, st := range steps {
			if st.CommissionID != c.ID || st.ActualStart == nil {
				continue
			}
			op := rename(st.Op)
			if op == "" {
				continue // of a piece that is gone
			}
			y := StepDoc{Step: st}
			if st.PieceID != nil {
				y.Piece = pieceNo[*st.PieceID]
			}
			y.Op, y.Planned.After = op, rename(st.Planned.After)
			y.Version, y.CommissionID, y.PieceID = 0, 0, nil
			y.Planned.Uses = nil // planned anew
			y.Takes = []Taken{}
			for _, t := range st.Takes {
				if no, ok := lotNo[t.Lot]; ok { // what came out of a lot that is gone stays gone
					y.Takes = append(y.Takes, Taken{no, t.Name, t.G})
				}
			}
			y.PlannedStart, y.PlannedEnd = y.PlannedStart.UTC(), y.PlannedEnd.UTC()
			utc(&y.ActualStart, &y.ActualEnd)
			x.Steps = append(x.Steps, y)
		}
		d.Commissions = append(d.Commissions, x)
	}
	for _, t := range timers {
		op, ok := ops[t.Op]
		if !ok {
			continue // of a piece that is gone
		}
		t.ID, t.Version, t.Op = 0, 0, op
		t.StartsAt, t.RingsAt = t.StartsAt.UTC(), t.RingsAt.UTC()
		if t.CommissionID != nil {
			no, ok := orderNo[*t.CommissionID]
			if !ok {
				continue
			}
			t.CommissionID = new(int64(no))
		}
		d.Timers = append(d.Timers, t)
	}
	es, err := tx.Entries(0, 0, -1)
	for _, e := range slices.Backward(es) {
		x := EntryDoc{At: e.At.UTC(), Who: e.Who, Says: e.Says, Kind: e.Kind, Bench: e.Bench, Undone: e.Undone}
		if e.CommissionID != nil {
			x.Commission = orderNo[*e.CommissionID]
		}
		d.Journal = append(d.Journal, x)
	}
	return d, err
}

// ReadDocument reads and checks a document, with the place of what is wrong.
func ReadDocument(raw []byte) (Document, error) {
	var d Document
	refuse := func(place, format string, args ...any) (Document, error) {
		return Document{}, fault.New(fault.Syntax, place, format, args...)
	}
	usual := NewKitchen("")
	d.Kitchen.DropG, d.Kitchen.DabG, d.Kitchen.UnitGrams, d.Kitchen.SpoonGrams, d.Kitchen.Sides = usual.DropG, usual.DabG, usual.UnitGrams, usual.SpoonGrams, usual.Sides // a document of before has none
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
	if _, err := dec.Token(); !errors.Is(err, io.EOF) {
		return refuse("document", "After the document there is more: one document is wanted.")
	}
	if d.Format != DocumentFormat {
		return refuse("format", "The format is %q; this program reads %q.", d.Format, DocumentFormat)
	}
	if old := d.Kitchen.GramsPerTsp; old != nil {
		d.Kitchen.SpoonGrams, d.Kitchen.GramsPerTsp = UnitGrams{d.Kitchen.Powder: *old}, nil
	}
	return d, d.check()
}

// check reads every value through the fields of the forms: what could not have
// been typed is not let in.
func (d *Document) check() error {
	k := d.Kitchen
	if k.Name == "" || k.zone() == nil {
		return fault.New(fault.Required, "kitchen.name", "The studio has no name.")
	}
	metric := NewKitchen(k.Name)
	metric.TimeZone = k.TimeZone
	if _, err := time.LoadLocation(k.TimeZone); err != nil || k.TimeZone == "" || k.TimeZone == "Local" {
		return fault.New(fault.UnknownValue, "kitchen.timeZone", "%q is no time zone.", k.TimeZone)
	}
	r := reader{&metric}
	if err := checkRow("kitchen", kitchenFields, r, k); err != nil {
		return err
	}
	if err := k.checkSides(); err != nil {
		return err
	}
	if err := checkGrams("kitchen.spoonGrams", k.SpoonGrams, powders, 1, 8); err != nil {
		return err
	}
	if err := checkGrams("kitchen.unitGrams", k.UnitGrams, countedUnits, 0.01, 50000); err != nil {
		return err
	}
	for i, t := range d.Tools {
		if err := checkRow(fmt.Sprintf("tools[%d]", i), toolFields, r, t); err != nil {
			return err
		}
		for j, w := range t.Weighings {
			if w.Grams < 0.01 || w.Grams > 50000 {
				return fault.New(fault.OutOfRange, fmt.Sprintf("tools[%d].weighings[%d].grams", i, j), "A piece weighs from 0.01 g to 50 kg.")
			}
		}
	}
	for i, l := range d.Lots {
		if err := checkLot(fmt.Sprintf("lots[%d]", i), r, l); err != nil {
			return err
		}
	}
	for i, c := range d.Commissions {
		at := fmt.Sprintf("commissions[%d]", i)
		if err := checkRow(at, commissionFields, r, c.Commission); err != nil {
			return err
		}
		if !slices.Contains([]string{"open", "aside", "handedOver"}, c.State) {
			return fault.New(fault.UnknownValue, at+".state", "A commission is open, aside or handedOver, not %q.", c.State)
		}
		for j, p := range c.Pieces {
			at := fmt.Sprintf("%s.pieces[%d]", at, j)
			if p.Mould < 0 || p.Mould > len(d.Tools) {
				return fault.New(fault.UnknownValue, at+".mould", "There is no tool number %d.", p.Mould)
			}
			for _, g := range []*float64{p.TrialG, p.TrialLowG, p.TrialHighG} {
				if g != nil && (*g < 0.01 || *g > 50000) {
					return fault.New(fault.OutOfRange, at+".trialG", "A piece weighs from 0.01 g to 50 kg.")
				}
			}
			for _, n := range p.Extras {
				if n < 1 || n > 500 {
					return fault.New(fault.OutOfRange, at+".extras", "From 1 to 500 pieces are pressed again.")
				}
			}
			p.MouldID = nil
			if err := checkRow(at, slices.Concat(pieceFields, pasteFields), r, p.Piece); err != nil {
				return err
			}
		}
		for j, st := range c.Steps {
			at := fmt.Sprintf("%s.steps[%d]", at, j)
			switch {
			case st.Piece < 0 || st.Piece > len(c.Pieces):
				return fault.New(fault.UnknownValue, at+".piece", "There is no piece number %d in that commission.", st.Piece)
			case st.ActualStart == nil || st.ActualEnd != nil && st.ActualEnd.Before(*st.ActualStart) || st.PlannedEnd.Before(st.PlannedStart):
				return fault.New(fault.Contradiction, at+".actualStart", "A step in a document has begun, and ends after it began.")
			case st.Made != nil && (*st.Made < 0 || *st.Made > 100000):
				return fault.New(fault.OutOfRange, at+".made", "From 0 to 100000 pieces.")
			case !opOf(i+1, st.Piece, st.Op):
				return fault.New(fault.UnknownValue, at+".op", "%q is no step of that piece: p%d-%d.1.press is wanted, or c%d.pack for the assembly.", st.Op, i+1, max(1, st.Piece), i+1)
			case slices.ContainsFunc(st.Takes, func(t Taken) bool { return t.Lot < 1 || t.Lot > int64(len(d.Lots)) || !(t.G >= 0 && t.G <= 1e6) }):
				return fault.New(fault.UnknownValue, at+".takes", "Grams are taken out of a lot of the document, by its number.")
			case st.Title == "" || st.Kind == "":
				return fault.New(fault.Required, at+".op", "A step has a kind and a title.")
			}
		}
	}
	for i, t := range d.Timers {
		if markSays[t.Kind] == "" && !slices.Contains([]string{"rest", "freezer", "dew", "open", "own"}, t.Kind) {
			return fault.New(fault.UnknownValue, fmt.Sprintf("timers[%d].kind", i), "There is no timer of the kind %q.", t.Kind)
		}
		if t.RingsAt.Before(t.StartsAt) || t.Says == "" || t.CommissionID != nil && (*t.CommissionID < 1 || *t.CommissionID > int64(len(d.Commissions))) {
			return fault.New(fault.Contradiction, fmt.Sprintf("timers[%d]", i), "A timer says something, rings after it starts, and names a commission of the document.")
		}
	}
	for i, e := range d.Journal {
		if e.Says == "" || e.Commission < 0 || e.Commission > len(d.Commissions) || !slices.Contains([]string{"did", "back", "again"}, e.Kind) {
			return fault.New(fault.Contradiction, fmt.Sprintf("journal[%d]", i), "A line says something, is of kind did, back or again, and names a commission of the document.")
		}
	}
	return nil
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

// checkRow sets every field of a row from its own text again.
func checkRow[T any](place string, fields []*field[T], r reader, row T) error {
	now := time.Now()
	for _, f := range fields {
		if f.kind == "date" || f.name == "trial" || f.name == "mould" || f.name == "exceptions" {
			continue // instants as they are; a date in the past is what a document is for
		}
		copied := row
		if err := f.set(r, f.text(r, &row, now), &copied, now); err != nil {
			var wrong *fault.Fault
			if errors.As(err, &wrong) {
				return fault.New(wrong.Code, place+"."+f.name, "%s", wrong.Message)
			}
			return err
		}
	}
	return nil
}

// preview says in words what a document holds.
func (d *Document) preview() Preview {
	p := Preview{Name: d.Kitchen.Name, Tools: len(d.Tools), Lots: len(d.Lots), Commissions: []string{}}
	for _, c := range d.Commissions {
		p.Commissions = append(p.Commissions, c.Title)
		p.Pieces += len(c.Pieces)
		p.Steps += len(c.Steps)
	}
	p.Says = fmt.Sprintf("A new studio %q with %s, %s, %s with %s, and %s that have begun.", p.Name, count(p.Tools, "mould"), count(p.Lots, "lot"), count(len(p.Commissions), "commission"), count(p.Pieces, "piece"), count(p.Steps, "step"))
	return p
}

// Look reads a document and says what an import would bring, without doing it.
func (s *Service) Look(_ context.Context, raw []byte) (Preview, error) {
	d, err := ReadDocument(raw)
	if err != nil {
		return Preview{}, err
	}
	return d.preview(), nil
}

// Import makes a new studio of a document, whole or not at all.
func (s *Service) Import(ctx context.Context, raw []byte) (StudioRow, error) {
	d, err := ReadDocument(raw)
	if err != nil {
		return StudioRow{}, err
	}
	k := d.Kitchen
	k.Version = 1
	if k.Slug, err = s.freeSlug(ctx, NewKitchen(k.Name).Slug); err != nil {
		return StudioRow{}, err
	}
	err = s.Store.CreateWith(ctx, &k, func(tx Tx) error { return s.fill(tx, &d) })
	return StudioRow{k.Slug, k.Name}, err
}

// Replace puts a document in the place of everything in a studio.
func (s *Service) Replace(ctx context.Context, slug string, raw []byte) error {
	d, err := ReadDocument(raw)
	if err != nil {
		return err
	}
	return s.alone(ctx, slug, func(tx Tx, k *Kitchen, _ time.Time) error {
		if err := tx.Clear(); err != nil {
			return err
		}
		fresh := d.Kitchen
		fresh.ID, fresh.Version, fresh.Slug = k.ID, k.Version, k.Slug
		if err := tx.SaveKitchen(&fresh); err != nil {
			return err
		}
		return s.fill(tx, &d)
	})
}

// fill writes the rows of a document into an empty studio and makes its plan.
func (s *Service) fill(tx Tx, d *Document) error {
	toolID := make([]int64, len(d.Tools)+1)
	for i, t := range d.Tools {
		t.ID, t.Version, t.DeletedAt, t.Weighings = 0, 1, nil, some(t.Weighings)
		if err := tx.CreateTool(&t); err != nil {
			return err
		}
		toolID[i+1] = t.ID
	}
	lotID := make([]int64, len(d.Lots)+1)
	for i, l := range d.Lots {
		l = l.fresh()
		if err := tx.CreateLot(&l); err != nil {
			return err
		}
		lotID[i+1] = l.ID
	}
	orderID := make([]int64, len(d.Commissions)+1)
	var steps []Step
	ops := map[string]string{}
	for i, c := range d.Commissions {
		row := c.Commission
		row.ID, row.Version, row.DeletedAt = 0, 1, nil
		row.Tiers, row.Allergies = some(row.Tiers), some(row.Allergies)
		if err := tx.CreateCommission(&row); err != nil {
			return err
		}
		orderID[i+1] = row.ID
		no := map[string]string{fmt.Sprintf("c%d", i+1): fmt.Sprintf("c%d", row.ID)}
		pieceID := make([]int64, len(c.Pieces)+1)
		for j, p := range c.Pieces {
			x := p.Piece
			x.ID, x.Version, x.DeletedAt, x.CommissionID, x.Position, x.MouldID, x.Extras = 0, 1, nil, row.ID, j+1, nil, some(x.Extras)
			if p.Mould > 0 {
				x.MouldID = &toolID[p.Mould]
			}
			if err := tx.CreatePiece(&x); err != nil {
				return err
			}
			pieceID[j+1] = x.ID
			no[fmt.Sprintf("p%d-%d", i+1, j+1)] = fmt.Sprintf("p%d", x.ID)
		}
		rename := func(op string) string {
			head, rest, _ := strings.Cut(op, ".")
			if to, ok := no[head]; ok {
				ops[op] = to + "." + rest
			}
			return ops[op]
		}
		for _, st := range c.Steps {
			x := st.Step
			x.ID, x.Version, x.CommissionID, x.Op, x.Planned.After = 0, 1, row.ID, rename(st.Op), rename(st.Planned.After)
			x.Says, x.Checks, x.Cautions, x.Ways, x.Figures, x.Fills, x.Breaks = some(x.Says), some(x.Checks), some(x.Cautions), some(x.Ways), some(x.Figures), some(x.Fills), some(x.Breaks)
			x.Takes, x.Planned.Uses = []Taken{}, nil
			for _, t := range st.Takes {
				x.Takes = append(x.Takes, Taken{lotID[t.Lot], t.Name, t.G})
			}
			if st.Piece > 0 {
				x.PieceID = &pieceID[st.Piece]
			}
			steps = append(steps, x)
		}
	}
	if err := tx.ReplacePlanned(steps); err != nil {
		return err
	}
	for _, t := range d.Timers {
		t.ID, t.Version, t.DeletedAt, t.Op = 0, 1, nil, ops[t.Op]
		if t.CommissionID != nil {
			t.CommissionID = &orderID[*t.CommissionID]
		}
		if err := tx.CreateTimer(&t); err != nil {
			return err
		}
	}
	for _, e := range d.Journal {
		x := Entry{At: e.At, Who: e.Who, Says: e.Says, Kind: e.Kind, Bench: e.Bench, Undone: e.Undone, Rows: []Touched{}}
		if e.Commission > 0 {
			x.CommissionID = &orderID[e.Commission]
		}
		if err := tx.AddEntry(&x); err != nil {
			return err
		}
	}
	k := tx.Kitchen()
	return s.replan(tx, k, s.Clock().In(k.zone()), "the studio was brought in")
}

func some[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// Table is rows of a studio as a table of texts, the first row the names.
func (s *Service) Table(ctx context.Context, slug, kind string) (rows [][]string, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		r := reader{k}
		switch kind {
		case "tools":
			ts, err := tx.Tools()
			rows = table(toolFields, r, now, ts, func(t *Tool) bool { return t.DeletedAt == nil })
			return err
		case "steps":
			steps, err := tx.Steps(0)
			cs, err2 := tx.Commissions()
			rows = [][]string{{"commission", "step", "kind", "hands", "plannedStart", "plannedEnd", "actualStart", "actualEnd", "made", "broken"}}
			for _, st := range steps {
				title := ""
				for _, c := range cs {
					if c.ID == st.CommissionID {
						title = c.Title
					}
				}
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
				rows = append(rows, []string{harmless(title), harmless(st.Title), st.Kind, map[bool]string{true: "yes", false: "no"}[st.Attended], at(&st.PlannedStart), at(&st.PlannedEnd), at(st.ActualStart), at(st.ActualEnd), made, strconv.Itoa(st.broken())})
			}
			return errors.Join(err, err2)
		}
		return fault.New(fault.UnknownValue, "kind", "There are tables of tools and steps; the pantry has its own.")
	})
	return rows, err
}

// harmless keeps a spreadsheet from reading a text as a formula.
func harmless(s string) string {
	if s != "" && (strings.ContainsRune("=+@'", rune(s[0])) || s[0] == '-' && len(s) > 1 && (s[1] < '0' || s[1] > '9')) {
		return "'" + s
	}
	return s
}

func table[T any](fields []*field[T], r reader, now time.Time, list []T, keep func(*T) bool) [][]string {
	head := []string{}
	for _, f := range fields {
		head = append(head, f.name)
	}
	out := [][]string{head}
	for i := range list {
		if !keep(&list[i]) {
			continue
		}
		row := []string{}
		for _, f := range fields {
			row = append(row, harmless(f.text(r, &list[i], now)))
		}
		out = append(out, row)
	}
	return out
}
