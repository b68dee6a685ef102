package notebook

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/drying"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// columns of a notebook as a table, in their order.
var columns = []struct {
	name, label string
	words       []string // by which a column of somebody else's table is guessed
}{
	{"at", "When", []string{"when", "date", "time", "at"}},
	{"name", "Piece", []string{"piece", "name", "item", "decoration"}},
	{"what", "What was seen", []string{"what", "seen", "result", "state", "note"}},
	{"hours", "Hours since it was laid out", []string{"hours", "after"}},
	{"paste", "Paste", []string{"paste"}},
	{"gumPercent", "Gum, %", []string{"gum", "cmc", "hardener"}},
	{"thicknessMM", "Thickness, mm", []string{"thick"}},
	{"shape", "Shape as it lies", []string{"shape"}},
	{"support", "On what", []string{"support", "dries on", "on what"}},
	{"tool", "Tool", []string{"tool", "mould", "mold", "cutter"}},
	{"tempC", "Room, °C", []string{"temp", "room"}},
	{"rhPercent", "Humidity, %", []string{"humid", "rh"}},
	{"count", "How many", []string{"count", "many", "number"}},
	{"says", "In words", []string{"words", "remark", "comment", "says"}},
	{"who", "Who", []string{"who", "by", "person"}},
}

// Table is every note as a table, the oldest first.
func (s *Notebook) Table(ctx context.Context, slug string) (rows [][]string, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		head := []string{}
		for _, c := range columns {
			head = append(head, c.name)
		}
		rows = [][]string{append(head, "stage", "grams", "fromGrams", "modelHours", "lowHours", "midHours", "highHours", "leftOut")}
		all, err := tx.Notes(noun.NoteFind{}, 0, 100_000)
		for _, n := range slices.Backward(all) {
			x := func(v float64) string {
				if v == 0 {
					return ""
				}
				return read.Trimmed(v, 3)
			}
			p := func(v *float64) string {
				if v == nil {
					return ""
				}
				return read.Trimmed(*v, 2)
			}
			count := ""
			if n.Count > 0 {
				count = fmt.Sprint(n.Count)
			}
			rows = append(rows, []string{n.At.In(now.Location()).Format(time.RFC3339), read.Harmless(n.Name), n.What, x(n.Hours), n.Paste, x(n.GumPercent), x(n.ThicknessMM), n.Shape, n.Support, read.Harmless(n.Tool), x(n.TempC), x(n.RHPercent), count, read.Harmless(n.Says), read.Harmless(n.Who),
				n.Stage, p(n.Grams), p(n.FromGrams), x(n.ModelHours), x(n.LowHours), x(n.MidHours), x(n.HighHours), map[bool]string{true: "yes", false: ""}[n.LeftOut]})
		}
		return err
	})
	return rows, err
}

// ColumnView is a column that is wanted, and which of the table it is taken from.
type ColumnView struct {
	Name  string `json:"name"`
	Label string `json:"label"`
	From  int    `json:"from" doc:"place in the head, from 0; -1: none"`
	Must  bool   `json:"must"`
}

// NotesFile is a table before it is brought in: its head, how its columns are taken, what
// would come in.
type NotesFile struct {
	Head    []string     `json:"head"`
	Columns []ColumnView `json:"columns"`
	Rows    []string     `json:"rows" doc:"the first that would come in, in words"`
	Good    int          `json:"good"`
	Bad     []string     `json:"bad" doc:"rows that cannot be read, and why"`
	BadMore int          `json:"badMore"`
	Says    string       `json:"says"`
}

const (
	mostRows  = 20_000
	shownRows = 8
)

// LookIn reads a table of notes with its columns matched (name to place; empty: guessed) and
// says what would come in.
func (s *Notebook) LookIn(ctx context.Context, slug string, raw []byte, match map[string]int) (out NotesFile, err error) {
	err = s.In(ctx, slug, func(_ journal.Tx, k *noun.Kitchen, now time.Time) error {
		out, _, err = readNotes(k, raw, match, now)
		return err
	})
	return out, err
}

// BringIn keeps the notes of a table that can be read.
func (s *Notebook) BringIn(ctx context.Context, slug string, raw []byte, match map[string]int) (n int, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		_, notes, err := readNotes(a.House, raw, match, a.Now)
		if err != nil || len(notes) == 0 {
			return err
		}
		n = len(notes)
		a.Say(0, "brought in %s out of a file", read.Count(n, "note"))
		rows := make([]noun.Noun, len(notes))
		for i := range notes {
			rows[i] = &notes[i]
		}
		return a.Create(rows...)
	}, nil)
	return n, err
}

func readNotes(k *noun.Kitchen, raw []byte, match map[string]int, now time.Time) (v NotesFile, notes []noun.Note, err error) {
	v = NotesFile{Columns: []ColumnView{}, Rows: []string{}, Bad: []string{}}
	sheet, err := read.ReadSheet(raw, mostRows)
	if err != nil {
		return v, nil, err
	}
	v.Head = sheet.Head
	at := map[string]int{}
	taken := map[int]bool{}
	for _, c := range columns {
		from, said := match[c.name]
		if !said {
			from = sheet.Guess(append([]string{strings.ToLower(c.name)}, c.words...)...)
			if taken[from] {
				from = -1
			}
		}
		if from >= len(sheet.Head) {
			from = -1
		}
		if from >= 0 {
			taken[from] = true
		}
		at[c.name] = from
		v.Columns = append(v.Columns, ColumnView{c.name, c.label, from, c.name == "at" || c.name == "name"})
	}
	r := read.Reader{K: k}
	for i, row := range sheet.Rows {
		n, err := readNote(r, k, func(name string) string { return sheet.Cell(row, at[name]) }, now)
		if err != nil {
			if len(v.Bad) < shownRows {
				v.Bad = append(v.Bad, fmt.Sprintf("Row %d: %v.", i+2, err))
			} else {
				v.BadMore++
			}
			continue
		}
		v.Good++
		notes = append(notes, n)
		if len(v.Rows) < shownRows {
			x := noteView(&n, r, now)
			says := x.When + ", " + x.Name + ": " + x.Says
			if x.Teaches {
				says += " (teaches how fast it dries)"
			}
			v.Rows = append(v.Rows, says)
		}
	}
	v.Says = fmt.Sprintf("%s would come in", read.UpperFirst(read.Count(v.Good, "note")))
	if bad := len(v.Bad) + v.BadMore; bad > 0 {
		v.Says += fmt.Sprintf(", %s cannot be read", read.Count(bad, "row"))
	}
	v.Says += "."
	return v, notes, nil
}

// seenAs are words of other people's notebooks for what was seen.
var seenAs = []struct{ word, what string }{{"not firm", "soft"}, {"soft", "soft"}, {"wet", "soft"}, {"firm", "firm"}, {"dry", "firm"}, {"hard to eat", "tooHard"}, {"too hard", "tooHard"}, {"crack", "cracked"}, {"sag", "sagged"}, {"droop", "sagged"}, {"stuck", "stuck"}, {"stick", "stuck"}, {"broke", "broke"}, {"snap", "broke"}, {"tast", "tasty"}}

func readNote(r read.Reader, k *noun.Kitchen, cell func(string) string, now time.Time) (n noun.Note, err error) {
	n = noun.Note{Row: noun.Row{Version: 1}, Name: cell("name"), Tool: cell("tool"), Says: cell("says"), Who: cell("who"), What: "said", Shape: "sheet", Support: "board"}
	if n.At, err = r.Instant(cell("at"), now.Location()); err != nil {
		return n, err
	}
	if n.At.After(now.Add(24 * time.Hour)) {
		return n, fmt.Errorf("%s is still to come", n.At.Format(time.DateOnly))
	}
	n.At = n.At.UTC().Truncate(time.Second)
	if n.Name == "" || len([]rune(n.Name)) > 200 || len(n.Says) > read.MostText || len(n.Tool) > 200 || len(n.Who) > 80 {
		return n, fmt.Errorf("the piece has no name, or a text is too long")
	}
	seen := cell("what")
	for _, kind := range noun.NoteKinds {
		if strings.EqualFold(seen, kind.Code) || strings.EqualFold(seen, kind.Says) {
			n.What = kind.Code
		}
	}
	if n.What == "said" && seen != "" && !strings.EqualFold(seen, "said") {
		for _, w := range seenAs {
			if strings.Contains(strings.ToLower(seen), w.word) {
				n.What = w.what
				break
			}
		}
		if n.What == "said" {
			n.Says = strings.TrimPrefix(strings.TrimSpace(n.Says+"; "+seen), "; ")
		}
	}
	if n.What == "said" && n.Says == "" {
		return n, fmt.Errorf("it says nothing of what was seen")
	}
	number := func(name string, lo, hi float64, into *float64) {
		text := cell(name)
		if text == "" || err != nil {
			return
		}
		x, err2 := read.Plain(text)
		if err2 == nil && !(x >= lo && x <= hi) {
			err2 = fmt.Errorf("%s of %s: from %s to %s is wanted", name, read.Trimmed(x, 2), read.Trimmed(lo, 2), read.Trimmed(hi, 0))
		}
		if err = err2; err == nil {
			*into = x
		}
	}
	count := 0.0
	number("hours", 0.01, 720, &n.Hours)
	number("gumPercent", 0, 8, &n.GumPercent)
	number("thicknessMM", 0.2, 60, &n.ThicknessMM)
	number("tempC", 5, 40, &n.TempC)
	number("rhPercent", 5, 95, &n.RHPercent)
	number("count", 0, 100000, &count)
	if err != nil {
		return n, err
	}
	n.Count = int(count)
	n.Paste = pasteCalled(cell("paste"), r)
	if x := strings.ToLower(cell("shape")); slices.Contains([]string{"sheet", "block", "rod", "ball", "dome"}, x) {
		n.Shape = x
	}
	if x := strings.ToLower(cell("support")); slices.Contains([]string{"board", "foam", "cup", "dowel", "hook", "rack"}, x) {
		n.Support = x
	}
	teaches(&n, k)
	return n, nil
}

// teaches gives a note of drying what the model alone says, where it tells enough.
func teaches(n *noun.Note, k *noun.Kitchen) {
	if (n.What != "firm" && n.What != "firmNow" && n.What != "soft") || n.Paste == "" || n.Paste == "marzipan" || n.ThicknessMM == 0 || n.Hours == 0 || n.Shape == "sheet" && n.ThicknessMM > 12 {
		return
	}
	t, rh := n.TempC, n.RHPercent
	if t == 0 {
		t = k.TempC
	}
	if rh == 0 {
		rh = k.RHPercent
	}
	in := drying.PredictIn{Paste: &n.Paste, Shape: &n.Shape, ThicknessMM: &n.ThicknessMM, Support: &n.Support, TempC: &t, RHPercent: &rh, HorizonHours: new(drying.LongestHours)}
	if n.GumPercent > 0 {
		in.GumPercent = &n.GumPercent
	}
	f, err := drying.Predict(in)
	if err != nil || f.Firm.P50Hours == nil {
		return
	}
	n.Stage, n.ModelHours = "firm", math.Round(*f.Firm.P50Hours*1000)/1000
	n.MidHours = n.ModelHours
	if f.Firm.P10Hours != nil && f.Firm.P90Hours != nil {
		n.LowHours, n.HighHours = math.Round(*f.Firm.P10Hours*1000)/1000, math.Round(*f.Firm.P90Hours*1000)/1000
	}
}

// calledAs are words of other people's notebooks for a paste, the most exact first.
var calledAs = []struct{ word, paste string }{{"half", "halfAndHalf"}, {"1:1", "halfAndHalf"}, {"50/50", "halfAndHalf"}, {"modelling", "modellingPaste"}, {"modeling", "modellingPaste"}, {"flower", "flowerPaste"}, {"gum paste", "flowerPaste"}, {"marzipan", "marzipan"}, {"sugar paste", "sugarPaste"}, {"fondant", "sugarPaste"}}

// pasteCalled is the paste that a text means; "" when it means none that dries.
func pasteCalled(text string, r read.Reader) string {
	t := strings.ToLower(text)
	if t == "" {
		return ""
	}
	for _, p := range pastes {
		if strings.EqualFold(t, p) || t == strings.ToLower(read.PasteName(p)) || t == strings.ToLower(r.Say(read.PasteName(p))) {
			return p
		}
	}
	for _, w := range calledAs {
		if strings.Contains(t, w.word) {
			return w.paste
		}
	}
	return ""
}
