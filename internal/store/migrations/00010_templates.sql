-- +goose Up
-- Edits that were learnt from code before and after, for the change that asks for
-- them. One without an upgrade was handed on.
CREATE TABLE template (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    upgrade_id bigint REFERENCES upgrade,
    change     text NOT NULL, -- its identity, which is that of its words
    facts      jsonb NOT NULL,
    author     text NOT NULL DEFAULT '',
    created_at timestamptz NOT NULL DEFAULT now()
);
CREATE UNIQUE INDEX template_change ON template (coalesce(upgrade_id, 0), change);

-- +goose Down
DROP TABLE template;
