-- +goose Up
-- What grows carries the upgrade's key first, so that PostgreSQL can part it by the hash of
-- the upgrade. What a run says is kept once for all places where it says so.
ALTER TABLE chunk ADD COLUMN upgrade_id bigint REFERENCES upgrade;
UPDATE chunk SET upgrade_id = l.upgrade_id FROM input i JOIN run r ON r.id = i.run_id JOIN leg l ON l.id = r.leg_id WHERE i.id = chunk.input_id;
ALTER TABLE chunk ALTER COLUMN upgrade_id SET NOT NULL, DROP CONSTRAINT chunk_pkey, ADD PRIMARY KEY (upgrade_id, input_id, ordinal);
DROP INDEX chunk_lines;
CREATE INDEX chunk_lines ON chunk (upgrade_id, input_id, first_line, last_line);

ALTER TABLE test_outcome ADD COLUMN upgrade_id bigint REFERENCES upgrade;
UPDATE test_outcome SET upgrade_id = l.upgrade_id FROM run r JOIN leg l ON l.id = r.leg_id WHERE r.id = test_outcome.run_id;
ALTER TABLE test_outcome ALTER COLUMN upgrade_id SET NOT NULL;
DROP INDEX test_outcome_run;
CREATE INDEX test_outcome_run ON test_outcome (upgrade_id, run_id);

ALTER TABLE symptom ADD COLUMN upgrade_id bigint REFERENCES upgrade;
UPDATE symptom SET upgrade_id = l.upgrade_id FROM leg l WHERE l.id = symptom.leg_id;
ALTER TABLE symptom ALTER COLUMN upgrade_id SET NOT NULL, DROP CONSTRAINT symptom_pkey, DROP CONSTRAINT symptom_leg_id_identity_key,
    ADD PRIMARY KEY (upgrade_id, id), ADD UNIQUE (upgrade_id, leg_id, identity);
DROP INDEX symptom_cause;
CREATE INDEX symptom_cause ON symptom (upgrade_id, cause_id);

ALTER TABLE event DROP CONSTRAINT event_pkey, ADD PRIMARY KEY (upgrade_id, id);
DROP INDEX event_upgrade;

-- One diagnostic of a run, as it was read.
CREATE TABLE finding (
    upgrade_id bigint NOT NULL REFERENCES upgrade,
    run_id     bigint NOT NULL REFERENCES run ON DELETE CASCADE,
    input_id   bigint NOT NULL REFERENCES input ON DELETE CASCADE,
    n          int NOT NULL,
    line       int NOT NULL,  -- of its first place
    test       text NOT NULL,
    identity   text NOT NULL, -- the symptom's that it is one of
    seen       int NOT NULL,  -- how often; not every place is kept
    facts      jsonb NOT NULL, -- symptom.Symptom
    PRIMARY KEY (upgrade_id, run_id, n)
);

CREATE TEMPORARY TABLE numbered ON COMMIT DROP AS
    SELECT l.upgrade_id, o.*, row_number() OVER (PARTITION BY o.run_id ORDER BY o.input_id, o.line) AS n
    FROM occurrence o JOIN run r ON r.id = o.run_id JOIN leg l ON l.id = r.leg_id;
INSERT INTO finding SELECT upgrade_id, run_id, input_id, n, line, coalesce(facts->>'test', ''), identity, 1, facts FROM numbered;
CREATE INDEX finding_identity ON finding (upgrade_id, identity);

-- A place of a finding.
DROP TABLE occurrence;
CREATE TABLE occurrence (
    upgrade_id bigint NOT NULL REFERENCES upgrade,
    run_id     bigint NOT NULL REFERENCES run ON DELETE CASCADE,
    n          int NOT NULL, -- the finding's
    line       int NOT NULL,
    end_line   int NOT NULL
);
INSERT INTO occurrence SELECT upgrade_id, run_id, n, line, end_line FROM numbered;
CREATE INDEX occurrence_finding ON occurrence (upgrade_id, run_id, n);

-- +goose Down
CREATE TEMPORARY TABLE old ON COMMIT DROP AS
    SELECT f.run_id, f.input_id, o.line, o.end_line, f.identity, f.facts FROM finding f JOIN occurrence o USING (upgrade_id, run_id, n);
DROP TABLE occurrence, finding;
CREATE TABLE occurrence (
    run_id   bigint NOT NULL REFERENCES run ON DELETE CASCADE,
    input_id bigint NOT NULL REFERENCES input ON DELETE CASCADE,
    line     int NOT NULL,
    end_line int NOT NULL,
    identity text NOT NULL,
    facts    jsonb NOT NULL
);
INSERT INTO occurrence SELECT * FROM old;
CREATE INDEX occurrence_run ON occurrence (run_id);
CREATE INDEX occurrence_place ON occurrence (input_id, line, (facts->>'test'));
CREATE INDEX occurrence_identity ON occurrence (identity, run_id);
ALTER TABLE event DROP CONSTRAINT event_pkey, ADD PRIMARY KEY (id);
CREATE INDEX event_upgrade ON event (upgrade_id, id);
DROP INDEX symptom_cause;
ALTER TABLE symptom DROP CONSTRAINT symptom_pkey, DROP CONSTRAINT symptom_upgrade_id_leg_id_identity_key, DROP COLUMN upgrade_id,
    ADD PRIMARY KEY (id), ADD UNIQUE (leg_id, identity);
CREATE INDEX symptom_cause ON symptom (cause_id);
DROP INDEX test_outcome_run;
ALTER TABLE test_outcome DROP COLUMN upgrade_id;
CREATE INDEX test_outcome_run ON test_outcome (run_id);
DROP INDEX chunk_lines;
ALTER TABLE chunk DROP CONSTRAINT chunk_pkey, DROP COLUMN upgrade_id, ADD PRIMARY KEY (input_id, ordinal);
CREATE INDEX chunk_lines ON chunk (input_id, first_line, last_line);
