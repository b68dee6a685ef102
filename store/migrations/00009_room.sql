-- +goose Up
-- What was said of the room and when: what dries is reckoned through it.
ALTER TABLE studios ADD COLUMN room jsonb NOT NULL DEFAULT '[]';
