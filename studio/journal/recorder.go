package journal

import (
	"time"

	"dustyfern/studio/noun"
)

// Recorder notes each row that is made or saved through it.
type Recorder struct {
	Tx
	rows []Touched
}

// kept runs a save between two looks at the row and notes what it changed.
func kept[T any](r *Recorder, of, op string, id int64, version func(*T) int64, get func() (T, error), save func() error) error {
	before, err := get()
	if err != nil {
		return err
	}
	if err := save(); err != nil {
		return err
	}
	after, err := get()
	if err != nil {
		return err
	}
	return r.changed(Touched{Noun: of, ID: id, Op: op, From: version(&before), To: version(&after)}, before, after)
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

// made notes a new row.
func (r *Recorder) made(of string, id, version int64) {
	r.rows = append(r.rows, Touched{Noun: of, ID: id, To: version, Made: true})
}

func versionOf[T any](v func(*T) *int64) func(*T) int64 { return func(x *T) int64 { return *v(x) } }

func (r *Recorder) SaveKitchen(k *noun.Kitchen) error {
	get := func() (noun.Kitchen, error) { return *r.Tx.Kitchen(), nil }
	return kept(r, "kitchen", "", k.ID, versionOf(Kitchens.ver), get, func() error { return r.Tx.SaveKitchen(k) })
}

func (r *Recorder) SaveCommission(c *noun.Commission) error {
	return kept(r, "commission", "", c.ID, versionOf(Commissions.ver), func() (noun.Commission, error) { return r.Tx.Commission(c.ID) }, func() error { return r.Tx.SaveCommission(c) })
}

func (r *Recorder) SavePiece(p *noun.Piece) error {
	return kept(r, "piece", "", p.ID, versionOf(Pieces.ver), func() (noun.Piece, error) { return r.Tx.Piece(p.ID) }, func() error { return r.Tx.SavePiece(p) })
}

func (r *Recorder) SaveTool(t *noun.Tool) error {
	return kept(r, "tool", "", t.ID, versionOf(Tools.ver), func() (noun.Tool, error) { return r.Tx.Tool(t.ID) }, func() error { return r.Tx.SaveTool(t) })
}

func (r *Recorder) SaveWay(w *noun.OwnWay) error {
	return kept(r, "way", "", w.ID, versionOf(OwnWays.ver), func() (noun.OwnWay, error) { return r.Tx.OwnWay(w.ID) }, func() error { return r.Tx.SaveWay(w) })
}

func (r *Recorder) CreateWay(w *noun.OwnWay) error {
	err := r.Tx.CreateWay(w)
	r.made("way", w.ID, w.Version)
	return err
}

func (r *Recorder) SaveLot(l *noun.Lot) error {
	return kept(r, "lot", "", l.ID, versionOf(Lots.ver), func() (noun.Lot, error) { return r.Tx.Lot(l.ID) }, func() error { return r.Tx.SaveLot(l) })
}

func (r *Recorder) CreateCommission(c *noun.Commission) error {
	err := r.Tx.CreateCommission(c)
	r.made("commission", c.ID, c.Version)
	return err
}

func (r *Recorder) CreatePiece(p *noun.Piece) error {
	err := r.Tx.CreatePiece(p)
	r.made("piece", p.ID, p.Version)
	return err
}

func (r *Recorder) CreateTool(t *noun.Tool) error {
	err := r.Tx.CreateTool(t)
	r.made("tool", t.ID, t.Version)
	return err
}

func (r *Recorder) CreateLot(l *noun.Lot) error {
	err := r.Tx.CreateLot(l)
	r.made("lot", l.ID, l.Version)
	return err
}

// stepFacts is what happened of a step; the rest is planned anew.
type stepFacts struct {
	ActualStart, ActualEnd   *time.Time
	PlannedStart, PlannedEnd time.Time
	Fills                    []noun.Fill
	Breaks                   []noun.Break
	Made                     *int
	Takes                    []noun.Taken
	version                  int64
}

func factsOf(st *noun.Step) stepFacts {
	return stepFacts{st.ActualStart, st.ActualEnd, st.PlannedStart, st.PlannedEnd, st.Fills, st.Breaks, st.Made, st.Takes, st.Version}
}

func (r *Recorder) SaveStep(st *noun.Step) error {
	get := func() (stepFacts, error) {
		now, err := r.Tx.Step(st.Op)
		return factsOf(&now), err
	}
	return kept(r, "step", st.Op, 0, func(f *stepFacts) int64 { return f.version }, get, func() error { return r.Tx.SaveStep(st) })
}

func timerVersion(t *noun.Timer) int64 { return t.Version }

func (r *Recorder) SaveTimer(t *noun.Timer) error {
	return kept(r, "timer", "", t.ID, timerVersion, func() (noun.Timer, error) { return r.Tx.Timer(t.ID) }, func() error { return r.Tx.SaveTimer(t) })
}

func (r *Recorder) CreateTimer(t *noun.Timer) error {
	err := r.Tx.CreateTimer(t)
	r.made("timer", t.ID, t.Version)
	return err
}
