-- +goose Up
-- A cutter has the outline that it cuts, and so may a piece; a hand may put pieces down on
-- the rolled sheet; a rolling machine has its own settings; a home-made mould is melted and
-- cast again; what is portioned on the scale is kept with its step.
ALTER TABLE tools ADD COLUMN outline jsonb NOT NULL DEFAULT '{}';
ALTER TABLE tools ADD COLUMN roller jsonb NOT NULL DEFAULT '{}';
ALTER TABLE tools ADD COLUMN "cast" jsonb NOT NULL DEFAULT '{}';
ALTER TABLE pieces ADD COLUMN outline jsonb NOT NULL DEFAULT '{}';
ALTER TABLE pieces ADD COLUMN laid jsonb NOT NULL DEFAULT '[]';
ALTER TABLE steps ADD COLUMN weighed jsonb;
ALTER TABLE steps ADD COLUMN clocked boolean NOT NULL DEFAULT false;
-- What hands took over the steps of a way of making, the latest first.
ALTER TABLE steps ADD COLUMN way text GENERATED ALWAYS AS (planned #>> '{kept,technique}') STORED;
CREATE INDEX steps_clocked ON steps (studio_id, way, actual_end DESC) WHERE clocked AND way IS NOT NULL;
