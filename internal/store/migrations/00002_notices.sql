-- +goose Up
-- How a run was made otherwise than its baseline, a sentence each.
ALTER TABLE run ADD COLUMN notices jsonb NOT NULL DEFAULT '[]';
-- The project's own patterns, as they were when the run was recorded.
ALTER TABLE run ADD COLUMN patterns jsonb NOT NULL DEFAULT '[]';
-- A row's input belongs to its run: one reference is enough to check, and with
-- hundreds of thousands of rows in a run each counts.
ALTER TABLE test_outcome DROP CONSTRAINT test_outcome_run_id_fkey;
ALTER TABLE occurrence DROP CONSTRAINT occurrence_run_id_fkey;

-- +goose Down
ALTER TABLE test_outcome ADD FOREIGN KEY (run_id) REFERENCES run ON DELETE CASCADE;
ALTER TABLE occurrence ADD FOREIGN KEY (run_id) REFERENCES run ON DELETE CASCADE;
ALTER TABLE run DROP COLUMN notices, DROP COLUMN patterns;
