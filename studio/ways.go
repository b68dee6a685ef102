package studio

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/technique"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// TechniqueRow is a way of making in the list.
type TechniqueRow struct {
	Key     string `json:"key"`
	Name    string `json:"name"`
	About   string `json:"about"`
	Own     bool   `json:"own"`
	Version int    `json:"version"`
}

// TechniqueView is a way of making as a page that can be read: its chain drawn, its words,
// what is measured, what it works with, where good makers differ.
type TechniqueView struct {
	TechniqueRow
	ID       int64            `json:"id" doc:"of a way of one's own; 0: it comes with the program"`
	Row      int64            `json:"row" doc:"the version that a change is made from"`
	From     string           `json:"from" doc:"what it was copied from"`
	Limit    string           `json:"limit"`
	Breakage string           `json:"breakage"`
	Tools    []string         `json:"tools"`
	Measures []noun.Named     `json:"measures"`
	Steps    []TechniqueStep  `json:"steps"`
	Ways     []work.WayAsked  `json:"ways"`
	Joins    []string         `json:"joins"`
	Fields   []read.FieldView `json:"fields" doc:"what can be changed of a way of one's own"`
}

// TechniqueStep is one step of a way: a movement of the hands or a wait.
type TechniqueStep struct {
	ID       string       `json:"id"`
	Say      string       `json:"say"`
	Hands    bool         `json:"hands"`
	Says     []string     `json:"says"`
	Checks   []string     `json:"checks"`
	Cautions []string     `json:"cautions"`
	Minutes  []noun.Named `json:"minutes" doc:"unit and minutes, as a number or an expression"`
	When     string       `json:"when" doc:"it is there when this is over 0"`
	Round    string       `json:"round" doc:"worked round by round with others"`
	Source   string       `json:"source"`
}

// Ways lists the ways of making, the studio's own first.
func (s *Service) Ways(ctx context.Context, slug string) (out []TechniqueRow, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, _ time.Time) error {
		lib, err := tx.Library()
		if err != nil {
			return err
		}
		out = []TechniqueRow{}
		for _, t := range lib.All() {
			out = append(out, wayRow(read.Reader{K: k}, t))
		}
		slices.SortStableFunc(out, func(a, b TechniqueRow) int {
			switch {
			case a.Own == b.Own:
				return strings.Compare(a.Key, b.Key)
			case a.Own:
				return -1
			}
			return 1
		})
		return nil
	})
	return out, err
}

func wayRow(r read.Reader, t *technique.Technique) TechniqueRow {
	return TechniqueRow{Key: t.Key, Name: work.NameOf(r, t.Names), About: r.Say(t.About), Own: technique.Ours.Of(t.Key) == nil, Version: t.Version}
}

// Way shows one way of making.
func (s *Service) Way(ctx context.Context, slug, key string) (out TechniqueView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		lib, err := tx.Library()
		if err != nil {
			return err
		}
		t := lib.Of(key)
		if t == nil {
			return journal.ErrNotFound
		}
		r := read.Reader{K: k}
		out = wayView(lib, r, t)
		own, err := tx.OwnWays()
		if err != nil {
			return err
		}
		for i := range own {
			if w := &own[i]; w.Key == key {
				out.ID, out.Row = w.ID, w.Version
				if from := technique.Ours.Of(w.FromKey); from != nil {
					out.From = fmt.Sprintf("%s, version %d", work.NameOf(r, from.Names), w.FromVersion)
				}
				out.Fields = read.Views(read.WayFields(w.Definition), r, w, now)
			}
		}
		return nil
	})
	return out, err
}

func wayView(lib *technique.Library, r read.Reader, t *technique.Technique) TechniqueView {
	v := TechniqueView{TechniqueRow: wayRow(r, t), Limit: r.Say(t.Limit), Breakage: work.BreakageSay(t.Breakage), Tools: []string{}, Measures: []noun.Named{}, Steps: []TechniqueStep{}, Ways: []work.WayAsked{}, Joins: []string{}, Fields: []read.FieldView{}}
	for _, x := range t.Tools {
		v.Tools = append(v.Tools, work.NameOf(r, lib.Kind(x.Kind).Names))
	}
	for _, m := range t.Measures {
		v.Measures = append(v.Measures, noun.Named{Name: r.Say(m.Says), Text: strings.TrimSpace(fmt.Sprintf("%g to %g %s, usually %g", m.From, m.To, m.Unit, m.Default))})
	}
	asked := map[string]bool{}
	for i := range t.Steps {
		x := &t.Steps[i]
		v.Steps = append(v.Steps, wayStep(r, t, x))
		for _, q := range x.Ways {
			if way := lib.Way(t, q); way != nil && !asked[q] {
				asked[q] = true
				v.Ways = append(v.Ways, work.AskedOf(r, way, x.Verb))
			}
		}
	}
	for _, st := range t.Join().States {
		v.Joins = append(v.Joins, r.Say(work.StateSay(st)))
	}
	return v
}

func wayStep(r read.Reader, t *technique.Technique, s *technique.Step) TechniqueStep {
	v := TechniqueStep{ID: s.ID, Say: read.UpperFirst(r.Say(work.VerbSay(s.Verb))), Hands: s.Hands, Says: []string{}, Checks: []string{}, Cautions: []string{}, Minutes: []noun.Named{}, When: s.When, Source: s.Source}
	for _, x := range s.Says {
		v.Says = append(v.Says, r.Say(x))
	}
	for _, x := range s.Checks {
		v.Checks = append(v.Checks, r.Say(x))
	}
	v.Cautions = append(v.Cautions, work.CautionsOf(r, s)...)
	units := make([]string, 0, len(s.Minutes))
	for u := range s.Minutes {
		units = append(units, u)
	}
	slices.Sort(units)
	for _, u := range units {
		v.Minutes = append(v.Minutes, noun.Named{Name: work.UnitSay(u), Text: s.Minutes[u] + " min"})
	}
	switch {
	case s.Cycle != nil:
		v.Minutes = append(v.Minutes, noun.Named{Name: "a round", Text: "fill " + s.Cycle.FillSec + " s, hold " + s.Cycle.HoldSec + " s, open " + s.Cycle.UnmouldSec + " s"})
	case s.Wait != "":
		v.Minutes = append(v.Minutes, noun.Named{Name: "wait", Text: s.Wait + " min"})
	case s.Dry != "":
		v.Minutes = append(v.Minutes, noun.Named{Name: "dries", Text: "until " + s.Dry + ", as the room says"})
	}
	if run := t.Run(s.Run); run != nil {
		v.Round = r.Say(run.Says)
	}
	return v
}

// CopyWay makes a way of making the studio's own, under a name of its own.
func (s *Service) CopyWay(ctx context.Context, slug, key, name string) (out string, err error) {
	name = strings.TrimSpace(name)
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		if name == "" || len([]rune(name)) > 100 {
			return fault.New(fault.Required, "name", "What is it called here? Up to 100 characters.")
		}
		lib, err := a.Library()
		if err != nil {
			return err
		}
		from := lib.Of(key)
		if from == nil {
			return journal.ErrNotFound
		}
		next, err := from.Copy()
		if err != nil {
			return err
		}
		out = ownKey(lib, name)
		next.Key, next.Names, next.Version = out, technique.Names{UK: name, US: name}, 1
		w := noun.OwnWay{Row: noun.Row{Version: 1}, Key: out, FromKey: from.Key, FromVersion: from.Version, Definition: next}
		if err := journal.OwnWays.Check(a, &w); err != nil {
			return err
		}
		a.Say(0, "made %s the studio's own way, as %s", from.Names.UK, name)
		return a.Create(&w)
	}, nil)
	return out, err
}

// ownKey is an address for a way that nobody has yet: "our-flags".
func ownKey(lib *technique.Library, name string) string {
	base := "our-" + noun.NewKitchen(name).Slug
	if len(base) > 36 {
		base = strings.Trim(base[:36], "-")
	}
	key := base
	for n := 2; lib.Of(key) != nil; n++ {
		key = fmt.Sprintf("%s-%d", base, n)
	}
	return key
}
