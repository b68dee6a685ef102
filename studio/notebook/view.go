package notebook

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// notesAPage is how many notes are read at once.
const notesAPage = 40

// NotebookView is a page of the notebook.
type NotebookView struct {
	Notes   []NoteView `json:"notes"`
	More    bool       `json:"more"`
	Nothing string     `json:"nothing"`
}

// NoteView is one note.
type NoteView struct {
	ID       int64  `json:"id"`
	Version  int64  `json:"version"`
	When     string `json:"when"`
	Who      string `json:"who"`
	Name     string `json:"name"`
	OrderID  int64  `json:"orderId" doc:"0: it came out of a file"`
	Says     string `json:"says"`
	Of       string `json:"of" doc:"what is known of its batch"`
	Foretold string `json:"foretold" doc:"what was foretold, of a note of drying"`
	Teaches  bool   `json:"teaches"`
	LeftOut  bool   `json:"leftOut"`
	Photo    int64  `json:"photo" doc:"0: none"`
}

// Read is a page of notes that hold the words, the latest first.
func (s *Notebook) Read(ctx context.Context, slug, words string, skip int) (out NotebookView, err error) {
	out.Notes = []NoteView{}
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		r := read.Reader{K: k}
		find := findOf(words, r)
		all, err := tx.Notes(find, skip, notesAPage+1)
		if err != nil {
			return err
		}
		out.More = len(all) > notesAPage
		for i := range all[:min(len(all), notesAPage)] {
			out.Notes = append(out.Notes, noteView(&all[i], r, now))
		}
		switch {
		case len(out.Notes) > 0:
		case words != "":
			out.Nothing = fmt.Sprintf("No note holds %q: look for a piece, a tool, a paste, or what was seen.", words)
		default:
			out.Nothing = "Nothing was noted yet. One tap on the shelf, firm or still soft, teaches how fast this kitchen dries."
		}
		return nil
	})
	return out, err
}

// findOf are the words that are looked for, with the kinds and pastes that are called so.
func findOf(words string, r read.Reader) noun.NoteFind {
	f := noun.NoteFind{Kinds: map[string][]string{}, Pastes: map[string][]string{}}
	for _, w := range strings.Fields(strings.ToLower(words)) {
		f.Words = append(f.Words, w)
		for _, k := range noun.NoteKinds {
			if strings.Contains(strings.ToLower(k.Says), w) {
				f.Kinds[w] = append(f.Kinds[w], k.Code)
			}
		}
		for _, p := range pastes {
			if strings.Contains(r.Say(read.PasteName(p)), w) {
				f.Pastes[w] = append(f.Pastes[w], p)
			}
		}
		if len(f.Words) == 6 {
			break
		}
	}
	return f
}

var pastes = []string{"sugarPaste", "halfAndHalf", "modellingPaste", "flowerPaste", "marzipan"}

func noteView(n *noun.Note, r read.Reader, now time.Time) NoteView {
	v := NoteView{ID: n.ID, Version: n.Version, When: r.Time(n.At.In(now.Location()), now), Who: n.Who, Name: read.UpperFirst(n.Name), Says: read.UpperFirst(work.NoteBrief(n, r)), Teaches: n.Teaches(), LeftOut: n.LeftOut}
	if n.CommissionID != nil {
		v.OrderID = *n.CommissionID
	}
	if n.Photo != nil {
		v.Photo = *n.Photo
	}
	var of []string
	if n.Paste != "" {
		of = append(of, fmt.Sprintf("%s, %s %% gum", r.Say(read.PasteName(n.Paste)), read.Trimmed(n.GumPercent, 1)))
	}
	if n.ThicknessMM > 0 {
		of = append(of, r.Length(n.ThicknessMM)+" thick")
	}
	if n.Support != "" {
		of = append(of, "on "+supportOf(n.Support))
	}
	if n.Tool != "" {
		of = append(of, n.Tool)
	}
	if n.RHPercent > 0 {
		of = append(of, fmt.Sprintf("%s, %s %%", r.Temp(n.TempC), read.Trimmed(n.RHPercent, 0)))
	}
	v.Of = strings.Join(of, " · ")
	if n.MidHours > 0 {
		text, band := read.Estimate(n.MidHours, &n.LowHours, &n.HighHours)
		v.Foretold = fmt.Sprintf("foretold %s (%s)", text, band)
	}
	return v
}

func supportOf(code string) string {
	if s := map[string]string{"board": "a board", "cup": "cups", "dowel": "a dowel", "hook": "hooks", "rack": "a rack"}[code]; s != "" {
		return s
	}
	return code
}

// LastTimes are the last three times that such pieces were made, in one line each.
func (s *Notebook) LastTimes(tx journal.Tx, b *work.Means, w *work.Reckoned) ([]work.LastTime, error) {
	out := []work.LastTime{}
	notes, err := tx.NotesOfPiece(w.Piece.Name, w.Piece.CommissionID, 40)
	if err != nil {
		return out, err
	}
	var steps []noun.Step
	if w.Tool != nil {
		if steps, err = tx.MadeWith(w.Tool.ID, 30); err != nil {
			return out, err
		}
	}
	type time_ struct {
		at           time.Time
		made, broken int
		minutes      float64
		says         []string
		order        int64
	}
	by := map[string]*time_{}
	var order []*time_
	at := func(key string, when time.Time, commission int64) *time_ {
		x := by[key]
		if x == nil {
			x = &time_{at: when, order: commission}
			by[key] = x
			order = append(order, x)
		}
		if when.After(x.at) {
			x.at = when
		}
		return x
	}
	for i := range steps {
		st := &steps[i]
		if st.CommissionID == w.Piece.CommissionID || st.ActualEnd == nil {
			continue
		}
		x := at(fmt.Sprint("c", st.CommissionID), *st.ActualEnd, st.CommissionID)
		x.made, x.broken = x.made+st.Out(), x.broken+st.Broken()
		if st.Clocked && st.ActualStart != nil {
			x.minutes += st.ActualEnd.Sub(*st.ActualStart).Minutes()
		}
	}
	for i := range notes {
		n := &notes[i]
		key, commission := "file "+n.At.Format(time.DateOnly), int64(0)
		if n.CommissionID != nil {
			key, commission = fmt.Sprint("c", *n.CommissionID), *n.CommissionID
		}
		x := at(key, n.At, commission)
		if says := work.NoteBrief(n, b.Reader); len(x.says) < 3 && !slices.Contains(x.says, says) {
			x.says = append(x.says, says)
		}
	}
	slices.SortStableFunc(order, func(a, b *time_) int { return b.at.Compare(a.at) })
	for _, x := range order[:min(len(order), 3)] {
		var says []string
		if x.made > 0 {
			says = append(says, fmt.Sprintf("%d made", x.made))
			if x.broken > 0 {
				says = append(says, fmt.Sprintf("%d broke", x.broken))
			}
		}
		if x.minutes >= 1 {
			says = append(says, "in "+read.SayMinutes(int(x.minutes)))
		}
		out = append(out, work.LastTime{When: b.Reader.Date(x.at.In(b.Now.Location()), b.Now), OrderID: x.order, Says: read.UpperFirst(strings.Join(append(says, x.says...), ", ") + ".")})
	}
	return out, nil
}

// CheckPaste refuses a paste that is none.
func CheckPaste(paste string) error {
	if paste != "" && !noun.Dries(paste) {
		return fault.New(fault.UnknownValue, "paste", "That is no paste that dries.")
	}
	return nil
}
