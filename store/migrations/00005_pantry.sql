-- +goose Up
-- The pantry in full: what a lot is kept for, how it felt, and what was taken
-- beyond what was written down. Stock itself never goes below nothing.
ALTER TABLE lots
    ADD COLUMN best_before       date,
    ADD COLUMN kept              text NOT NULL DEFAULT '',
    ADD COLUMN pack_g            double precision CHECK (pack_g BETWEEN 0.01 AND 50000),
    ADD COLUMN leftover          boolean NOT NULL DEFAULT false,
    ADD COLUMN owes_g            double precision NOT NULL DEFAULT 0 CHECK (owes_g >= 0),
    ADD COLUMN strength_percent  double precision CHECK (strength_percent BETWEEN 0 AND 10),
    ADD COLUMN deepening         double precision CHECK (deepening BETWEEN 0 AND 5),
    ADD COLUMN half_time_hours   double precision CHECK (half_time_hours BETWEEN 0.1 AND 100),
    ADD COLUMN drop_g            double precision CHECK (drop_g BETWEEN 0.001 AND 1),
    ADD COLUMN felt              jsonb NOT NULL DEFAULT '[]',
    ADD COLUMN mixes             jsonb NOT NULL DEFAULT '[]';

-- What a step took out of the pantry: it is given back when the step is.
ALTER TABLE steps ADD COLUMN takes jsonb NOT NULL DEFAULT '[]';

-- How a piece comes to its colour: gels by name, or tubs that are left.
ALTER TABLE pieces
    ADD COLUMN gels         text NOT NULL DEFAULT '',
    ADD COLUMN colour_from  text NOT NULL DEFAULT '' CHECK (colour_from IN ('', 'gels', 'leftovers', 'asItIs')),
    ADD COLUMN marbled      boolean NOT NULL DEFAULT false;

-- Grams of what people count by the packet, and the drop of a bottle nobody
-- has weighed.
ALTER TABLE studios
    ADD COLUMN unit_grams  jsonb NOT NULL DEFAULT '{}',
    ADD COLUMN spoon_grams jsonb NOT NULL DEFAULT '{}',
    ADD COLUMN drop_g      double precision NOT NULL DEFAULT 0.045 CHECK (drop_g BETWEEN 0.001 AND 1),
    ADD COLUMN dab_g       double precision NOT NULL DEFAULT 0.015 CHECK (dab_g BETWEEN 0.0001 AND 1),
    ADD COLUMN sides       jsonb NOT NULL DEFAULT '{}',
    ADD COLUMN mix_with    text NOT NULL DEFAULT '' CHECK (mix_with IN ('', 'flowerPaste', 'modellingPaste'));

-- A level teaspoon of each powder, not of one. The owner of the tables is bound
-- by their rules too, and changes the rows of all studios this once.
ALTER TABLE studios NO FORCE ROW LEVEL SECURITY;
UPDATE studios SET spoon_grams = jsonb_build_object(powder, grams_per_tsp) WHERE grams_per_tsp IS NOT NULL;
ALTER TABLE studios FORCE ROW LEVEL SECURITY;
ALTER TABLE studios DROP COLUMN grams_per_tsp;
