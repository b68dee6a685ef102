-- +goose Up
-- What the decorator's own thermometer says in boiling water: every stage of sugar lies as
-- much lower as this does.
ALTER TABLE studios ADD COLUMN boiling_c double precision CHECK (boiling_c BETWEEN 70 AND 105);
