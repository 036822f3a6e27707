-- +goose Up
-- Causes that turned out to be one with another, or a part of one, by their names.
ALTER TABLE cause ADD COLUMN into_cause text NOT NULL DEFAULT '', ADD COLUMN from_cause text NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE cause DROP COLUMN into_cause, DROP COLUMN from_cause;
