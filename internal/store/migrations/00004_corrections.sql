-- +goose Up
-- What people said of where symptoms belong, in order. One that is undone stays
-- as a record.
CREATE TABLE correction (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    leg_id     bigint NOT NULL REFERENCES leg,
    kind       text NOT NULL CHECK (kind IN ('move', 'split', 'merge', 'pin')),
    symptoms   jsonb NOT NULL, -- identities
    given_up   text NOT NULL, -- of a merge and a split: the cause that they were of
    cause      text NOT NULL, -- that they belong to
    reason     text NOT NULL,
    author     text NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now(),
    undone_by  text,
    undone_at  timestamptz
);
CREATE INDEX correction_leg ON correction (leg_id, id);

ALTER TABLE cause ADD COLUMN steps jsonb NOT NULL DEFAULT '[]'; -- triage.Step
ALTER TABLE symptom ADD COLUMN because jsonb NOT NULL DEFAULT '{}'; -- cluster.Because: why it is of its cause

-- +goose Down
ALTER TABLE symptom DROP COLUMN because;
ALTER TABLE cause DROP COLUMN steps;
DROP TABLE correction;
