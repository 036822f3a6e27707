-- +goose Up
-- Where a change touches the source tree of the leg's latest run.
CREATE TABLE exposure (
    leg_id bigint NOT NULL REFERENCES leg,
    change text NOT NULL,
    facts  jsonb NOT NULL, -- exposure.Found
    PRIMARY KEY (leg_id, change)
);

-- What people said of a change, in order; of each column the last word that is
-- not null holds. It survives that the document is read again.
CREATE TABLE change_word (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    leg_id     bigint NOT NULL REFERENCES leg,
    change     text NOT NULL,
    kind       text,  -- '' takes an earlier word back
    renames    jsonb, -- 'null' does
    state      text CHECK (state IN ('', 'not-used', 'exposed', 'handled', 'later')),
    reason     text NOT NULL,
    author     text NOT NULL,
    created_at timestamptz NOT NULL DEFAULT now()
);
CREATE INDEX change_word_leg ON change_word (leg_id, change, id);

-- +goose Down
DROP TABLE change_word, exposure;
