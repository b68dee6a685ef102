-- +goose Up
-- What comes on to a piece and how it goes on the cake is kept with the piece; what is settled
-- before an order leaves the house with the order; what a failure was, what is to be
-- remembered and which joins held with the notes.
ALTER TABLE pieces ADD COLUMN finish jsonb NOT NULL DEFAULT '{}';
ALTER TABLE pieces ADD COLUMN goes jsonb NOT NULL DEFAULT '{}';
ALTER TABLE steps ADD COLUMN looked jsonb;
ALTER TABLE commissions ADD COLUMN leaves jsonb NOT NULL DEFAULT '{}';
ALTER TABLE notes ADD COLUMN symptoms jsonb;
ALTER TABLE notes ADD COLUMN cause text NOT NULL DEFAULT '';
ALTER TABLE notes ADD COLUMN target text NOT NULL DEFAULT '';
ALTER TABLE notes ADD COLUMN attacher text NOT NULL DEFAULT '';
ALTER TABLE notes ADD COLUMN load double precision NOT NULL DEFAULT 0;
ALTER TABLE notes ADD COLUMN per_cm2 boolean NOT NULL DEFAULT false;
CREATE INDEX notes_of_causes ON notes (studio_id, technique) WHERE deleted_at IS NULL AND what = 'cause';
CREATE INDEX notes_of_causes_by_time ON notes (studio_id, at DESC, id DESC) WHERE deleted_at IS NULL AND what = 'cause';
CREATE INDEX notes_at_work ON notes (studio_id, at DESC, id DESC) WHERE deleted_at IS NULL AND (attacher <> '' OR what = 'remind');
CREATE INDEX notes_of_orders ON notes (studio_id, commission_id, at DESC) WHERE deleted_at IS NULL AND what = 'finished';

-- +goose Down
DROP INDEX notes_of_orders;
DROP INDEX notes_at_work;
DROP INDEX notes_of_causes_by_time;
DROP INDEX notes_of_causes;
ALTER TABLE notes DROP COLUMN per_cm2, DROP COLUMN load, DROP COLUMN attacher, DROP COLUMN target, DROP COLUMN cause, DROP COLUMN symptoms;
ALTER TABLE commissions DROP COLUMN leaves;
ALTER TABLE steps DROP COLUMN looked;
ALTER TABLE pieces DROP COLUMN goes, DROP COLUMN finish;
