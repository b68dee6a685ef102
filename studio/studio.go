package studio

import (
	"context"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/fault"
)

// Service is the use cases. Each is one transaction: it loads, asks the craft,
// saves, and makes the plan anew when something it rests on has changed.
type Service struct {
	Store Store
	Clock func() time.Time
}

// Conflict is a change that met another one on the same field: both states.
type Conflict struct {
	Fields  []string          // that both have changed
	Yours   map[string]string // as sent
	Theirs  map[string]string // as they stand now
	Version int64
}

func (c *Conflict) Error() string { return "changed meanwhile: " + strings.Join(c.Fields, ", ") }

// ChangeIn is what a window asks to change of a row: texts by field, and the
// version it was made from.
type ChangeIn struct {
	Version int64             `json:"version" doc:"version of the row that the change was made from"`
	Set     map[string]string `json:"set" doc:"texts by field, as typed"`
}

// in is a use case that only reads.
func (s *Service) in(ctx context.Context, slug string, f func(tx Tx, k *Kitchen, now time.Time) error) error {
	return s.Store.In(ctx, slug, func(tx Tx) error {
		k := tx.Kitchen()
		return f(tx, k, s.Clock().In(k.zone()))
	})
}

// alone is a use case that changes something or may make the plan anew: one at
// a time in each studio, so that two windows never make two plans at once.
func (s *Service) alone(ctx context.Context, slug string, f func(tx Tx, k *Kitchen, now time.Time) error) error {
	return s.Store.In(ctx, slug, func(tx Tx) error {
		if err := tx.Lock(); err != nil {
			return err
		}
		k := tx.Kitchen()
		return f(tx, k, s.Clock().In(k.zone()))
	})
}

// Studios lists the studios by name.
func (s *Service) Studios(ctx context.Context) ([]StudioRow, error) {
	all, err := s.Store.Studios(ctx)
	out := []StudioRow{}
	for _, k := range all {
		out = append(out, StudioRow{k.Slug, k.Name})
	}
	return out, err
}

// StudioRow is a studio in the list.
type StudioRow struct {
	Slug string `json:"slug"`
	Name string `json:"name"`
}

var slugShape = regexp.MustCompile(`[^a-z0-9]+`)

// NewKitchen is a studio before anything was said of it: starting values that
// Kitchen shows and changes.
func NewKitchen(name string) Kitchen {
	slug := strings.Trim(slugShape.ReplaceAllString(strings.ToLower(name), "-"), "-")
	if len(slug) > 50 {
		slug = strings.Trim(slug[:50], "-")
	}
	if slug == "" {
		slug = "studio"
	}
	return Kitchen{Version: 1, Slug: slug, Name: name, TimeZone: "Europe/London", TempC: 21, RHPercent: 50, FreezerPlaces: 4, ScaleStepG: 0.1, Powder: "cmc", School: "modelling",
		Breakage: "ordinary", Words: "uk", Units: "metric", Scheme: "system", Keys: true, BufferMinutes: 60, Confidence: 0.9, ToDarker: 2, ToLighter: 8, ToWhite: 12, WhiteFrom: 95,
		KneadFirst: 6, KneadMore: 2, PutOnBase: 4, PutOnSmall: 0.75, PutOnLarge: 1.5, SettleMinutes: 60, PackMinutes: 15, FreshDays: 4,
		Trays: []Tray{{2, 400, 300}}, Formers: []Former{}, Exceptions: []Exception{},
		Hours: []Hours{{Weekday: 2, From: "19:00", To: "22:00", People: []string{}}, {Weekday: 4, From: "19:00", To: "22:00", People: []string{}}, {Weekday: 6, From: "09:00", To: "13:00", People: []string{}}}}
}

// CreateStudio opens an empty studio under a free address.
func (s *Service) CreateStudio(ctx context.Context, name string) (StudioRow, error) {
	name = strings.TrimSpace(name)
	if name == "" || len([]rune(name)) > 80 {
		return StudioRow{}, fault.New(fault.Required, "name", "What is your studio called? Up to 80 characters.")
	}
	all, err := s.Store.Studios(ctx)
	if err != nil {
		return StudioRow{}, err
	}
	k := NewKitchen(name)
	base := k.Slug
	for n := 2; slices.ContainsFunc(all, func(o Kitchen) bool { return o.Slug == k.Slug }); n++ {
		k.Slug = fmt.Sprintf("%s-%d", base, n)
	}
	if err := s.Store.CreateStudio(ctx, &k); err != nil {
		return StudioRow{}, err
	}
	return StudioRow{k.Slug, k.Name}, nil
}

// noun is what a generic row of the studio needs to be changed.
type noun[T any] struct {
	name   string
	fields []*field[T]
	get    func(Tx, int64) (T, error)
	save   func(Tx, *T) error
	create func(Tx, *T) error
	id     func(*T) *int64
	ver    func(*T) *int64
	gone   func(*T) **time.Time
	check  func(Tx, *T) error // what one field alone cannot tell
}

var (
	kitchens = noun[Kitchen]{name: "kitchen", fields: kitchenFields,
		get: func(tx Tx, _ int64) (Kitchen, error) { return *tx.Kitchen(), nil }, save: Tx.SaveKitchen,
		id: func(k *Kitchen) *int64 { return &k.ID }, ver: func(k *Kitchen) *int64 { return &k.Version }, gone: func(*Kitchen) **time.Time { return new(*time.Time) }}
	tools = noun[Tool]{name: "tool", fields: toolFields, get: Tx.Tool, save: Tx.SaveTool, create: Tx.CreateTool,
		id: func(t *Tool) *int64 { return &t.ID }, ver: func(t *Tool) *int64 { return &t.Version }, gone: func(t *Tool) **time.Time { return &t.DeletedAt },
		check: func(_ Tx, t *Tool) error {
			if t.Shape == "sheet" && t.DepthMM > 12 {
				return fault.New(fault.OutOfRange, "depthMM", "A thin, flat piece is at most 12 mm deep: say flat back, solid.")
			}
			return nil
		}}
	lots = noun[Lot]{name: "lot", fields: lotFields, get: Tx.Lot, save: Tx.SaveLot, create: Tx.CreateLot,
		id: func(l *Lot) *int64 { return &l.ID }, ver: func(l *Lot) *int64 { return &l.Version }, gone: func(l *Lot) **time.Time { return &l.DeletedAt }}
	commissions = noun[Commission]{name: "commission", fields: commissionFields, get: Tx.Commission, save: Tx.SaveCommission, create: Tx.CreateCommission,
		id: func(c *Commission) *int64 { return &c.ID }, ver: func(c *Commission) *int64 { return &c.Version }, gone: func(c *Commission) **time.Time { return &c.DeletedAt },
		check: func(_ Tx, c *Commission) error {
			if c.CakeReady != nil && c.HandOver != nil && c.CakeReady.After(*c.HandOver) {
				return fault.New(fault.Contradiction, "cakeReady", "The cake is ready before it is handed over, not after.")
			}
			return nil
		}}
	pieces = noun[Piece]{name: "piece", fields: slices.Concat(pieceFields, pasteFields), get: Tx.Piece, save: Tx.SavePiece, create: Tx.CreatePiece,
		id: func(p *Piece) *int64 { return &p.ID }, ver: func(p *Piece) *int64 { return &p.Version }, gone: func(p *Piece) **time.Time { return &p.DeletedAt },
		check: checkPiece}
)

// checkPiece refuses what the pantry's labels and the table together forbid.
func checkPiece(tx Tx, p *Piece) error {
	if p.MouldID != nil {
		if _, err := tx.Tool(*p.MouldID); err != nil {
			return fault.New(fault.UnknownValue, "mould", "That mould is not in the tool drawer.")
		}
	}
	if p.Dough == "" {
		return nil
	}
	c, err := tx.Commission(p.CommissionID)
	if err != nil {
		return err
	}
	ls, err := tx.Lots()
	if err != nil {
		return err
	}
	var met []string
	for _, l := range ls {
		if l.Kind == p.Dough {
			m := meets(l.Allergens, &c)
			if len(m) == 0 {
				return nil
			}
			met = m
		}
	}
	if len(met) > 0 {
		return fault.New(fault.Contradiction, "dough", "%s holds %s, and there is an allergy at the table.", upperFirst(pasteNames[p.Dough]), list(met))
	}
	return nil
}

// change applies a change to one row: other fields merge, the same field that
// somebody has changed since meets a Conflict.
func change[T any](tx Tx, n *noun[T], k *Kitchen, now time.Time, id int64, in ChangeIn) error {
	row, err := n.get(tx, id)
	if err != nil {
		return err
	}
	r := reader{k}
	if v := *n.ver(&row); in.Version != v {
		if in.Version > v || in.Version < 1 {
			return fault.New(fault.OutOfRange, "version", "The version is that of the row as it was read.")
		}
		since, err := tx.ChangesSince(n.name, id, in.Version)
		if err != nil {
			return err
		}
		clash := &Conflict{Yours: map[string]string{}, Theirs: map[string]string{}, Version: v}
		for name, text := range in.Set {
			for _, c := range since {
				if _, both := c.Fields[name]; !both {
					continue
				}
				for _, f := range n.fields {
					if theirs := f.text(r, &row, now); f.name == name && theirs != text && !slices.Contains(clash.Fields, name) {
						clash.Fields = append(clash.Fields, name)
						clash.Yours[name], clash.Theirs[name] = text, theirs
					}
				}
			}
		}
		if len(clash.Fields) > 0 {
			slices.Sort(clash.Fields)
			return clash
		}
	}
	before, err := apply(n.fields, r, &row, in.Set, now)
	if err != nil {
		return err
	}
	if n.check != nil {
		if err := n.check(tx, &row); err != nil {
			return err
		}
	}
	if err := n.save(tx, &row); err != nil {
		return err
	}
	return tx.AddChange(&Change{Noun: n.name, RowID: id, RowVersion: *n.ver(&row), At: now, Fields: before})
}

// create makes a row of texts; what is not said keeps the starting value.
func create[T any](tx Tx, n *noun[T], k *Kitchen, now time.Time, row *T, set map[string]string) error {
	full := map[string]string{}
	for name, text := range set {
		full[name] = text
	}
	for _, f := range n.fields { // what must be said is asked for, all the same
		if _, said := full[f.name]; !said && f.must && f.text(reader{k}, row, now) == "" {
			full[f.name] = ""
		}
	}
	if _, err := apply(n.fields, reader{k}, row, full, now); err != nil {
		return err
	}
	if n.check != nil {
		if err := n.check(tx, row); err != nil {
			return err
		}
	}
	return n.create(tx, row)
}

// bury deletes a row so that it can come back, or brings it back.
func bury[T any](tx Tx, n *noun[T], now time.Time, id int64, back bool) error {
	row, err := n.get(tx, id)
	if err != nil {
		return err
	}
	at := n.gone(&row)
	if back == (*at == nil) {
		return nil // a repeat does nothing
	}
	if back {
		*at = nil
	} else {
		*at = &now
	}
	return n.save(tx, &row)
}

// bench gathers what pieces are worked out from.
func (s *Service) bench(tx Tx, k *Kitchen, now time.Time) (*benchOf, error) {
	b := &benchOf{k: k, r: reader{k}, now: now, tools: map[int64]*Tool{}}
	ts, err := tx.Tools()
	if err != nil {
		return nil, err
	}
	for i := range ts {
		b.tools[ts[i].ID] = &ts[i]
	}
	ls, err := tx.Lots()
	for _, l := range ls {
		if l.DeletedAt == nil {
			b.lots = append(b.lots, l)
		}
	}
	return b, err
}

// Row use cases of the drawer, the pantry and the kitchen.

// Kitchen shows the kitchen as a form.
func (s *Service) Kitchen(ctx context.Context, slug string) (out KitchenView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		out = kitchenView(k, now)
		return nil
	})
	return out, err
}

// KitchenView is the kitchen and what the interface follows of it.
type KitchenView struct {
	Row     RowView `json:"row"`
	Slug    string  `json:"slug"`
	Name    string  `json:"name"`
	Words   string  `json:"words"`
	Units   string  `json:"units"`
	Scheme  string  `json:"scheme"`
	Keys    bool    `json:"keys"`
	Room    string  `json:"room"`
	Now     string  `json:"now" doc:"the server's clock, RFC 3339"`
	NowSays string  `json:"nowSays"`
}

func kitchenView(k *Kitchen, now time.Time) KitchenView {
	r := reader{k}
	return KitchenView{Row: RowView{ID: k.ID, Version: k.Version, Name: k.Name, Says: []string{}, Fields: views(kitchenFields, r, k, now)}, Slug: k.Slug, Name: k.Name, Words: k.Words,
		Units: k.Units, Scheme: k.Scheme, Keys: k.Keys, Room: r.temp(k.TempC) + ", " + trimmed(k.RHPercent, 0) + " %", Now: now.Format(time.RFC3339), NowSays: now.Format("Monday 2 January, 15:04")}
}

// ChangeKitchen changes the kitchen and makes the plan anew.
func (s *Service) ChangeKitchen(ctx context.Context, slug string, in ChangeIn) (out KitchenView, err error) {
	err = s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		if err := change(tx, &kitchens, k, now, k.ID, in); err != nil {
			return err
		}
		k = tx.Kitchen()
		out = kitchenView(k, s.Clock().In(k.zone()))
		return s.replan(tx, k, now)
	})
	return out, err
}

// Tools lists the drawer.
func (s *Service) Tools(ctx context.Context, slug string) (out []RowView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		ts, err := tx.Tools()
		out = []RowView{}
		for i := range ts {
			if ts[i].DeletedAt == nil {
				out = append(out, toolView(&ts[i], k, now))
			}
		}
		return err
	})
	return out, err
}

func toolView(t *Tool, k *Kitchen, now time.Time) RowView {
	r := reader{k}
	v := RowView{ID: t.ID, Version: t.Version, Name: t.Name, Fields: views(toolFields, r, t, now)}
	v.Says = append(v.Says, fmt.Sprintf("%s × %s, %s deep", r.length(t.LengthMM), r.length(t.WidthMM), r.length(t.DepthMM)))
	switch {
	case t.WeighedG != nil:
		v.Says = append(v.Says, "a piece weighs "+r.mass(*t.WeighedG))
	case t.CavityML != nil:
		v.Says = append(v.Says, "holds "+trimmed(*t.CavityML, 2)+" ml")
	default:
		v.Says = append(v.Says, "not weighed yet")
	}
	n := ""
	if t.Cavities > 1 {
		n = fmt.Sprintf("%d cavities, ", t.Cavities)
	}
	how := "straight out"
	if t.Chilled {
		how = "chilled"
	}
	copies := "1 copy"
	if t.Copies > 1 {
		copies = fmt.Sprintf("%d copies", t.Copies)
	}
	v.Says = append(v.Says, n+copies+", "+how)
	return v
}

func lotView(l *Lot, k *Kitchen, now time.Time) RowView {
	r := reader{k}
	v := RowView{ID: l.ID, Version: l.Version, Name: l.Name, Swatch: "#F7F2E6", Fields: views(lotFields, r, l, now)}
	if l.Swatch != nil {
		v.Swatch = *l.Swatch
	}
	v.Says = append(v.Says, r.mass(l.MassG)+" of "+r.say(pasteNames[l.Kind]))
	if l.Grade != nil {
		v.Says = append(v.Says, fmt.Sprintf("squeeze grade %d", *l.Grade))
	}
	if l.OpenedOn != nil {
		v.Says = append(v.Says, "opened "+l.OpenedOn.In(now.Location()).Format("2 Jan"))
	}
	if len(l.Allergens) > 0 {
		v.Says = append(v.Says, "holds "+list(l.Allergens))
	}
	return v
}

// Lots lists the pantry.
func (s *Service) Lots(ctx context.Context, slug string) (out []RowView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		ls, err := tx.Lots()
		out = []RowView{}
		for i := range ls {
			if ls[i].DeletedAt == nil {
				out = append(out, lotView(&ls[i], k, now))
			}
		}
		return err
	})
	return out, err
}

// Kind of a row that the generic use cases take.
type Kind string

// Kinds of rows.
const (
	KindTool       Kind = "tools"
	KindLot        Kind = "lots"
	KindCommission Kind = "commissions"
	KindPiece      Kind = "pieces"
)

// Blank is a new row as a form: the starting values.
func (s *Service) Blank(ctx context.Context, slug string, kind Kind) (out RowView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		switch kind {
		case KindTool:
			t := blankTool()
			out = RowView{Fields: views(toolFields, reader{k}, &t, now)}
			for i := range out.Fields {
				if n := out.Fields[i].Name; n == "lengthMM" || n == "widthMM" || n == "depthMM" {
					out.Fields[i].Text = ""
				}
			}
		case KindLot:
			l := blankLot()
			out = RowView{Fields: views(lotFields, reader{k}, &l, now)}
			for i := range out.Fields {
				if out.Fields[i].Name == "massG" {
					out.Fields[i].Text = ""
				}
			}
		case KindCommission:
			c := blankCommission()
			out = RowView{Fields: views(commissionFields, reader{k}, &c, now)}
		default:
			b, err := s.bench(tx, k, now)
			if err != nil {
				return err
			}
			p := blankPiece()
			out = RowView{Fields: b.pieceViews(&p)}
		}
		out.Says = []string{}
		return nil
	})
	return out, err
}

func blankTool() Tool {
	return Tool{Version: 1, Make: "cavity", Shape: "block", Cavities: 1, Copies: 1}
}
func blankLot() Lot { return Lot{Version: 1, Kind: "sugarPaste", Allergens: []string{}} }
func blankCommission() Commission {
	return Commission{Version: 1, Carrier: "tiers", Tiers: []Tier{}, Allergies: []string{}, State: "open"}
}
func blankPiece() Piece {
	return Piece{Version: 1, Wanted: 12, Swatch: "#5F8A4A", Eaten: "nibbled", Stance: "lying", Joined: "dry", Support: "foam"}
}

// Create makes a row of the texts of a form. parent is the commission of a
// piece.
func (s *Service) Create(ctx context.Context, slug string, kind Kind, parent int64, set map[string]string) (id int64, err error) {
	err = s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		switch kind {
		case KindTool:
			t := blankTool()
			for _, must := range []string{"lengthMM", "widthMM", "depthMM"} {
				if _, ok := set[must]; !ok {
					set[must] = ""
				}
			}
			if err := create(tx, &tools, k, now, &t, set); err != nil {
				return err
			}
			id = t.ID
		case KindLot:
			l := blankLot()
			if err := create(tx, &lots, k, now, &l, set); err != nil {
				return err
			}
			id = l.ID
		case KindCommission:
			c := blankCommission()
			if err := create(tx, &commissions, k, now, &c, set); err != nil {
				return err
			}
			id = c.ID
		case KindPiece:
			if _, err := tx.Commission(parent); err != nil {
				return err
			}
			ps, err := tx.Pieces(parent)
			if err != nil {
				return err
			}
			p := blankPiece()
			p.CommissionID, p.Position = parent, nextPosition(ps)
			if err := create(tx, &pieces, k, now, &p, set); err != nil {
				return err
			}
			id = p.ID
		}
		return s.replan(tx, k, now)
	})
	return id, err
}

func nextPosition(ps []Piece) int {
	n := 0
	for _, p := range ps {
		n = max(n, p.Position)
	}
	return n + 1
}

// Change changes a row; Delete takes it away and Restore brings it back.
func (s *Service) Change(ctx context.Context, slug string, kind Kind, id int64, in ChangeIn) error {
	return s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		var err error
		switch kind {
		case KindTool:
			err = change(tx, &tools, k, now, id, in)
		case KindLot:
			err = change(tx, &lots, k, now, id, in)
		case KindCommission:
			err = change(tx, &commissions, k, now, id, in)
		case KindPiece:
			err = change(tx, &pieces, k, now, id, in)
		}
		if err != nil {
			return err
		}
		return s.replan(tx, k, now)
	})
}

// Delete takes a row away (it can come back), or brings it back.
func (s *Service) Delete(ctx context.Context, slug string, kind Kind, id int64, back bool) error {
	return s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		var err error
		switch kind {
		case KindTool:
			if !back {
				if err := unused(tx, id); err != nil {
					return err
				}
			}
			err = bury(tx, &tools, now, id, back)
		case KindLot:
			err = bury(tx, &lots, now, id, back)
		case KindCommission:
			err = bury(tx, &commissions, now, id, back)
		case KindPiece:
			err = bury(tx, &pieces, now, id, back)
		}
		if err != nil {
			return err
		}
		return s.replan(tx, k, now)
	})
}

// unused refuses to take away a mould that a piece still needs.
func unused(tx Tx, tool int64) error {
	ps, err := tx.Pieces(0)
	if err != nil {
		return err
	}
	for _, p := range ps {
		if p.MouldID != nil && *p.MouldID == tool && p.DeletedAt == nil {
			return fault.New(fault.Contradiction, "name", "%q is pressed in it: give that piece another mould first.", p.Name)
		}
	}
	return nil
}

// Duplicate copies a piece below itself.
func (s *Service) Duplicate(ctx context.Context, slug string, id int64) (out int64, err error) {
	err = s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		p, err := tx.Piece(id)
		if err != nil {
			return err
		}
		ps, err := tx.Pieces(p.CommissionID)
		if err != nil {
			return err
		}
		for _, o := range ps {
			if o.Position > p.Position {
				o.Position++
				if err := tx.SavePiece(&o); err != nil {
					return err
				}
			}
		}
		p.ID, p.Version = 0, 1
		p.Position++
		p.Name = strings.TrimSuffix(p.Name, " (copy)") + " (copy)"
		if err := tx.CreatePiece(&p); err != nil {
			return err
		}
		out = p.ID
		return s.replan(tx, k, now)
	})
	return out, err
}

// Move puts a piece one place up or down among its commission's.
func (s *Service) Move(ctx context.Context, slug string, id int64, up bool) error {
	return s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		p, err := tx.Piece(id)
		if err != nil {
			return err
		}
		all, err := tx.Pieces(p.CommissionID)
		if err != nil {
			return err
		}
		var ps []Piece
		for _, o := range all {
			if o.DeletedAt == nil {
				ps = append(ps, o)
			}
		}
		i := slices.IndexFunc(ps, func(o Piece) bool { return o.ID == id })
		j := i + 1
		if up {
			j = i - 1
		}
		if i < 0 || j < 0 || j >= len(ps) {
			return nil
		}
		ps[i].Position, ps[j].Position = ps[j].Position, ps[i].Position
		if ps[i].Position == ps[j].Position {
			ps[i].Position += map[bool]int{true: -1, false: 1}[up]
		}
		if err := tx.SavePiece(&ps[i]); err != nil {
			return err
		}
		return tx.SavePiece(&ps[j])
	})
}

// SetState puts a commission aside, opens it again or hands it over.
func (s *Service) SetState(ctx context.Context, slug string, id int64, state string) error {
	return s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		c, err := tx.Commission(id)
		if err != nil {
			return err
		}
		if c.State == state {
			return nil
		}
		c.State = state
		if err := tx.SaveCommission(&c); err != nil {
			return err
		}
		return s.replan(tx, k, now)
	})
}
