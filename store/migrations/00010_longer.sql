-- +goose Up
-- a press that goes on with more than was planned of it
ALTER TABLE steps ADD COLUMN longer jsonb;
