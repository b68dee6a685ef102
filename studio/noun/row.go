package noun

import "time"

// Row is what every noun that people make, change and take away begins with.
type Row struct {
	ID        int64      `json:"id,omitempty"`
	Version   int64      `json:"version,omitempty"`
	DeletedAt *time.Time `json:"deletedAt,omitempty"`
}

// Noun is a noun with rows of its own. A new one is added in three places: here, a
// struct that begins with a Row and says its word; its fields in read and its RowKind
// in journal; its table among the migrations.
type Noun interface {
	Word() string // "tool": in the journal; its table is called by the plural
	Called() (name string, commission int64)
	Stamp() (id, version *int64)
	Gone() **time.Time // when it was taken away; it can come back
}

// Stamp is the number and the version of a row, to read and to set.
func (r *Row) Stamp() (id, version *int64) { return &r.ID, &r.Version }

// Gone is when a row was taken away, to read and to set.
func (r *Row) Gone() **time.Time { return &r.DeletedAt }

// Stamp of the kitchen, which stands for its studio.
func (k *Kitchen) Stamp() (id, version *int64) { return &k.ID, &k.Version }

// Gone of a kitchen is never: a studio goes as a whole.
func (k *Kitchen) Gone() **time.Time { return new(*time.Time) }

// The words of the nouns.
func (*Kitchen) Word() string    { return "kitchen" }
func (*Tool) Word() string       { return "tool" }
func (*OwnWay) Word() string     { return "way" }
func (*Lot) Word() string        { return "lot" }
func (*Commission) Word() string { return "commission" }
func (*Piece) Word() string      { return "piece" }
func (*Timer) Word() string      { return "timer" }

// What the nouns are called in the journal.
func (*Kitchen) Called() (string, int64)      { return "Kitchen", 0 }
func (t *Tool) Called() (string, int64)       { return t.Name, 0 }
func (w *OwnWay) Called() (string, int64)     { return w.Definition.Names.UK, 0 }
func (l *Lot) Called() (string, int64)        { return l.Name, 0 }
func (c *Commission) Called() (string, int64) { return c.Title, c.ID }
func (p *Piece) Called() (string, int64)      { return p.Name, p.CommissionID }
func (t *Timer) Called() (string, int64)      { return t.Says, 0 }
