-- +goose Up
-- Pieces of a mould that were weighed, the latest last: their mean sharpens the
-- weight that balls are aimed at.
ALTER TABLE tools ADD COLUMN weighings jsonb NOT NULL DEFAULT '[]';
