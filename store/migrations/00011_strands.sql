-- +goose Up
-- A part-mixed piece says what lies beside its own colour: until now it was plain paste.
-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['pieces', 'pulses'] LOOP
        EXECUTE format('ALTER TABLE %I NO FORCE ROW LEVEL SECURITY', t);
    END LOOP;
END $$;
-- +goose StatementEnd
ALTER TABLE pieces ADD COLUMN strands jsonb NOT NULL DEFAULT '[]';
UPDATE pieces SET strands = '[{"colour": "", "swatch": "", "parts": 1}]' WHERE marbled;
ALTER TABLE pieces DROP COLUMN marbled;
UPDATE pulses SET wanted = wanted + 1;
-- +goose StatementBegin
DO $$
DECLARE t text;
BEGIN
    FOREACH t IN ARRAY ARRAY['pieces', 'pulses'] LOOP
        EXECUTE format('ALTER TABLE %I FORCE ROW LEVEL SECURITY', t);
    END LOOP;
END $$;
-- +goose StatementEnd
