package studio

import (
	"context"
	"fmt"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Kitchen shows the kitchen as a form.
func (s *Service) Kitchen(ctx context.Context, slug string) (out KitchenView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		out = kitchenView(k, now)
		out.IsDemo = k.Slug == s.Demo
		return nil
	})
	return out, err
}

// KitchenView is the kitchen and what the interface follows of it.
type KitchenView struct {
	Row     work.RowView `json:"row"`
	Slug    string       `json:"slug"`
	Name    string       `json:"name"`
	Words   string       `json:"words"`
	Units   string       `json:"units"`
	Scheme  string       `json:"scheme"`
	Keys    bool         `json:"keys"`
	Room    string       `json:"room"`
	IsDemo  bool         `json:"isDemo" doc:"it can be put back to its first state"`
	Week    Week         `json:"week"`
	Now     string       `json:"now" doc:"the server's clock, RFC 3339"`
	NowSays string       `json:"nowSays"`

	People   []string   `json:"people" doc:"who stands in the hours"`
	Calendar string     `json:"calendar" doc:"the path at which a calendar reads the line, with its secret; empty: none"`
	Busy     []BusyHere `json:"busy" doc:"whose busy times are kept"`
}

// BusyHere are the busy times of one, as they are kept.
type BusyHere struct {
	Who  string `json:"who" doc:"empty: everybody"`
	Says string `json:"says"`
}

// busyHere says whose busy times are kept.
func busyHere(k *noun.Kitchen, r read.Reader, now time.Time) []BusyHere {
	out := []BusyHere{}
	for _, who := range append([]string{""}, k.People()...) {
		n, last := 0, time.Time{}
		for _, b := range k.Busy {
			if b.Who == who && b.End.After(now) {
				n, last = n+1, b.End.In(now.Location())
			}
		}
		if n > 0 {
			name := who
			if who == "" {
				name = "Everybody"
			}
			out = append(out, BusyHere{who, fmt.Sprintf("%s: %s, the last until %s", name, read.Count(n, "busy stretch"), r.Time(last, now))})
		}
	}
	return out
}

// calendarPath is where a calendar reads the line of a studio.
func calendarPath(k *noun.Kitchen) string {
	if k.CalendarKey == "" {
		return ""
	}
	return "/api/s/" + k.Slug + "/calendar/" + k.CalendarKey + ".ics"
}

func kitchenView(k *noun.Kitchen, now time.Time) KitchenView {
	r := read.Reader{K: k}
	return KitchenView{People: k.People(), Calendar: calendarPath(k), Busy: busyHere(k, r, now), Row: work.RowView{ID: k.ID, Version: k.Version, Name: k.Name, Says: []string{}, Fields: read.Views(read.KitchenFields, r, k, now)}, Slug: k.Slug, Name: k.Name, Words: k.Words,
		Units: k.Units, Scheme: k.Scheme, Keys: k.Keys, Week: weekOf(k, r, now), Room: work.RoomSays(k, now), Now: now.Format(time.RFC3339), NowSays: now.Format("Monday ") + r.Day(now, false) + ", " + r.Clock(now)}
}

// ChangeKitchen changes the kitchen and makes the plan anew.
func (s *Service) ChangeKitchen(ctx context.Context, slug string, in journal.ChangeIn) (out KitchenView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		tempC, rhPercent := a.House.TempC, a.House.RHPercent
		if err := journal.Kitchens.Change(a, a.House.ID, in); err != nil {
			return err
		}
		is, err := journal.Get[noun.Kitchen](a, a.House.ID)
		if err != nil || is.TempC == tempC && is.RHPercent == rhPercent {
			return err
		}
		is.SaysRoom(tempC, rhPercent, a.Now)
		return a.Save(&is)
	}, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		out = kitchenView(k, s.Clock().In(k.Zone()))
		out.IsDemo = k.Slug == s.Demo
		return nil
	})
	return out, err
}

// StudioID is the number behind an address, and how often its windows were told
// of a change.
func (s *Service) StudioID(ctx context.Context, slug string) (id, told int64, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, _ time.Time) error {
		p, err := tx.Pulse()
		id, told = k.ID, p.Told
		return err
	})
	return id, told, err
}
