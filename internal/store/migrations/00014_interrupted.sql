-- +goose Up
-- A run that was interrupted is read like any other, and counts for nothing: what it did not
-- get to say is not known.
ALTER TABLE run ADD COLUMN interrupted boolean NOT NULL DEFAULT false;
ALTER TABLE run DROP CONSTRAINT run_status_check;
ALTER TABLE run ADD CONSTRAINT run_status_check CHECK (status IN ('stored', 'processed', 'failed', 'interrupted'));

-- +goose Down
UPDATE run SET status = 'failed' WHERE status = 'interrupted';
ALTER TABLE run DROP CONSTRAINT run_status_check;
ALTER TABLE run ADD CONSTRAINT run_status_check CHECK (status IN ('stored', 'processed', 'failed'));
ALTER TABLE run DROP COLUMN interrupted;
