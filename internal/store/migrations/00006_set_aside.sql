-- +goose Up
-- Why a document takes no part in any analysis; '' for one that does.
ALTER TABLE notes ADD COLUMN problem text NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE notes DROP COLUMN problem;
