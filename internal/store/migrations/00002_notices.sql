-- +goose Up
-- How a run was made otherwise than its baseline, a sentence each.
ALTER TABLE run ADD COLUMN notices jsonb NOT NULL DEFAULT '[]';
-- The project's own patterns, as they were when the run was recorded.
ALTER TABLE run ADD COLUMN patterns jsonb NOT NULL DEFAULT '[]';
CREATE INDEX test_outcome_name ON test_outcome (suite, name, run_id);

-- +goose Down
DROP INDEX test_outcome_name;
ALTER TABLE run DROP COLUMN notices, DROP COLUMN patterns;
