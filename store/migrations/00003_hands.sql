-- +goose Up
-- Pieces that are pressed again because more broke than there were spares.
ALTER TABLE pieces ADD COLUMN extras jsonb NOT NULL DEFAULT '[]';
