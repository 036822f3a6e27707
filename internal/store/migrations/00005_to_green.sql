-- +goose Up
-- Legs in their order: one is current, planned ones come later, what was
-- abandoned stays on record.
ALTER TABLE leg ADD COLUMN status text NOT NULL DEFAULT 'current' CHECK (status IN ('planned', 'current', 'done', 'abandoned'));
ALTER TABLE leg ADD COLUMN reason text NOT NULL DEFAULT ''; -- why it was ended

-- What a leg is measured against: runs of its own, or of the leg before it.
CREATE TABLE baseline (
    leg_id bigint NOT NULL REFERENCES leg,
    run_id bigint NOT NULL REFERENCES run,
    PRIMARY KEY (leg_id, run_id)
);
INSERT INTO baseline SELECT leg_id, id FROM run WHERE baseline;
ALTER TABLE run DROP COLUMN baseline;

ALTER TABLE run ADD COLUMN branch text NOT NULL DEFAULT '';
ALTER TABLE run ADD COLUMN diff text NOT NULL DEFAULT ''; -- digest of what was not committed

-- A picture that a person took while walking through the program.
CREATE TABLE picture (
    run_id  bigint NOT NULL REFERENCES run ON DELETE CASCADE,
    ordinal int NOT NULL,
    name    text NOT NULL,
    media   text NOT NULL,
    data    bytea NOT NULL,
    PRIMARY KEY (run_id, ordinal)
);

-- A commit of the project, with the causes that its message names and the run
-- that first stood on it or behind it.
CREATE TABLE git_commit (
    upgrade_id   bigint NOT NULL REFERENCES upgrade,
    id           text NOT NULL,
    subject      text NOT NULL,
    author       text NOT NULL,
    committed_at timestamptz NOT NULL,
    causes       jsonb NOT NULL,
    run          int NOT NULL,
    ordinal      int NOT NULL,
    PRIMARY KEY (upgrade_id, id)
);

-- What a person vouches for, by the key of a gate's reason or of a preparation.
CREATE TABLE word (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    leg_id     bigint NOT NULL REFERENCES leg,
    about      text NOT NULL,
    reason     text NOT NULL,
    author     text NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now(),
    undone_by  text,
    undone_at  timestamptz
);
CREATE UNIQUE INDEX word_about ON word (leg_id, about) WHERE undone_at IS NULL;

-- What is put off: by a decision on a cause, or in code.
CREATE TABLE debt (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    upgrade_id bigint NOT NULL REFERENCES upgrade,
    cause      text NOT NULL DEFAULT '',
    kind       text NOT NULL CHECK (kind IN ('deferred', 'waiting', 'workaround', 'suppression', 'skipped-test', 'shim')),
    text       text NOT NULL,
    due        text NOT NULL,
    file       text NOT NULL DEFAULT '',
    code       text NOT NULL DEFAULT '',
    author     text NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now(),
    settled_by text,
    settled_at timestamptz,
    settled    text NOT NULL DEFAULT '' -- how
);
CREATE INDEX debt_upgrade ON debt (upgrade_id);

-- Code, new since the baseline, that puts something off.
CREATE TABLE found_debt (
    leg_id  bigint NOT NULL REFERENCES leg,
    ordinal int NOT NULL,
    facts   jsonb NOT NULL, -- debt.Found
    PRIMARY KEY (leg_id, ordinal)
);

-- Settled causes that other teams handed on.
CREATE TABLE imported_case (
    digest     text PRIMARY KEY,
    facts      jsonb NOT NULL, -- casebook.Case
    created_at timestamptz NOT NULL DEFAULT now()
);

ALTER TABLE symptom ADD COLUMN silenced boolean NOT NULL DEFAULT false; -- its test is skipped or gone
ALTER TABLE decision DROP CONSTRAINT decision_outcome_check;
ALTER TABLE decision ADD CONSTRAINT decision_outcome_check CHECK (outcome IN ('', 'claimed', 'proved', 'disproved', 'returned'));
ALTER TABLE decision ADD COLUMN undone_by text;
ALTER TABLE decision ADD COLUMN undone_at timestamptz;
ALTER TABLE event ADD COLUMN author text NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE event DROP COLUMN author;
ALTER TABLE decision DROP COLUMN undone_by, DROP COLUMN undone_at;
UPDATE decision SET outcome = 'disproved' WHERE outcome = 'returned';
ALTER TABLE decision DROP CONSTRAINT decision_outcome_check;
ALTER TABLE decision ADD CONSTRAINT decision_outcome_check CHECK (outcome IN ('', 'claimed', 'proved', 'disproved'));
ALTER TABLE symptom DROP COLUMN silenced;
DROP TABLE imported_case, found_debt, debt, word, git_commit, picture;
ALTER TABLE run DROP COLUMN branch, DROP COLUMN diff;
ALTER TABLE run ADD COLUMN baseline boolean NOT NULL DEFAULT false;
UPDATE run SET baseline = true WHERE id IN (SELECT run_id FROM baseline);
DROP TABLE baseline;
ALTER TABLE leg DROP COLUMN status, DROP COLUMN reason;
