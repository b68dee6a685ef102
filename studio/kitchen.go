package studio

import (
	"context"
	"regexp"
	"strings"
	"time"

	"dustyfern/studio/noun"
)

var slugShape = regexp.MustCompile(`[^a-z0-9]+`)

// NewKitchen is a studio before anything was said of it: starting values that
// Kitchen shows and changes.
func NewKitchen(name string) noun.Kitchen {
	slug := strings.Trim(slugShape.ReplaceAllString(strings.ToLower(name), "-"), "-")
	if len(slug) > 50 {
		slug = strings.Trim(slug[:50], "-")
	}
	if slug == "" {
		slug = "studio"
	}
	return noun.Kitchen{Version: 1, Slug: slug, Name: name, TimeZone: "Europe/London", TempC: 21, RHPercent: 50, FreezerPlaces: 4, ScaleStepG: 0.1, Powder: "cmc", School: "modelling",
		Breakage: "ordinary", Words: "uk", Units: "metric", Scheme: "system", Keys: true, BufferMinutes: 60, Confidence: 0.9, ToDarker: 2, ToLighter: 8, ToWhite: 12, WhiteFrom: 95,
		KneadFirst: 6, KneadMore: 2, PutOnBase: 4, PutOnSmall: 0.75, PutOnLarge: 1.5, SettleMinutes: 60, PackMinutes: 15, FreshDays: 4,
		Trays: []noun.Tray{{2, 400, 300}}, Formers: []noun.Former{}, Exceptions: []noun.Exception{}, UnitGrams: noun.UnitGrams{}, SpoonGrams: noun.UnitGrams{}, Sides: noun.Sides{}, DropG: 0.045, DabG: 0.015,
		Hours: []noun.Hours{{Weekday: 2, From: "19:00", To: "22:00", People: []string{}}, {Weekday: 4, From: "19:00", To: "22:00", People: []string{}}, {Weekday: 6, From: "09:00", To: "13:00", People: []string{}}}}
}

// Kitchen shows the kitchen as a form.
func (s *Service) Kitchen(ctx context.Context, slug string) (out KitchenView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *noun.Kitchen, now time.Time) error {
		out = kitchenView(k, now)
		out.IsDemo = k.Slug == s.Demo
		p, err := tx.Pulse()
		out.Told = p.Told
		return err
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
	Told    int64   `json:"told" doc:"how often windows were told of a change when this was read"`
	IsDemo  bool    `json:"isDemo" doc:"it can be put back to its first state"`
	Now     string  `json:"now" doc:"the server's clock, RFC 3339"`
	NowSays string  `json:"nowSays"`
}

func kitchenView(k *noun.Kitchen, now time.Time) KitchenView {
	r := reader{k}
	return KitchenView{Row: RowView{ID: k.ID, Version: k.Version, Name: k.Name, Says: []string{}, Fields: views(kitchenFields, r, k, now)}, Slug: k.Slug, Name: k.Name, Words: k.Words,
		Units: k.Units, Scheme: k.Scheme, Keys: k.Keys, Room: r.temp(k.TempC) + ", " + trimmed(k.RHPercent, 0) + " %", Now: now.Format(time.RFC3339), NowSays: now.Format("Monday 2 January, 15:04")}
}

// ChangeKitchen changes the kitchen and makes the plan anew.
func (s *Service) ChangeKitchen(ctx context.Context, slug string, in ChangeIn) (out KitchenView, err error) {
	_, err = s.act(ctx, slug, func(a *acting) error { return changeRow(a, &kitchens, a.k.ID, in) }, func(tx Tx, k *noun.Kitchen, now time.Time) error {
		out = kitchenView(k, s.Clock().In(k.Zone()))
		out.IsDemo = k.Slug == s.Demo
		return nil
	})
	return out, err
}

// StudioID is the number behind an address, and how often its windows were told
// of a change.
func (s *Service) StudioID(ctx context.Context, slug string) (id, told int64, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *noun.Kitchen, _ time.Time) error {
		p, err := tx.Pulse()
		id, told = k.ID, p.Told
		return err
	})
	return id, told, err
}
