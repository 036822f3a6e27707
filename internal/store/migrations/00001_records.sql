-- +goose Up
CREATE TABLE project (
    id   bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    name text NOT NULL UNIQUE
);

CREATE TABLE upgrade (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    project_id bigint NOT NULL REFERENCES project,
    name       text NOT NULL,
    runs       int NOT NULL DEFAULT 0, -- the highest run number given
    created_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (project_id, name)
);

CREATE TABLE leg (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    upgrade_id bigint NOT NULL REFERENCES upgrade,
    number     int NOT NULL,
    UNIQUE (upgrade_id, number)
);

-- What a leg moves: a package or toolchain from one version to another.
CREATE TABLE move (
    leg_id       bigint NOT NULL REFERENCES leg,
    ordinal      int NOT NULL,
    package      text NOT NULL,
    from_version text NOT NULL,
    to_version   text NOT NULL,
    PRIMARY KEY (leg_id, ordinal)
);

CREATE TABLE "check" (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    upgrade_id bigint NOT NULL REFERENCES upgrade,
    name       text NOT NULL,
    required   boolean NOT NULL DEFAULT true,
    UNIQUE (upgrade_id, name)
);

-- A source tree as a zip, once for all runs that had it.
CREATE TABLE source (
    digest text PRIMARY KEY,
    data   bytea NOT NULL
);

CREATE TABLE run (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    leg_id     bigint NOT NULL REFERENCES leg,
    check_id   bigint NOT NULL REFERENCES "check",
    number     int,  -- given, like the digest, once all of it is stored
    digest     text, -- of everything that was sent
    command    text NOT NULL,
    commit_id  text NOT NULL,
    subject    text NOT NULL,
    dirty      boolean NOT NULL,
    exit       int NOT NULL,
    started_at timestamptz NOT NULL,
    millis     bigint NOT NULL,
    versions   jsonb NOT NULL,
    source     text REFERENCES source,
    status     text NOT NULL DEFAULT 'stored' CHECK (status IN ('stored', 'processed', 'failed')),
    problem    text NOT NULL DEFAULT '',
    baseline   boolean NOT NULL DEFAULT false,
    reach      jsonb NOT NULL DEFAULT '{}',
    symptoms   int NOT NULL DEFAULT 0,
    delta      jsonb,
    created_at timestamptz NOT NULL DEFAULT now(),
    UNIQUE (leg_id, number),
    UNIQUE (leg_id, digest)
);

CREATE TABLE input (
    id      bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    run_id  bigint NOT NULL REFERENCES run ON DELETE CASCADE,
    ordinal int NOT NULL,
    name    text NOT NULL,
    bytes   bigint NOT NULL DEFAULT 0,
    lines   int NOT NULL DEFAULT 0,
    format  text NOT NULL DEFAULT '',
    tools   jsonb NOT NULL DEFAULT '[]',
    problem text NOT NULL DEFAULT '',
    stated  jsonb NOT NULL DEFAULT '[]',
    unread  jsonb NOT NULL DEFAULT '[]',
    UNIQUE (run_id, ordinal)
);

-- Raw output, zstd-compressed. A chunk ends at a line's end where it can; one
-- that continues a line starts in the middle of first_line.
CREATE TABLE chunk (
    input_id   bigint NOT NULL REFERENCES input ON DELETE CASCADE,
    ordinal    int NOT NULL,
    first_line int NOT NULL,
    last_line  int NOT NULL,
    data       bytea NOT NULL,
    PRIMARY KEY (input_id, ordinal)
);
CREATE INDEX chunk_lines ON chunk (input_id, first_line, last_line);

CREATE TABLE cause (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    leg_id    bigint NOT NULL REFERENCES leg,
    name      text NOT NULL, -- C1, C2, …
    signature text NOT NULL,
    title     text NOT NULL,
    kind      text NOT NULL,
    phase     text NOT NULL,
    package   text NOT NULL,
    root      text NOT NULL, -- a symptom's identity
    rank      int NOT NULL,
    reason    text NOT NULL,
    because   jsonb NOT NULL,
    known     boolean NOT NULL,
    status    text NOT NULL CHECK (status IN ('shown', 'hidden', 'cleared')),
    first_run int NOT NULL,
    since_run int NOT NULL,
    UNIQUE (leg_id, name)
);

CREATE TABLE symptom (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    leg_id    bigint NOT NULL REFERENCES leg,
    identity  text NOT NULL,
    cause_id  bigint REFERENCES cause,
    follower  boolean NOT NULL DEFAULT false,
    state     text NOT NULL,
    status    text NOT NULL CHECK (status IN ('shown', 'hidden', 'cleared')),
    origin    text NOT NULL,
    first_run int NOT NULL,
    last_run  int NOT NULL,
    checks    jsonb NOT NULL, -- names of the checks that have shown it
    facts     jsonb NOT NULL, -- symptom.Symptom
    UNIQUE (leg_id, identity)
);
CREATE INDEX symptom_cause ON symptom (cause_id);

-- One diagnostic in one run, as it was read.
CREATE TABLE occurrence (
    run_id   bigint NOT NULL REFERENCES run ON DELETE CASCADE,
    input_id bigint NOT NULL REFERENCES input ON DELETE CASCADE,
    line     int NOT NULL,
    end_line int NOT NULL,
    identity text NOT NULL, -- the symptom's, within the run
    facts    jsonb NOT NULL -- symptom.Symptom
);
CREATE INDEX occurrence_run ON occurrence (run_id);
CREATE INDEX occurrence_place ON occurrence (input_id, line, (facts->>'test'));
CREATE INDEX occurrence_identity ON occurrence (identity, run_id);

CREATE TABLE test_outcome (
    run_id   bigint NOT NULL REFERENCES run ON DELETE CASCADE,
    input_id bigint NOT NULL REFERENCES input ON DELETE CASCADE,
    suite    text NOT NULL,
    name     text NOT NULL,
    outcome  text NOT NULL CHECK (outcome IN ('passed', 'failed', 'skipped')),
    seconds  double precision NOT NULL
);
CREATE INDEX test_outcome_run ON test_outcome (run_id);

-- How many symptoms of a cause a run left shown and hidden.
CREATE TABLE life (
    cause_id bigint NOT NULL REFERENCES cause,
    run      int NOT NULL,
    shown    int NOT NULL,
    hidden   int NOT NULL,
    PRIMARY KEY (cause_id, run)
);

CREATE TABLE notes (
    id      bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    leg_id  bigint NOT NULL REFERENCES leg,
    name    text NOT NULL,
    package text NOT NULL,
    text    text NOT NULL,
    UNIQUE (leg_id, name, package)
);

CREATE TABLE change (
    notes_id bigint NOT NULL REFERENCES notes ON DELETE CASCADE,
    identity text NOT NULL,
    line     int NOT NULL,
    facts    jsonb NOT NULL, -- triage.Change
    PRIMARY KEY (notes_id, identity)
);
CREATE INDEX change_identity ON change (identity);

-- Evidence and score come from the latest analysis; state comes from people
-- and is never changed by an analysis.
CREATE TABLE link (
    cause_id bigint NOT NULL REFERENCES cause,
    change   text NOT NULL,
    score    double precision NOT NULL,
    because  jsonb NOT NULL,
    state    text NOT NULL DEFAULT 'proposed' CHECK (state IN ('proposed', 'confirmed', 'rejected')),
    author   text NOT NULL DEFAULT '',
    PRIMARY KEY (cause_id, change)
);

CREATE TABLE decision (
    id          bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    cause_id    bigint NOT NULL REFERENCES cause,
    kind        text NOT NULL CHECK (kind IN ('fix', 'defer', 'accept', 'wait', 'dismiss')),
    reason      text NOT NULL,
    due         text NOT NULL,
    commit_id   text NOT NULL,
    author      text NOT NULL,
    after_run   int NOT NULL, -- the upgrade's latest run when it was made
    outcome     text NOT NULL DEFAULT '' CHECK (outcome IN ('', 'claimed', 'proved', 'disproved')),
    outcome_run int NOT NULL DEFAULT 0,
    created_at  timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX decision_cause ON decision (cause_id);

-- Everything that happened, in order; what followers of an upgrade are sent.
CREATE TABLE event (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    upgrade_id bigint NOT NULL REFERENCES upgrade,
    kind       text NOT NULL,
    run        int NOT NULL DEFAULT 0,
    cause      text NOT NULL DEFAULT '',
    text       text NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX event_upgrade ON event (upgrade_id, id);

-- +goose Down
DROP TABLE event, decision, link, change, notes, life, test_outcome, occurrence, symptom, cause, chunk, input, run, source, "check", move, leg, upgrade, project;
