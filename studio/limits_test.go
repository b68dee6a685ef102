package studio_test

import (
	"errors"
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"github.com/jackc/pgx/v5"

	"dustyfern/craft/fault"
	"dustyfern/store/storetest"
	"dustyfern/studio"
	"dustyfern/studio/document"
	"dustyfern/studio/journal"
)

var (
	between = regexp.MustCompile(`\(?(\w+)\)?(?:::\w+)? >= \(?(-?[\d.e]+)\)?(?:::[\w ]+)?\)+ AND \(+(\w+)\)?(?:::\w+)? <= \(?(-?[\d.e+]+)\)?`)
	joint   = regexp.MustCompile(`_([a-z])`)
)

// TestLimitsAreOne: each number that a table limits has the same limit in its
// reader. At a limit it is saved or refused for another reason beside its own
// field; beyond it the reader says what would be right, and the table is not
// asked.
func TestLimitsAreOne(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, nil)
	lot := h.lot("Green", "gel", "30 g", set{"swatch": "#2E7D32"})
	conn, err := pgx.Connect(t.Context(), storetest.OwnerDSN(storetest.Database(t)))
	h.ok(err)
	defer conn.Close(t.Context())
	rows, err := conn.Query(t.Context(), `SELECT conrelid::regclass::text, pg_get_constraintdef(oid) FROM pg_constraint WHERE contype = 'c' AND connamespace = 'public'::regnamespace ORDER BY 1, 2`)
	h.ok(err)
	type limit struct{ table, column, low, high string }
	var all []limit
	for rows.Next() {
		var table, rule string
		h.ok(rows.Scan(&table, &rule))
		if x := between.FindStringSubmatch(rule); x != nil {
			all = append(all, limit{table, x[1], x[2], x[4]})
		}
	}
	h.ok(rows.Err())
	save := map[string]func(name, text string) error{
		"studios": func(name, text string) error {
			k, err := h.Kitchen(t.Context(), h.slug)
			h.ok(err)
			_, err = h.ChangeKitchen(t.Context(), h.slug, journal.ChangeIn{Version: k.Row.Version, Set: set{name: text}})
			return err
		},
		"tools":       func(name, text string) error { return h.set(studio.KindTool, m, set{name: text}) },
		"lots":        func(name, text string) error { return h.set(studio.KindLot, lot, set{name: text}) },
		"commissions": func(name, text string) error { return h.set(studio.KindCommission, o, set{name: text}) },
		"pieces":      func(name, text string) error { return h.set(studio.KindPiece, p, set{name: text}) },
	}
	// numbers that nobody types, and the fields whose name is not that of the column
	notTyped := map[string]bool{"pieces.peg_percent": true, "pieces.trial_low_g": true, "pieces.trial_high_g": true, "lots.owes_g": true, "lots.half_time_hours": true, "lots.deepening": true, "pieces.position": true}
	named := map[string]string{"pieces.trial_g": "trial"}
	tried := 0
	for _, l := range all {
		put := save[l.table]
		if put == nil || notTyped[l.table+"."+l.column] {
			continue
		}
		name := named[l.table+"."+l.column]
		if name == "" {
			name = joint.ReplaceAllStringFunc(l.column, func(s string) string { return strings.ToUpper(s[1:]) })
			if cut, ok := strings.CutSuffix(name, "Mm"); ok {
				name = cut + "MM"
			}
			if cut, ok := strings.CutSuffix(name, "Ml"); ok {
				name = cut + "ML"
			}
		}
		unit := ""
		switch {
		case strings.HasSuffix(l.column, "_g"):
			unit = " g"
		case strings.HasSuffix(l.column, "_ml"):
			unit = " ml"
		case strings.HasSuffix(l.column, "_mm"):
			unit = " mm"
		case strings.HasSuffix(l.column, "_minutes") || strings.HasPrefix(l.column, "to_") || strings.HasPrefix(l.column, "knead_") || strings.HasPrefix(l.column, "put_on_"):
			unit = " min"
		case strings.HasSuffix(l.column, "_percent"):
			unit = " %"
		case l.column == "temp_c":
			unit = " °C"
		}
		low, err1 := strconv.ParseFloat(l.low, 64)
		high, err2 := strconv.ParseFloat(l.high, 64)
		if err1 != nil || err2 != nil {
			t.Fatalf("%+v", l)
		}
		if l.column == "confidence" {
			low, high, unit = low*100, high*100, " %"
		}
		step := max(1, high/1000)
		for _, x := range []struct {
			v     float64
			takes bool
		}{{low, true}, {high, true}, {high + step, false}, {low - step, false}} {
			text := strconv.FormatFloat(x.v, 'f', -1, 64) + unit
			err := put(name, text)
			var f *fault.Fault
			switch {
			case err == nil && x.takes:
				// what a form takes goes out and comes in again
				if _, err := document.ReadDocument(h.export(h.slug)); err != nil {
					t.Errorf("%s.%s: %s goes out and does not come in: %v", l.table, name, text, err)
				}
			case err == nil:
				t.Errorf("%s.%s: %s is beyond %v to %v, and was taken", l.table, name, text, low, high)
			case !errors.As(err, &f):
				t.Errorf("%s.%s: %s ended with %v", l.table, name, text, err)
			case strings.Contains(f.Message, "beyond what can be kept") || strings.Contains(f.Message, "no field"):
				t.Errorf("%s.%s: %s was left to the table: %s", l.table, name, text, f.Message)
			case f.Field != name:
				t.Errorf("%s.%s: %s is refused beside %q: %s", l.table, name, text, f.Field, f.Message)
			case x.takes && f.Code == fault.OutOfRange && !strings.Contains(fmt.Sprint(f.Message), " to "):
				t.Logf("%s.%s: %s: %s", l.table, name, text, f.Message)
			}
		}
		tried++
	}
	h.must(studio.KindLot, lot, set{"massG": "0 g"}) // used up
	if _, err := h.Import(t.Context(), h.export(h.slug)); err != nil {
		t.Errorf("used up, it does not come back: %v", err)
	}
	if tried < 25 {
		t.Errorf("only %d limits of %d were tried", tried, len(all))
	}
}
