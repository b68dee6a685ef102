package store_test

import (
	"context"
	"errors"
	"os"
	"reflect"
	"strings"
	"sync"
	"testing"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/store"
	"dustyfern/store/storetest"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
)

func TestMain(m *testing.M) { os.Exit(storetest.Run(m)) }

// open gives a database of its own with two studios.
func open(t testing.TB) (*store.Store, string) {
	t.Helper()
	s, name := storetest.Open(t)
	for _, who := range []string{"One", "Two"} {
		k := noun.NewKitchen(who)
		if err := s.CreateStudio(t.Context(), &k); err != nil {
			t.Fatal(err)
		}
	}
	return s, name
}

func in(t testing.TB, s *store.Store, slug string, f func(journal.Tx) error) {
	t.Helper()
	if err := s.Write(t.Context(), slug, f); err != nil {
		t.Fatal(err)
	}
}

// TestRoundTrip writes a full row of every noun and reads it back unchanged.
func TestRoundTrip(t *testing.T) {
	t.Parallel()
	s, _ := open(t)
	when := time.Date(2026, 11, 24, 20, 12, 0, 0, time.UTC)
	tool := noun.Tool{Row: noun.Row{Version: 1}, Name: "Frond", Kind: "cavityMould", Shape: "rod", CavityML: new(2.5), WeighedG: new(4.2), Measures: noun.Measures{"lengthMM": 92, "depthMM": 4.5, "undercut": 1},
		Chilled: true, FreezeMinutes: new(9.0), Breakage: "delicate", Copies: 4, Lent: 1, Broken: 2, UnmouldMinutes: new(0.5), Weighings: []noun.Weighing{{At: when, Grams: 4.21}}, Marks: []noun.Spot{{What: "deep", X: 0.25, Y: 0.5}},
		Outline: noun.Outline{Shape: "star", Count: 7}, Roller: noun.Roller{Settings: []noun.Setting{{At: 1, MM: 3.2}, {At: 9, MM: 0.5}}, Strips: []noun.Strip{{When: when, At: 3, MM: 1.7}}}, Cast: noun.Cast{Remelts: 2, Bought: new(18.0)}}
	lot := noun.Lot{Row: noun.Row{Version: 1}, Name: "White", Kind: "sugarPaste", MassG: 812.5, OwesG: 2.5, Leftover: true, Kept: "drawer", PackG: new(500.0), StrengthPercent: new(0.55), Deepening: new(0.4), HalfTimeHours: new(3.0), DropG: new(0.041), Grade: new(3), Swatch: new("#A9B99A"), Holds: []string{"egg", "milk"}, May: []string{"nuts"}, Asks: []string{"maize"}, LabelRead: true, Felt: []noun.Felt{}, Mixes: []noun.Mixed{}}
	order := noun.Commission{Row: noun.Row{Version: 1}, Title: "Fernery", Customer: "Society", HandOver: &when, CakeReady: &when, Carrier: "tiers", Tiers: []noun.Tier{{Shape: "round", SizeMM: 250, HeightMM: 110, CoatingMM: 5, Coating: "sage"}},
		Count: new(24), AcrossMM: new(65.0), Domed: true, Guests: "many", Children: true, Allergies: []string{"nuts"}, Without: []string{"alcohol"}, AtRisk: []string{"under3"}, Notes: "mind 🌿", State: "aside"}
	in(t, s, "one", func(tx journal.Tx) error {
		id, err := tx.AddPhoto([]byte("a photo"))
		tool.Photo = &id
		return errors.Join(err, tx.Create(&tool), tx.Create(&lot), tx.Create(&order))
	})
	piece := noun.Piece{Row: noun.Row{Version: 1}, CommissionID: order.ID, Position: 2, Name: "Fronds", Wanted: 14, ToolID: &tool.ID, Technique: "cut", Tools: noun.ToolsOf{"pin": tool.ID}, Measures: noun.Measures{"thicknessMM": 2.5}, Ways: noun.Ways{"veins": "eye"}, Joins: []noun.Join{{Part: 1, Each: 3, Says: "in the middle", With: "water", Minutes: 0.5}}, Colour: "green", Swatch: "#4F7A3F", Eaten: "shown", KnifePasses: true, Stance: "upright",
		HeightMM: new(92.0), Bent: true, Joined: "semiDry", Support: "cup", Carries: true, Bagged: true, HandledSoon: true, EdgeMM: new(0.4), Dusted: true, Chill: true, HeldUp: true, WayOut: "backIt",
		PegPercent: new(1.65), School: "light", Dough: "darkChocolate", TrialG: new(4.2), TrialLowG: new(4.0), TrialHighG: new(4.4), TrialText: "4.2 g", TrialEstimate: true, Extras: []int{2}, GelLots: []int64{lot.ID}, ColourFrom: "leftovers", Strands: []noun.Strand{{Colour: "moss", Swatch: "#4A5D23", Parts: 2}},
		Outline: noun.Outline{Shape: "own", Path: "M0 0L30 0L30 20Z"}, Laid: []noun.Put{{XMM: 12, YMM: 7, Deg: 90}}, Rack: new(int64(3)),
		Finish: noun.Finish{Passes: []noun.Pass{{Role: "high", Lots: []noun.DustPart{{Lot: lot.ID, Parts: 2}}, Percent: 20, Times: 3}}, Lock: "steam", Gloss: "matt"}, Goes: noun.Goes{Place: "side", With: "water", StandOffMM: new(2.0), Inserts: []noun.Insert{{Item: "wire", Each: 2}}}}
	in(t, s, "one", func(tx journal.Tx) error { return tx.Create(&piece) })
	step := noun.Step{Version: 1, CommissionID: order.ID, PieceID: &piece.ID, Op: "p1.1.press", Kind: "press", Title: "Press", Attended: true, PlannedStart: when, PlannedEnd: when.Add(time.Hour), ActualStart: &when, ActualEnd: &when,
		Says: []string{"a"}, Checks: []string{"b"}, Cautions: []string{"c"}, Ways: []noun.Way{{Say: "d", Why: "e", Usual: true}}, Figures: []noun.Figure{{Value: 1, Unit: "g", Text: "1 g"}}, Planned: noun.Planned{Swatch: "#112233", Hands: []int{1}, SlackMin: 4},
		Fills: []noun.Fill{{N: 1, Copy: 2, At: when, Out: &when}}, Breaks: []noun.Break{{At: when, Count: 1, Why: "tore"}}, Made: new(3), Takes: []noun.Taken{{Lot: 1, Name: "White", G: 12.5}}, Longer: &noun.Longer{More: 2, Balls: 5, Fills: 5, Tubbed: true}, Weighed: []noun.Weighing{{At: when, Grams: 4.3}}, Clocked: true, Tended: []noun.Tended{{At: when, Do: noun.ToRack, Rack: 3, Support: "foam", Tray: 2, Who: "Ines"}}, Looked: noun.Looked{"b": true}}
	rack := noun.Rack{Row: noun.Row{Version: 1}, Name: "Box", TempC: 24, RHPercent: 40, AirMS: 0.3, Sensor: "box", Trays: []noun.Tray{{Count: 2, LengthMM: 300, WidthMM: 200}}, Room: []noun.RoomSaid{{At: when, TempC: 20, RHPercent: 50}}}
	note := noun.Note{Row: noun.Row{Version: 1}, At: when, Who: "Ines", CommissionID: &order.ID, PieceID: &piece.ID, Op: "p1.1.dry", Name: "Fronds", What: "broke", Count: 2, Grams: new(40.5), FromGrams: new(42.0), Says: "at the stem", Photo: tool.Photo, Tool: "Frond", Technique: "pressed",
		Paste: "halfAndHalf", GumPercent: 1.6, Shape: "sheet", ThicknessMM: 2.5, Support: "foam", Rack: "Box", TempC: 21, RHPercent: 48, Hours: 5.5, Stage: "firm", ModelHours: 4, LowHours: 3, MidHours: 4.5, HighHours: 7, LeftOut: true,
		Symptoms: []string{"dew"}, Cause: "longFreeze", Target: "plan", Attacher: "water", Load: 2.5, PerCM2: true}
	in(t, s, "one", func(tx journal.Tx) error {
		return errors.Join(tx.ReplaceSteps(nil, []noun.Step{step}), tx.Create(&rack), tx.Create(&note))
	})
	same := func(what string, want, got any) {
		t.Helper()
		if !reflect.DeepEqual(want, got) {
			t.Errorf("%s came back changed:\n%+v\n%+v", what, want, got)
		}
	}
	in(t, s, "one", func(tx journal.Tx) error {
		got1, err1 := journal.Get[noun.Tool](tx, tool.ID)
		got2, err2 := journal.Get[noun.Lot](tx, lot.ID)
		got3, err3 := journal.Get[noun.Commission](tx, order.ID)
		got4, err4 := journal.Get[noun.Piece](tx, piece.ID)
		got5, err5 := tx.Step("p1.1.press")
		got3.HandOver, got3.CakeReady = new(got3.HandOver.UTC()), new(got3.CakeReady.UTC())
		got5.PlannedStart, got5.PlannedEnd, got5.ActualStart, got5.ActualEnd = got5.PlannedStart.UTC(), got5.PlannedEnd.UTC(), new(got5.ActualStart.UTC()), new(got5.ActualEnd.UTC())
		step.ID = got5.ID
		same("tool", tool, got1)
		same("lot", lot, got2)
		same("commission", order, got3)
		same("piece", piece, got4)
		same("step", step, got5)
		got6, err6 := journal.Get[noun.Rack](tx, rack.ID)
		got7, err7 := journal.Get[noun.Note](tx, note.ID)
		got7.At = got7.At.UTC()
		same("rack", rack, got6)
		same("note", note, got7)
		return errors.Join(err1, err2, err3, err4, err5, err6, err7)
	})
	for _, v := range []reflect.Value{reflect.ValueOf(tool), reflect.ValueOf(piece), reflect.ValueOf(rack), reflect.ValueOf(note)} { // a field that is left out here would go unseen
		for i := range v.NumField() {
			if f := v.Type().Field(i).Name; v.Field(i).IsZero() && f != "DeletedAt" {
				t.Errorf("%s is not tried", f)
			}
		}
	}
}

func TestAnotherStudioIsOutOfReach(t *testing.T) {
	t.Parallel()
	s, name := open(t)
	lot := noun.Lot{Row: noun.Row{Version: 1}, Name: "White", Kind: "sugarPaste", MassG: 1, Holds: []string{}, May: []string{}, Asks: []string{}, Felt: []noun.Felt{}, Mixes: []noun.Mixed{}}
	in(t, s, "one", func(tx journal.Tx) error { return tx.Create(&lot) })
	in(t, s, "two", func(tx journal.Tx) error {
		all, err := tx.Lots()
		if len(all) != 0 {
			t.Error("the other studio's lot is seen")
		}
		if _, err := journal.Get[noun.Lot](tx, lot.ID); !errors.Is(err, journal.ErrNotFound) {
			t.Error(err)
		}
		lot.MassG = 2
		if err := tx.Save(&lot); !errors.Is(err, journal.ErrStale) {
			t.Error("the other studio's lot was changed", err)
		}
		return err
	})
	app := storetest.DSN(name)
	// outside a studio nothing is seen and nothing written, and the role is plain
	for q, refused := range map[string]bool{
		"INSERT INTO lots (studio_id, name, kind, mass_g) VALUES (1, 'x', 'sugarPaste', 1)":                                              true,
		"DO $$ BEGIN IF (SELECT count(*) FROM lots) > 0 THEN RAISE 'seen'; END IF; END $$":                                               false,
		"DO $$ BEGIN IF (SELECT rolsuper OR rolbypassrls FROM pg_roles WHERE rolname = current_user) THEN RAISE 'above'; END IF; END $$": false,
		"DROP TABLE lots": true,
		"UPDATE studios SET name = 'mine' WHERE id = 2": false, // no row is in reach
		"SELECT * FROM goose_db_version":                true,
	} {
		if err := storetest.ExecAs(t, app, q); (err != nil) != refused {
			t.Errorf("%s: %v", q, err)
		}
	}
	in(t, s, "two", func(tx journal.Tx) error {
		if tx.Kitchen().Name != "Two" {
			t.Error("a studio was renamed from outside")
		}
		return nil
	})
}

func TestAStaleRowIsRefused(t *testing.T) {
	t.Parallel()
	s, _ := open(t)
	lot := noun.Lot{Row: noun.Row{Version: 1}, Name: "White", Kind: "sugarPaste", MassG: 100, Holds: []string{}, May: []string{}, Asks: []string{}, Felt: []noun.Felt{}, Mixes: []noun.Mixed{}}
	in(t, s, "one", func(tx journal.Tx) error { return tx.Create(&lot) })
	old := lot
	lot.MassG = 0 // a zero is written too
	in(t, s, "one", func(tx journal.Tx) error { return tx.Save(&lot) })
	old.Name = "Ivory"
	if err := s.Write(t.Context(), "one", func(tx journal.Tx) error { return tx.Save(&old) }); !errors.Is(err, journal.ErrStale) {
		t.Fatal(err)
	}
	in(t, s, "one", func(tx journal.Tx) error {
		got, err := journal.Get[noun.Lot](tx, lot.ID)
		if got.MassG != 0 || got.Name != "White" || got.Version != 2 {
			t.Errorf("%+v", got)
		}
		return err
	})
}

func TestTheDatabaseGuardsItself(t *testing.T) {
	t.Parallel()
	_, name := open(t)
	for _, q := range []string{
		"INSERT INTO lots (studio_id, name, kind, mass_g) VALUES (1, 'x', 'sugarPaste', -1)",
		"INSERT INTO lots (studio_id, name, kind, mass_g) VALUES (1, 'x', 'sugarPaste', 'NaN')",
		"INSERT INTO lots (studio_id, name, kind, mass_g) VALUES (1, 'x', 'sugarPaste', 'Infinity')",
		"INSERT INTO lots (studio_id, name, kind, mass_g) VALUES (99, 'x', 'sugarPaste', 1)",
		"UPDATE studios SET rh_percent = 'NaN'",
	} {
		if err := storetest.Exec(t, name, q); err == nil {
			t.Errorf("let in: %s", q)
		}
	}
	// a piece cannot point to another studio's commission
	if err := storetest.Exec(t, name, `INSERT INTO commissions (studio_id, title, carrier, domed, children, state) VALUES (2, 'theirs', 'tiers', false, false, 'open')`); err != nil {
		t.Fatal(err)
	}
	err := storetest.Exec(t, name, `INSERT INTO pieces (studio_id, commission_id, position, name, wanted, swatch, eaten, knife_passes, stance, bent, joined, support, carries, bagged, handled_soon, dusted, chill, held_up, trial_estimate)
		VALUES (1, (SELECT id FROM commissions), 1, 'x', 1, '#FFFFFF', 'shown', false, 'lying', false, 'dry', 'foam', false, false, false, false, false, false, false)`)
	if err == nil || !strings.Contains(err.Error(), "foreign key") {
		t.Error(err)
	}
}

func TestMigratingTwiceAtOnceIsHarmless(t *testing.T) {
	t.Parallel()
	if err := storetest.Exec(t, "postgres", "CREATE DATABASE twice"); err != nil {
		t.Fatal(err)
	}
	ended := make(chan error, 3)
	for range 3 {
		go func() { ended <- store.Migrate(context.Background(), storetest.OwnerDSN("twice"), nil) }()
	}
	for range 3 {
		if err := <-ended; err != nil {
			t.Error(err)
		}
	}
}

// TestACrowdInOneStudioStopsNoOther: sixty writers wait for one that is slow, six
// times as many as there are connections; another studio is written and read
// meanwhile, and so is theirs read.
func TestACrowdInOneStudioStopsNoOther(t *testing.T) {
	t.Parallel()
	s, _ := open(t)
	inside, slow := make(chan struct{}), make(chan struct{})
	done := make(chan error, 61)
	go func() {
		done <- s.Write(t.Context(), "one", func(journal.Tx) error { close(inside); <-slow; return nil })
	}()
	<-inside
	var begun sync.WaitGroup
	for range 60 {
		begun.Add(1)
		go func() {
			begun.Done()
			done <- s.Write(t.Context(), "one", func(journal.Tx) error { return nil })
		}()
	}
	begun.Wait()
	for range 3 {
		for _, slug := range []string{"two", "one"} {
			if err := s.Read(t.Context(), slug, func(tx journal.Tx) error { _, err := tx.OpenCommissions(); return err }); err != nil {
				t.Error(err)
			}
		}
		if err := s.Write(t.Context(), "two", func(journal.Tx) error { return nil }); err != nil {
			t.Error(err)
		}
	}
	close(slow)
	for range 61 {
		if err := <-done; err != nil {
			t.Error(err)
		}
	}
}

// TestErrorsOfTheDatabaseInTheWordsOfTheHouse: a table's rule names its field,
// text that cannot be kept is a fault, a connection that is lost is away.
func TestErrorsOfTheDatabaseInTheWordsOfTheHouse(t *testing.T) {
	t.Parallel()
	s, name := open(t)
	write := func(change func(k *noun.Kitchen)) error {
		return s.Write(t.Context(), "one", func(tx journal.Tx) error {
			k := *tx.Kitchen()
			change(&k)
			return tx.Save(&k)
		})
	}
	for want, change := range map[string]func(k *noun.Kitchen){
		"tempC":         func(k *noun.Kitchen) { k.TempC = 99 },
		"freezerPlaces": func(k *noun.Kitchen) { k.FreezerPlaces = -3 },
		"toWhite":       func(k *noun.Kitchen) { k.ToWhite = 999 },
	} {
		var f *fault.Fault
		if err := write(change); !errors.As(err, &f) || f.Field != want || f.Code != fault.OutOfRange {
			t.Errorf("%s: %v", want, err)
		}
	}
	var f *fault.Fault
	if err := write(func(k *noun.Kitchen) { k.Name = "a\x00b" }); !errors.As(err, &f) || f.Code != fault.Syntax {
		t.Errorf("NUL: %v", err)
	}
	if err := write(func(k *noun.Kitchen) { k.Name = "Elm Bench" }); err != nil {
		t.Errorf("after all that it is still written: %v", err)
	}
	// every connection is cut: the next one is made anew, or it says away
	if err := storetest.Exec(t, "postgres", "SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '"+name+"'"); err != nil {
		t.Fatal(err)
	}
	if err := write(func(k *noun.Kitchen) { k.Name = "Elm" }); err != nil && !errors.Is(err, journal.ErrAway) {
		t.Errorf("cut off: %v", err)
	}
	s.Close()
	if err := write(func(k *noun.Kitchen) { k.Name = "Elm" }); !errors.Is(err, journal.ErrAway) {
		t.Errorf("closed: %v", err)
	}
}
