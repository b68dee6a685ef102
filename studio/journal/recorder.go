package journal

import (
	"reflect"
	"time"

	"dustyfern/studio/noun"
)

// Recorder notes each row that is made or saved through it.
type Recorder struct {
	Tx
	rows []Touched
}

// changed notes a row before and after; one that is saved twice keeps its first
// before and its last after.
func (r *Recorder) changed(t Touched, before, after any) error {
	b, err := snapshot(before)
	if err != nil {
		return err
	}
	a, err := snapshot(after)
	if err != nil {
		return err
	}
	for i := range r.rows {
		if o := &r.rows[i]; o.Noun == t.Noun && o.ID == t.ID && o.Op == t.Op {
			o.To = t.To
			if o.Made {
				return nil
			}
			if err := b.restore(o.Before, o.After); err != nil {
				return err
			}
			o.Before, o.After = b.diff(a)
			return nil
		}
	}
	t.Before, t.After = b.diff(a)
	if len(t.Before) > 0 || len(t.After) > 0 {
		r.rows = append(r.rows, t)
	}
	return nil
}

// Save notes what a save changes of a row.
func (r *Recorder) Save(row noun.Noun) error {
	id, version := row.Stamp()
	before, after := like(row), like(row)
	if err := r.Tx.Take(before, *id); err != nil {
		return err
	}
	_, was := before.Stamp()
	if err := r.Tx.Save(row); err != nil {
		return err
	}
	if err := r.Tx.Take(after, *id); err != nil {
		return err
	}
	return r.changed(Touched{Noun: row.Word(), ID: *id, From: *was, To: *version}, before, after)
}

// like is an empty row of the same noun.
func like(row noun.Noun) noun.Noun {
	return reflect.New(reflect.TypeOf(row).Elem()).Interface().(noun.Noun)
}

// Create notes new rows.
func (r *Recorder) Create(rows ...noun.Noun) error {
	if err := r.Tx.Create(rows...); err != nil {
		return err
	}
	for _, row := range rows {
		id, version := row.Stamp()
		r.rows = append(r.rows, Touched{Noun: row.Word(), ID: *id, To: *version, Made: true})
	}
	return nil
}

// LastMade is the id of the row that was made last in this act.
func (r *Recorder) LastMade() (id int64) {
	for _, t := range r.rows {
		if t.Made {
			id = t.ID
		}
	}
	return id
}

// stepFacts is what happened of a step; the rest is planned anew.
type stepFacts struct {
	ActualStart, ActualEnd   *time.Time
	PlannedStart, PlannedEnd time.Time
	Fills                    []noun.Fill
	Breaks                   []noun.Break
	Made                     *int
	Takes                    []noun.Taken
	Longer                   *noun.Longer
	Weighed                  []noun.Weighing
	Who                      string
	Clocked                  bool
	Pinned                   *time.Time
	Away                     []noun.Away
	Tended                   []noun.Tended
	Looked                   noun.Looked
}

func factsOf(st *noun.Step) stepFacts {
	return stepFacts{st.ActualStart, st.ActualEnd, st.PlannedStart, st.PlannedEnd, st.Fills, st.Breaks, st.Made, st.Takes, st.Longer, st.Weighed, st.Who, st.Clocked, st.Pinned, st.Away, st.Tended, st.Looked}
}

func (r *Recorder) SaveStep(st *noun.Step) error {
	before, err := r.Tx.Step(st.Op)
	if err != nil {
		return err
	}
	if err := r.Tx.SaveStep(st); err != nil {
		return err
	}
	after, err := r.Tx.Step(st.Op)
	if err != nil {
		return err
	}
	return r.changed(Touched{Noun: "step", Op: st.Op, From: before.Version, To: after.Version}, factsOf(&before), factsOf(&after))
}
