-- +goose Up
-- The owner of the tables is bound by their rules too, and changes the rows of
-- all studios this once.
-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['studios', 'tools', 'lots', 'commissions', 'pieces', 'steps', 'plans', 'journal', 'timers'] LOOP
        EXECUTE format('ALTER TABLE %I NO FORCE ROW LEVEL SECURITY', t);
    END LOOP;
END $$;
-- +goose StatementEnd

-- What follows from facts is derived when it is read: a wait begins when the
-- step before it ends, and its clocks with it. Only what a person did is kept.
UPDATE steps SET actual_start = NULL, actual_end = NULL WHERE NOT attended;
-- A step says by its own fields what it is about; no title is read back.
UPDATE steps s SET planned = s.planned || jsonb_build_object('name', p.name, 'part', split_part(s.op, '.', 2)::int,
    'again', split_part(s.op, '.', 2)::int > 100) FROM pieces p WHERE p.studio_id = s.studio_id AND p.id = s.piece_id AND s.op ~ '^p[0-9]+\.[0-9]{1,6}\.';
UPDATE steps s SET planned = s.planned || jsonb_build_object('parts', n.parts)
    FROM (SELECT studio_id, piece_id, count(DISTINCT split_part(op, '.', 2)) AS parts FROM steps WHERE piece_id IS NOT NULL AND op ~ '^p[0-9]+\.[0-9]{1,2}\.' GROUP BY 1, 2) n
    WHERE n.studio_id = s.studio_id AND n.piece_id = s.piece_id;
UPDATE steps s SET planned = s.planned || jsonb_build_object('name', c.title) FROM commissions c WHERE c.studio_id = s.studio_id AND c.id = s.commission_id AND s.piece_id IS NULL;
ALTER TABLE steps
    ADD COLUMN after  text GENERATED ALWAYS AS (planned ->> 'after') STORED,
    ADD COLUMN latest text GENERATED ALWAYS AS (planned ->> 'latest') STORED,
    ADD COLUMN batch  text GENERATED ALWAYS AS (regexp_replace(op, '\.[^.]*$', '')) STORED;
-- What is open is read by an index of what is open.
CREATE INDEX steps_to_do ON steps (studio_id, planned_start) WHERE attended AND actual_end IS NULL;
CREATE INDEX steps_begun ON steps (studio_id, commission_id) WHERE attended AND actual_start IS NOT NULL;
CREATE INDEX steps_done ON steps (studio_id, actual_end DESC) WHERE attended AND actual_end IS NOT NULL;
CREATE INDEX steps_by_batch ON steps (studio_id, batch);
CREATE INDEX steps_by_piece ON steps (studio_id, piece_id);
CREATE INDEX commissions_open ON commissions (studio_id) WHERE state = 'open' AND deleted_at IS NULL;
CREATE INDEX commissions_closed ON commissions (studio_id, state, hand_over DESC NULLS LAST, id DESC) WHERE state <> 'open' AND deleted_at IS NULL;
CREATE INDEX pieces_by_mould ON pieces (studio_id, mould_id) WHERE deleted_at IS NULL;

-- Clocks of waits follow from the waits; a row of another kind than own is the
-- answer to one of them.
UPDATE timers SET deleted_at = now() WHERE kind <> 'own' AND answered_at IS NULL AND deleted_at IS NULL;
DROP INDEX timers_open;
CREATE INDEX timers_open ON timers (studio_id, rings_at) WHERE kind = 'own' AND answered_at IS NULL AND deleted_at IS NULL;
CREATE INDEX timers_answered ON timers (studio_id, commission_id) WHERE kind <> 'own' AND deleted_at IS NULL;

-- A line of the journal keeps what changed, not the rows around it. touches
-- names the rows whose earlier states are asked for when two windows meet.
ALTER TABLE journal ADD COLUMN touches text[] NOT NULL DEFAULT '{}';
UPDATE journal SET touches = coalesce((SELECT array_agg(DISTINCT (r ->> 'noun') || ':' || (r ->> 'id')) FROM jsonb_array_elements(rows) r
    WHERE r ->> 'noun' NOT IN ('step', 'timer')), '{}') WHERE rows <> '[]';
DROP INDEX journal_by_row;
CREATE INDEX journal_by_touch ON journal USING gin (touches) WHERE touches <> '{}';
CREATE INDEX journal_bench_by_age ON journal (studio_id, at) WHERE bench;

-- Gels of a piece are lots, not names.
ALTER TABLE pieces ADD COLUMN gel_lots jsonb NOT NULL DEFAULT '[]';
UPDATE pieces p SET gel_lots = coalesce((SELECT jsonb_agg(l.id ORDER BY l.id) FROM lots l WHERE l.studio_id = p.studio_id AND l.kind = 'gel'
    AND l.deleted_at IS NULL AND l.name = ANY (string_to_array(p.gels, ' + '))), '[]') WHERE p.gels <> '';
ALTER TABLE pieces DROP COLUMN gels;

-- The pulse of a studio: told counts what its windows were told; the plan is due
-- while it was made from less than wanted.
CREATE TABLE pulses (
    studio_id  bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    told       bigint NOT NULL DEFAULT 0,
    wanted     bigint NOT NULL DEFAULT 0,
    made       bigint NOT NULL DEFAULT 0,
    PRIMARY KEY (studio_id)
);

-- A studio can be deleted, by whoever has entered it.
CREATE POLICY delete_studio ON studios FOR DELETE USING (id = NULLIF(current_setting('app.studio_id', true), '')::bigint);

-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    ALTER TABLE pulses ENABLE ROW LEVEL SECURITY;
    CREATE POLICY own_studio ON pulses USING (studio_id = NULLIF(current_setting('app.studio_id', true), '')::bigint)
        WITH CHECK (studio_id = NULLIF(current_setting('app.studio_id', true), '')::bigint);
    FOREACH t IN ARRAY ARRAY['studios', 'tools', 'lots', 'commissions', 'pieces', 'steps', 'plans', 'journal', 'timers', 'pulses'] LOOP
        EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
    END LOOP;
    IF EXISTS (SELECT FROM pg_roles WHERE rolname = 'dustyfern_app') THEN
        GRANT DELETE ON studios TO dustyfern_app;
        GRANT SELECT, INSERT, UPDATE, DELETE ON pulses TO dustyfern_app;
    END IF;
END $$;
-- +goose StatementEnd
