-- +goose Up
-- A step of hands may be pinned to a time, and be left for a while and gone on with; a
-- kitchen has times at which somebody cannot be at the bench, an address under which a
-- calendar reads the line, and minutes for a board that must be free of an allergen.
ALTER TABLE steps ADD COLUMN pinned timestamptz;
ALTER TABLE steps ADD COLUMN away jsonb;
ALTER TABLE studios ADD COLUMN busy jsonb NOT NULL DEFAULT '[]';
ALTER TABLE studios ADD COLUMN calendar_key text NOT NULL DEFAULT '';
ALTER TABLE studios ADD COLUMN to_free integer NOT NULL DEFAULT 20 CHECK (to_free BETWEEN 0 AND 240);
