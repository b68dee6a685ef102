-- +goose Up
-- A tool is of a kind, with the measures of that kind; a piece is made in a way
-- that data describes, with tools by their role, and may be made of parts. The
-- owner of the tables changes the rows of all studios this once.
-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['studios', 'tools', 'pieces', 'steps', 'journal', 'pulses'] LOOP
        EXECUTE format('ALTER TABLE %I NO FORCE ROW LEVEL SECURITY', t);
    END LOOP;
END $$;
-- +goose StatementEnd

ALTER TABLE tools
    ADD COLUMN kind      text NOT NULL DEFAULT 'cavityMould' CHECK (kind <> ''),
    ADD COLUMN measures  jsonb NOT NULL DEFAULT '{}',
    ADD COLUMN lent      integer NOT NULL DEFAULT 0 CHECK (lent >= 0),
    ADD COLUMN broken    integer NOT NULL DEFAULT 0 CHECK (broken >= 0);
UPDATE tools SET kind = CASE make WHEN 'lace' THEN 'laceMould' WHEN 'lip' THEN 'lippedMould' ELSE 'cavityMould' END,
    measures = jsonb_build_object('lengthMM', length_mm, 'widthMM', width_mm, 'depthMM', depth_mm) || CASE make
        WHEN 'lace' THEN jsonb_build_object('tips', 8)
        WHEN 'lip' THEN jsonb_build_object('windows', 12, 'bridgeMM', 2)
        ELSE jsonb_strip_nulls(jsonb_build_object('cavities', cavities, 'undercut', undercut::int, 'branching', branching::int, 'patterned', patterned::int,
            'openForm', 0, 'detailMM', detail_mm, 'fillSec', fill_minutes * 60)) END;
ALTER TABLE tools
    ALTER COLUMN kind DROP DEFAULT,
    ADD CHECK (lent + broken <= copies),
    DROP COLUMN make, DROP COLUMN length_mm, DROP COLUMN width_mm, DROP COLUMN depth_mm, DROP COLUMN detail_mm,
    DROP COLUMN undercut, DROP COLUMN patterned, DROP COLUMN branching, DROP COLUMN cavities, DROP COLUMN fill_minutes,
    DROP CONSTRAINT tools_shape_check,
    ADD CONSTRAINT tools_shape_check CHECK (shape IN ('', 'sheet', 'block', 'rod', 'ball', 'dome'));

-- What holds a curve stands in the drawer with the other tools.
INSERT INTO tools (studio_id, name, kind, shape, measures, chilled, copies)
    SELECT s.id, f ->> 'name', CASE WHEN f ->> 'name' ILIKE '%cup%' THEN 'cup' WHEN f ->> 'name' ILIKE '%dowel%' THEN 'dowel' WHEN f ->> 'name' ILIKE '%hook%' THEN 'hook' ELSE 'former' END,
        '', jsonb_build_object('places', least((f ->> 'count')::int, 100)), false, 1
    FROM studios s, jsonb_array_elements(s.formers) f WHERE f ->> 'name' <> '';
ALTER TABLE studios DROP COLUMN formers;

ALTER TABLE pieces RENAME COLUMN mould_id TO tool_id;
ALTER INDEX pieces_by_mould RENAME TO pieces_by_tool;
ALTER TABLE pieces
    ADD COLUMN technique  text NOT NULL DEFAULT '',
    ADD COLUMN tools      jsonb NOT NULL DEFAULT '{}',
    ADD COLUMN measures   jsonb NOT NULL DEFAULT '{}',
    ADD COLUMN ways       jsonb NOT NULL DEFAULT '{}',
    ADD COLUMN joins      jsonb NOT NULL DEFAULT '[]',
    DROP CONSTRAINT pieces_joined_check,
    ADD CONSTRAINT pieces_joined_check CHECK (joined IN ('', 'pliable', 'semiDry', 'dry', 'cold')),
    DROP CONSTRAINT pieces_support_check,
    ADD CONSTRAINT pieces_support_check CHECK (support IN ('', 'board', 'foam', 'cup', 'dowel', 'hook', 'rack'));

-- The step in which pieces come to be: that which can be counted and can break.
-- And that after which they are on the cake.
ALTER TABLE steps
    ADD COLUMN makes   boolean GENERATED ALWAYS AS (planned ? 'run') STORED,
    ADD COLUMN places  boolean GENERATED ALWAYS AS (coalesce((planned ->> 'places')::boolean, kind = 'putOn')) STORED,
    ADD COLUMN draws   boolean GENERATED ALWAYS AS (coalesce((planned ->> 'draws')::boolean, kind = 'knead')) STORED;
-- The plan is made anew: it follows what data says of each way of making.
INSERT INTO pulses (studio_id, wanted) SELECT id, 1 FROM studios ON CONFLICT (studio_id) DO UPDATE SET wanted = pulses.wanted + 1;

-- A way of making that a studio has made its own, copied from one of ours.
CREATE TABLE techniques (
    id            bigint GENERATED ALWAYS AS IDENTITY,
    studio_id     bigint NOT NULL DEFAULT NULLIF(current_setting('app.studio_id', true), '')::bigint REFERENCES studios (id),
    version       bigint NOT NULL DEFAULT 1,
    deleted_at    timestamptz,
    key           text NOT NULL CHECK (key <> ''),
    from_key      text NOT NULL DEFAULT '',
    from_version  integer NOT NULL DEFAULT 0,
    definition    jsonb NOT NULL,
    PRIMARY KEY (studio_id, id)
);
CREATE UNIQUE INDEX techniques_by_key ON techniques (studio_id, key) WHERE deleted_at IS NULL;
CREATE INDEX pieces_by_technique ON pieces (studio_id, technique) WHERE deleted_at IS NULL AND technique <> '';
-- +goose StatementBegin
DO $$
BEGIN
    ALTER TABLE techniques ENABLE ROW LEVEL SECURITY;
    ALTER TABLE techniques FORCE ROW LEVEL SECURITY;
    CREATE POLICY own_studio ON techniques USING (studio_id = NULLIF(current_setting('app.studio_id', true), '')::bigint)
        WITH CHECK (studio_id = NULLIF(current_setting('app.studio_id', true), '')::bigint);
    IF EXISTS (SELECT FROM pg_roles WHERE rolname = 'dustyfern_app') THEN
        GRANT SELECT, INSERT, UPDATE, DELETE ON techniques TO dustyfern_app;
    END IF;
END $$;
-- +goose StatementEnd

-- What the journal keeps of fields that are no more cannot be put back by itself;
-- what was said stays.
-- +goose StatementBegin
CREATE FUNCTION pg_temp.without(r jsonb) RETURNS jsonb LANGUAGE sql AS $$
    SELECT r || coalesce((SELECT jsonb_object_agg(k, CASE
            WHEN r ->> 'noun' = 'piece' AND r -> k ? 'mouldId' THEN (r -> k) - 'mouldId' || jsonb_build_object('toolId', r -> k -> 'mouldId')
            WHEN r ->> 'noun' = 'kitchen' THEN (r -> k) - 'formers'
            WHEN r ->> 'noun' = 'tool' THEN (r -> k) - ARRAY['make', 'lengthMM', 'widthMM', 'depthMM', 'detailMM', 'undercut', 'patterned', 'branching', 'cavities', 'fillMinutes']
            ELSE r -> k END)
        FROM unnest(ARRAY['before', 'after']) k WHERE jsonb_typeof(r -> k) = 'object'), '{}')
$$;
-- +goose StatementEnd
UPDATE journal SET rows = (SELECT jsonb_agg(pg_temp.without(r) ORDER BY place) FROM jsonb_array_elements(rows) WITH ORDINALITY AS x(r, place))
    WHERE rows <> '[]' AND EXISTS (SELECT FROM jsonb_array_elements(rows) r WHERE r ->> 'noun' IN ('tool', 'piece', 'kitchen'));

-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['studios', 'tools', 'pieces', 'steps', 'journal', 'pulses'] LOOP
        EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
    END LOOP;
END $$;
-- +goose StatementEnd
