package store

import (
	"database/sql"
	"encoding/json"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
)

func stepOf(r *stepRow) noun.Step { return r.Step }

func (t *tx) Steps(commission int64) ([]noun.Step, error) {
	return list(t.db.Where("commission_id = ?", commission).Order("coalesce(actual_start, planned_start), id"), stepOf)
}

func (t *tx) AllSteps() ([]noun.Step, error) {
	return list(t.db.Order("commission_id, coalesce(actual_start, planned_start), id"), stepOf)
}

func (t *tx) StepsNamed(ops []string) ([]noun.Step, error) {
	if len(ops) == 0 {
		return nil, nil
	}
	return list(t.db.Where("op IN ?", ops).Order("planned_start, id"), stepOf)
}

// near finds the batches that hands are at or come to next: whole batches, so
// that what follows from their facts can be derived.
const near = `WITH todo AS (
	SELECT batch, commission_id FROM steps WHERE attended AND actual_end IS NULL AND ` + openOnes + ` ORDER BY (actual_start IS NULL), planned_start, id LIMIT ?
), begun AS (
	SELECT s.batch FROM steps s WHERE s.attended AND s.actual_start IS NOT NULL AND s.` + openOnes + `
	AND NOT EXISTS (SELECT FROM steps p WHERE p.commission_id = s.commission_id AND p.op = s.after AND p.attended AND p.actual_end IS NOT NULL AND p.piece_id IS NULL)
)
SELECT * FROM steps WHERE batch IN (SELECT batch FROM todo UNION SELECT batch FROM begun) AND ` + openOnes + ` ORDER BY coalesce(actual_start, planned_start), id`

func (t *tx) StepsNear(most int) ([]noun.Step, error) {
	var rows []stepRow
	if err := t.db.Raw(near, most).Scan(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]noun.Step, len(rows))
	for i := range rows {
		out[i] = rows[i].Step
	}
	return out, nil
}

func (t *tx) StepsDone(most int) ([]noun.Step, error) {
	return list(t.db.Where("attended AND actual_end IS NOT NULL AND "+openOnes).Order("actual_end DESC, id DESC").Limit(most), stepOf)
}

// bare are the columns that progress is told by; thin are those and what the plan
// and the line take of what was planned, unpacked once a row.
const (
	bare = `SELECT s.id, s.version, s.commission_id, s.piece_id, s.op, s.kind, s.title, s.attended, s.planned_start, s.planned_end, s.actual_start, s.actual_end, coalesce(s.after, ''), coalesce(s.latest, ''), coalesce(s.makes, false), coalesce(s.places, false), coalesce(s.draws, false), CASE WHEN s.draws THEN coalesce((s.planned ->> 'share')::float8, 0) ELSE 0 END, CASE WHEN NOT s.attended THEN s.planned->'body' END, s.longer, s.tended`
	thin = `, coalesce(x.decides, false), coalesce(x.swatch, ''), coalesce(x."window", ''), coalesce(x.colour, ''), coalesce(x."cleanDown", 0), coalesce(x.name, ''), coalesce(x.part, 0), coalesce(x.parts, 0), coalesce(x.again, false), coalesce(x."slackMinutes", 0), x.hands, s.pinned, s.away
	FROM steps s, jsonb_to_record(s.planned) AS x(decides boolean, swatch text, "window" text, colour text, "cleanDown" int, name text, part int, parts int, again boolean, "slackMinutes" int, hands jsonb)`
	inOrder = ` ORDER BY coalesce(s.actual_start, s.planned_start), s.id`
)

// few reads steps as far as bare says, and thin when more is wanted.
func (t *tx) few(more bool, where string, args ...any) ([]noun.Step, error) {
	from := " FROM steps s"
	if more {
		from = thin
	}
	rows, err := t.db.Raw(bare+from+" WHERE "+where+inOrder, args...).Rows()
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []noun.Step
	for rows.Next() {
		var s noun.Step
		var piece sql.NullInt64
		var makes bool
		var body, longer, tended, hands, away []byte
		into := []any{&s.ID, &s.Version, &s.CommissionID, &piece, &s.Op, &s.Kind, &s.Title, &s.Attended, &s.PlannedStart, &s.PlannedEnd, &s.ActualStart, &s.ActualEnd, &s.Planned.After, &s.Planned.Latest, &makes, &s.Planned.Places, &s.Planned.Draws, &s.Planned.Share, &body, &longer, &tended}
		if more {
			into = append(into, &s.Planned.Decides, &s.Planned.Swatch, &s.Planned.Window, &s.Planned.Colour, &s.Planned.CleanDown, &s.Planned.Name, &s.Planned.Part, &s.Planned.Parts, &s.Planned.Again, &s.Planned.SlackMin, &hands, &s.Pinned, &away)
		}
		if err := rows.Scan(into...); err != nil {
			return nil, err
		}
		if makes { // that it makes pieces, not how
			s.Planned.Run = &noun.Run{}
		}
		for _, doc := range []struct {
			raw  []byte
			into any
		}{{body, &s.Planned.Body}, {longer, &s.Longer}, {tended, &s.Tended}, {hands, &s.Planned.Hands}, {away, &s.Away}} {
			if doc.raw == nil {
				continue
			}
			if err := json.Unmarshal(doc.raw, doc.into); err != nil {
				return nil, err
			}
		}
		if piece.Valid {
			s.PieceID = &piece.Int64
		}
		out = append(out, s)
	}
	return out, rows.Err()
}

func (t *tx) ThinSteps() ([]noun.Step, error) { return t.few(true, "s."+openOnes) }

func (t *tx) BareSteps(commissions []int64) ([]noun.Step, error) {
	if commissions == nil {
		return t.few(false, "s."+openOnes)
	}
	return t.few(false, "s.commission_id IN ?", commissions)
}

func (t *tx) ThinStepsWithin(from, to time.Time) ([]noun.Step, error) {
	return t.few(true, "s."+openOnes+" AND coalesce(s.actual_end, s.planned_end) >= ? AND coalesce(s.actual_start, s.planned_start) < ?", from, to)
}

func (t *tx) Presses(commissions []int64) ([]noun.Step, error) {
	return list(t.db.Where(`makes AND commission_id IN ? AND NOT EXISTS (SELECT FROM steps p WHERE p.commission_id = steps.commission_id AND p.places AND p.actual_end IS NOT NULL AND (p.piece_id IS NULL OR p.piece_id = steps.piece_id))`, commissions).Order("coalesce(actual_start, planned_start), id"), stepOf)
}

// piecesOfATool are the latest pieces by which a tool is known: what was years ago says
// little of the hands of today, and no more is read however long the tool is owned.
const piecesOfATool = 40

func (t *tx) BreakageIn(tools, apart []int64) (out []noun.Breakage, err error) {
	if len(tools) == 0 {
		return nil, nil
	}
	return out, t.db.Raw(`SELECT m.id AS tool, CASE WHEN p.id IN ? THEN p.id ELSE 0 END AS piece, p.technique, sum(s.made) AS made, sum(coalesce((SELECT sum((x->>'count')::int) FROM jsonb_array_elements(s.breaks) x), 0)) AS broken
		FROM tools m CROSS JOIN LATERAL (SELECT id, technique FROM pieces WHERE tool_id = m.id AND deleted_at IS NULL ORDER BY id DESC LIMIT ?) p
		JOIN steps s ON s.piece_id = p.id AND s.makes AND s.made > 0
		WHERE m.id IN ? GROUP BY 1, 2, 3 ORDER BY 1, 2, 3`, append(apart, 0), piecesOfATool, tools).Scan(&out).Error
}

func (t *tx) MadeWith(tool int64, most int) ([]noun.Step, error) {
	return list(t.db.Where("makes AND actual_end IS NOT NULL AND piece_id = ANY (ARRAY(SELECT id FROM pieces WHERE tool_id = ? AND deleted_at IS NULL))", tool).Order("actual_end DESC, id DESC").Limit(most), stepOf)
}

// clockedOfAWay are the latest steps by which the hands of a way of making are known: no
// more is read however long it is worked.
const clockedOfAWay = 80

func (t *tx) Clocked(ways []string) (out []noun.Clocked, err error) {
	if len(ways) == 0 {
		return nil, nil
	}
	return out, t.db.Raw(`SELECT w.way, s.op, s.usual, s.took, s.who FROM unnest(?::text[]) AS w(way) CROSS JOIN LATERAL (
			SELECT id, actual_end, planned #>> '{kept,op,op}' AS op, coalesce(who, '') AS who, extract(epoch FROM actual_end - actual_start) / 60 AS took,
				(planned #>> '{kept,op,minutes}')::float8 / coalesce(nullif((planned #>> '{kept,op,pace}')::float8, 0), 1)
				* CASE WHEN makes AND made > 0 AND (planned #>> '{kept,pieces}')::int > 0 THEN made::float8 / (planned #>> '{kept,pieces}')::int ELSE 1 END AS usual
			FROM steps WHERE way = w.way AND clocked AND actual_end > actual_start AND jsonb_exists(planned #> '{kept,op}', 'minutes')
			ORDER BY actual_end DESC, id DESC LIMIT ?) s ORDER BY w.way, s.actual_end DESC, s.id DESC`, textArray(ways), clockedOfAWay).Scan(&out).Error
}

func (t *tx) TakenSince(at time.Time, most int) ([]noun.Step, error) {
	return list(t.db.Select("op, commission_id, piece_id, actual_end, takes").Where("takes <> '[]' AND actual_end > ?", at).Order("actual_end DESC, id DESC").Limit(most), stepOf)
}

func (t *tx) Taken() ([]noun.Step, error) {
	return list(t.db.Select("op, piece_id, takes").Where("takes <> '[]' AND "+openOnes), stepOf)
}

func (t *tx) TakenFor(commission int64) ([]noun.Step, error) {
	return list(t.db.Select("op, piece_id, takes").Where("takes <> '[]' AND commission_id = ?", commission), stepOf)
}

func (t *tx) Step(op string) (noun.Step, error) { return take(t.db.Where("op = ?", op), stepOf) }

// ReplaceSteps drops some steps and puts others in; one that is there already
// stays as it is.
func (t *tx) ReplaceSteps(drop []string, steps []noun.Step) error {
	for len(drop) > 0 {
		n := min(len(drop), 1000)
		if err := t.db.Exec("DELETE FROM steps WHERE op IN ?", drop[:n]).Error; err != nil {
			return err
		}
		drop = drop[n:]
	}
	if len(steps) == 0 {
		return nil
	}
	rows := make([]stepRow, len(steps))
	for i := range steps {
		rows[i] = stepRow{steps[i]}
		rows[i].ID = 0
	}
	return t.db.Clauses(doNothing).CreateInBatches(rows, inBatches).Error
}

// SaveStep writes what happened of a step; its words stay as they were planned.
func (t *tx) SaveStep(s *noun.Step) error {
	r := stepRow{*s}
	was := r.Version
	r.Version++
	res := t.db.Model(&r).Where("id = ? AND version = ?", s.ID, was).Select("version", "actual_start", "actual_end", "planned_start", "planned_end", "fills", "breaks", "made", "takes", "longer", "weighed", "who", "clocked", "pinned", "away", "tended", "looked").Updates(&r)
	switch {
	case res.Error != nil:
		return res.Error
	case res.RowsAffected == 0:
		return journal.ErrStale
	}
	*s = r.Step
	return nil
}

// GiveBody writes what dries into a step that does not say it.
func (t *tx) GiveBody(op string, body *noun.Body) error {
	doc, err := json.Marshal(map[string]any{"body": body})
	if err != nil {
		return err
	}
	return t.db.Exec("UPDATE steps SET planned = planned || ?::jsonb WHERE op = ? AND planned -> 'body' IS NULL", string(doc), op).Error
}

func (t *tx) Timers() ([]noun.Timer, error) {
	return rows[noun.Timer](t.db.Where("kind = 'own' AND answered_at IS NULL AND deleted_at IS NULL").Order("rings_at, id"))
}

func (t *tx) Answers() ([]noun.Timer, error) {
	return rows[noun.Timer](t.db.Where("kind <> 'own' AND deleted_at IS NULL AND " + openOnes))
}
