-- +goose Up
-- How a test ended in a run that does not name it: a closing summary counts it
-- as passed, or the source shows it skipped or gone.
ALTER TABLE test_outcome ADD COLUMN inferred boolean NOT NULL DEFAULT false;
ALTER TABLE test_outcome DROP CONSTRAINT test_outcome_outcome_check;
ALTER TABLE test_outcome ADD CONSTRAINT test_outcome_outcome_check CHECK (outcome IN ('passed', 'failed', 'skipped', 'gone'));

-- +goose Down
DELETE FROM test_outcome WHERE inferred OR outcome = 'gone';
ALTER TABLE test_outcome DROP CONSTRAINT test_outcome_outcome_check;
ALTER TABLE test_outcome ADD CONSTRAINT test_outcome_outcome_check CHECK (outcome IN ('passed', 'failed', 'skipped'));
ALTER TABLE test_outcome DROP COLUMN inferred;
