-- +goose Up
-- What was said of the room and when: what dries is reckoned through it. A label says
-- apart what a lot holds, what it may contain, and what guests ask about besides; it
-- was read, or not yet. Who eats says the same words.
-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['studios', 'lots', 'commissions', 'journal', 'pulses'] LOOP
        EXECUTE format('ALTER TABLE %I NO FORCE ROW LEVEL SECURITY', t);
    END LOOP;
END $$;
-- +goose StatementEnd
ALTER TABLE studios
    ADD COLUMN room jsonb NOT NULL DEFAULT '[]',
    ADD COLUMN washed_at timestamptz;
ALTER TABLE lots RENAME COLUMN allergens TO holds;
ALTER TABLE lots
    ADD COLUMN may jsonb NOT NULL DEFAULT '[]',
    ADD COLUMN asks jsonb NOT NULL DEFAULT '[]',
    ADD COLUMN label_read boolean NOT NULL DEFAULT false;
UPDATE lots SET label_read = holds <> '[]',
    asks = coalesce((SELECT jsonb_agg(x) FROM jsonb_array_elements(holds) x WHERE x #>> '{}' IN ('maize', 'citrus', 'gelatine', 'colourings')), '[]'),
    holds = coalesce((SELECT jsonb_agg(x) FROM jsonb_array_elements(holds) x WHERE x #>> '{}' NOT IN ('maize', 'citrus', 'gelatine', 'colourings')), '[]');
ALTER TABLE commissions
    ADD COLUMN without jsonb NOT NULL DEFAULT '[]',
    ADD COLUMN at_risk jsonb NOT NULL DEFAULT '[]';
UPDATE commissions SET without = coalesce((SELECT jsonb_agg(x) FROM jsonb_array_elements(allergies) x WHERE x #>> '{}' IN ('maize', 'citrus', 'colourings')), '[]')
        || CASE WHEN no_alcohol THEN '["alcohol"]'::jsonb ELSE '[]' END
        || CASE WHEN no_gelatine OR allergies ? 'gelatine' THEN '["gelatine"]'::jsonb ELSE '[]' END,
    allergies = coalesce((SELECT jsonb_agg(x) FROM jsonb_array_elements(allergies) x WHERE x #>> '{}' NOT IN ('maize', 'citrus', 'gelatine', 'colourings')), '[]');
ALTER TABLE commissions DROP COLUMN no_alcohol, DROP COLUMN no_gelatine;
-- Lines of the journal that changed what is named otherwise now keep the rest of it.
-- +goose StatementBegin
CREATE FUNCTION pg_temp.unnamed(r jsonb) RETURNS jsonb LANGUAGE sql AS $$
    SELECT r || coalesce((SELECT jsonb_object_agg(k, (r -> k) - ARRAY['allergens', 'noAlcohol', 'noGelatine', 'allergies'])
        FROM unnest(ARRAY['before', 'after']) k WHERE jsonb_typeof(r -> k) = 'object'), '{}')
$$;
-- +goose StatementEnd
UPDATE journal SET rows = (SELECT jsonb_agg(pg_temp.unnamed(r) ORDER BY place) FROM jsonb_array_elements(rows) WITH ORDINALITY AS x(r, place))
    WHERE rows <> '[]' AND EXISTS (SELECT FROM jsonb_array_elements(rows) r WHERE r ->> 'noun' IN ('lot', 'commission'));
-- who finished a step
ALTER TABLE steps ADD COLUMN who text NOT NULL DEFAULT '';
-- what lay on the board since it was washed
CREATE INDEX steps_that_took ON steps (studio_id, actual_end) WHERE takes <> '[]';
-- steps say who eats: every plan is made anew
INSERT INTO pulses (studio_id, wanted) SELECT id, 1 FROM studios ON CONFLICT (studio_id) DO UPDATE SET wanted = pulses.wanted + 1;
-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['studios', 'lots', 'commissions', 'journal', 'pulses'] LOOP
        EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
    END LOOP;
END $$;
-- +goose StatementEnd
