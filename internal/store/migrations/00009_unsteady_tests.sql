-- +goose Up
-- How often an unsteady test that is put off has passed, and has to.
ALTER TABLE symptom ADD COLUMN still text NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE symptom DROP COLUMN still;
