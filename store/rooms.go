package store

import (
	"encoding/json"
	"strings"
	"time"

	"dustyfern/craft/drying"
	"dustyfern/studio/noun"
)

// hoursRead is how many days of what was read are taken along with the kitchen: longer
// than nearly all that dries, and enough to know what is usual.
const hoursRead = 10

// around reads where things dry, what was read there lately, and what notes have taught,
// in one query.
const around = `SELECT
	(SELECT coalesce(jsonb_agg(jsonb_build_object('id', id, 'version', version, 'name', name, 'tempC', temp_c, 'rhPercent', rh_percent, 'airMS', air_ms, 'sensor', sensor, 'trays', trays, 'room', room) ORDER BY id), '[]') FROM racks WHERE deleted_at IS NULL) AS racks,
	(SELECT coalesce(jsonb_agg(jsonb_build_array(rack_id, extract(epoch FROM at)::bigint / 3600, round(temp_c::numeric, 2), round(rh_percent::numeric, 2), extract(epoch FROM last_at)::bigint) ORDER BY rack_id, at), '[]')
		FROM reading_hours WHERE n > 0 AND at > (SELECT max(at) FROM reading_hours) - make_interval(days => ?)) AS hours,
	(SELECT doc FROM beliefs) AS belief`

func (t *tx) lookAround() error {
	var row struct{ Racks, Hours, Belief []byte }
	if err := t.db.Raw(around, hoursRead).Scan(&row).Error; err != nil {
		return err
	}
	var a noun.Surroundings
	var hours [][5]float64
	if err := json.Unmarshal(row.Racks, &a.Racks); err != nil {
		return err
	}
	if err := json.Unmarshal(row.Hours, &hours); err != nil {
		return err
	}
	if row.Belief != nil {
		if err := json.Unmarshal(row.Belief, &a.Belief); err != nil {
			return err
		}
	}
	a.Hours = make([]noun.Hour, len(hours))
	for i, h := range hours {
		a.Hours[i] = noun.Hour{Rack: int64(h[0]), At: int64(h[1]), TempC: h[2], RHPercent: h[3], LastAt: int64(h[4])}
	}
	t.kitchen.Around = a
	return nil
}

// AddReadings keeps what was read of the air, one a minute and place, and sums up the hours
// that it belongs to. The same minute again replaces what stood there; an hour whose minutes
// are forgotten by now stays as it was summed up.
func (t *tx) AddReadings(all []noun.Reading) error {
	for len(all) > 0 {
		n := min(len(all), 5000)
		doc, err := json.Marshal(all[:n])
		if err != nil {
			return err
		}
		all = all[n:]
		const keep = `WITH given AS (
				SELECT DISTINCT ON (rack, minute) rack, date_trunc('minute', at) AS minute, "tempC", "rhPercent", coalesce(bad, false) AS bad
				FROM jsonb_to_recordset(?::jsonb) AS x(rack bigint, at timestamptz, "tempC" real, "rhPercent" real, bad boolean), date_trunc('minute', at) AS minute
				ORDER BY rack, minute, at DESC
			)
			INSERT INTO readings (rack_id, at, temp_c, rh_percent, bad) SELECT rack, minute, "tempC", "rhPercent", bad FROM given
			ON CONFLICT (studio_id, rack_id, at) DO UPDATE SET temp_c = excluded.temp_c, rh_percent = excluded.rh_percent, bad = excluded.bad`
		if err := t.db.Exec(keep, string(doc)).Error; err != nil {
			return err
		}
		const sum = `INSERT INTO reading_hours (rack_id, at, temp_c, rh_percent, low_rh, high_rh, n, bad, last_at)
			SELECT r.rack_id, h.hour, avg(r.temp_c) FILTER (WHERE NOT r.bad), avg(r.rh_percent) FILTER (WHERE NOT r.bad), min(r.rh_percent) FILTER (WHERE NOT r.bad), max(r.rh_percent) FILTER (WHERE NOT r.bad),
				count(*) FILTER (WHERE NOT r.bad), count(*) FILTER (WHERE r.bad), max(r.at) FILTER (WHERE NOT r.bad)
			FROM (SELECT DISTINCT rack, date_trunc('hour', at) AS hour FROM jsonb_to_recordset(?::jsonb) AS x(rack bigint, at timestamptz)) h
			JOIN readings r ON r.rack_id = h.rack AND r.at >= h.hour AND r.at < h.hour + interval '1 hour'
			GROUP BY 1, 2
			ON CONFLICT (studio_id, rack_id, at) DO UPDATE SET temp_c = excluded.temp_c, rh_percent = excluded.rh_percent, low_rh = excluded.low_rh, high_rh = excluded.high_rh, n = excluded.n, bad = excluded.bad, last_at = excluded.last_at
			WHERE excluded.n + excluded.bad >= reading_hours.n + reading_hours.bad`
		if err := t.db.Exec(sum, string(doc)).Error; err != nil {
			return err
		}
	}
	return t.lookAround()
}

// Strip is what was read of a place, summed up by steps of so many hours: at most as many
// points as a picture is wide, whatever was kept.
func (t *tx) Strip(rack int64, from, to time.Time, step time.Duration) (out []noun.Stretched, err error) {
	return out, t.db.Raw(`SELECT to_timestamp(floor(extract(epoch FROM at) / @step) * @step) AS at, sum(temp_c * n) / nullif(sum(n) FILTER (WHERE temp_c IS NOT NULL), 0) AS temp_c, sum(rh_percent * n) / nullif(sum(n) FILTER (WHERE rh_percent IS NOT NULL), 0) AS rh_percent,
			min(low_rh) AS low_rh, max(high_rh) AS high_rh, sum(n) AS n, sum(bad) AS bad
		FROM reading_hours WHERE rack_id = @rack AND at >= @from AND at < @to GROUP BY 1 ORDER BY 1`,
		map[string]any{"step": step.Seconds(), "rack": rack, "from": from, "to": to}).Scan(&out).Error
}

// ForgetMinutes drops what was read by the minute before an instant: the hours stay.
func (t *tx) ForgetMinutes(before time.Time) error {
	return t.db.Exec("DELETE FROM readings WHERE at < ?", before).Error
}

func (t *tx) KeepBelief(b *drying.Belief) error {
	doc, err := json.Marshal(b)
	if err != nil {
		return err
	}
	t.kitchen.Around.Belief = *b
	return t.db.Exec("INSERT INTO beliefs (doc) VALUES (?::jsonb) ON CONFLICT (studio_id) DO UPDATE SET doc = excluded.doc", string(doc)).Error
}

func (t *tx) TeachingNotes(most int) ([]noun.Note, error) {
	return rows[noun.Note](t.db.Where("deleted_at IS NULL AND model_hours > 0").Order("at DESC, id DESC").Limit(most))
}

func (t *tx) WorkNotes(most int) ([]noun.Note, error) {
	return rows[noun.Note](t.db.Where("deleted_at IS NULL AND NOT left_out AND (attacher <> '' OR what = 'remind')").Order("at DESC, id DESC").Limit(most))
}

func (t *tx) Causes(technique string) (map[string]int, error) {
	var found []struct {
		Cause string
		N     int
	}
	if err := t.db.Raw("SELECT cause, count(*) AS n FROM notes WHERE deleted_at IS NULL AND what = 'cause' AND technique = ? AND NOT left_out GROUP BY cause", technique).Scan(&found).Error; err != nil {
		return nil, err
	}
	out := map[string]int{}
	for _, f := range found {
		out[f.Cause] = f.N
	}
	return out, nil
}

func (t *tx) CausesLately(most int) ([]noun.Note, error) {
	return rows[noun.Note](t.db.Where("deleted_at IS NULL AND what = 'cause'").Order("at DESC, id DESC").Limit(most))
}

func (t *tx) FinishedNotes(commission int64, most int) ([]noun.Note, error) {
	return rows[noun.Note](t.db.Where("deleted_at IS NULL AND what = 'finished' AND commission_id = ?", commission).Order("at DESC, id DESC").Limit(most))
}

func (t *tx) NotesOf(ops []string) ([]noun.Note, error) {
	if len(ops) == 0 {
		return nil, nil
	}
	return rows[noun.Note](t.db.Where("deleted_at IS NULL AND op IN ?", ops).Order("at, id"))
}

func (t *tx) NotesOfPiece(name string, not int64, most int) ([]noun.Note, error) {
	return rows[noun.Note](t.db.Where("deleted_at IS NULL AND name = ? AND commission_id IS DISTINCT FROM ?", name, not).Order("at DESC, id DESC").Limit(most))
}

func (t *tx) Notes(find noun.NoteFind, skip, most int) ([]noun.Note, error) {
	q := t.db.Where("deleted_at IS NULL").Order("at DESC, id DESC").Offset(skip).Limit(most)
	for _, w := range find.Words {
		like := "%" + escapeLike(w) + "%"
		q = q.Where("(name ILIKE ? OR tool ILIKE ? OR says ILIKE ? OR what = ANY (?::text[]) OR paste = ANY (?::text[]))", like, like, like, textArray(find.Kinds[w]), textArray(find.Pastes[w]))
	}
	return rows[noun.Note](q)
}

// escapeLike lets a word stand for itself in LIKE.
func escapeLike(w string) string {
	return strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(w)
}

// MinutesByMonth sums hands and pieces of finished making steps by month, since an instant.
func (t *tx) MinutesByMonth(since time.Time) (out []noun.MonthOf, err error) {
	return out, t.db.Raw(`SELECT extract(year FROM actual_end)::int AS year, extract(month FROM actual_end)::int AS month, sum(extract(epoch FROM actual_end - actual_start)) / 60 AS minutes, sum(made)::int AS pieces
		FROM steps WHERE clocked AND makes AND made > 0 AND way IS NOT NULL AND actual_end > ? GROUP BY 1, 2 ORDER BY 1, 2`, since).Scan(&out).Error
}
