-- +goose Up
CREATE TABLE person (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    name       text NOT NULL UNIQUE,
    created_at timestamptz NOT NULL DEFAULT now()
);

-- What a person may do, in a project or, with the project '', in all of them.
CREATE TABLE person_role (
    person_id bigint NOT NULL REFERENCES person ON DELETE CASCADE,
    project   text NOT NULL,
    role      text NOT NULL CHECK (role IN ('reader', 'writer', 'admin')),
    PRIMARY KEY (person_id, project)
);

-- Of a token only its SHA-256 is kept.
CREATE TABLE token (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    person_id  bigint NOT NULL REFERENCES person ON DELETE CASCADE,
    name       text NOT NULL,
    hash       bytea NOT NULL UNIQUE,
    created_at timestamptz NOT NULL DEFAULT now(),
    ends_at    timestamptz,
    used_at    timestamptz,
    UNIQUE (person_id, name)
);

-- Consoles that are signed in, and keys that sign one in once. Without a person they are of
-- the user of the service's machine, whose name is kept.
CREATE TABLE session (
    hash      bytea PRIMARY KEY,
    person_id bigint REFERENCES person ON DELETE CASCADE,
    name      text NOT NULL,
    once      boolean NOT NULL,
    ends_at   timestamptz NOT NULL
);

-- What was done to the service itself: people, backups, deletions.
CREATE TABLE deed (
    id     bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    author text NOT NULL,
    text   text NOT NULL,
    at     timestamptz NOT NULL DEFAULT now()
);

-- +goose Down
DROP TABLE deed, session, token, person_role, person;
