-- +goose Up
-- What the symptoms of a cause come to, kept with it: lists of thousands of causes are read
-- without a look at their symptoms.
ALTER TABLE cause
    ADD COLUMN shown     int NOT NULL DEFAULT 0,
    ADD COLUMN hidden    int NOT NULL DEFAULT 0,
    ADD COLUMN silenced  int NOT NULL DEFAULT 0, -- of the hidden ones
    ADD COLUMN total     int NOT NULL DEFAULT 0,
    ADD COLUMN files     int NOT NULL DEFAULT 0,
    ADD COLUMN returned  boolean NOT NULL DEFAULT false,
    ADD COLUMN uncovered boolean NOT NULL DEFAULT false,
    ADD COLUMN checks    jsonb NOT NULL DEFAULT '[]';
UPDATE cause c SET shown = s.shown, hidden = s.hidden, silenced = s.silenced, total = s.total, files = s.files, returned = s.returned, uncovered = s.uncovered, checks = s.checks
FROM (SELECT cause_id, count(*) FILTER (WHERE status = 'shown') AS shown, count(*) FILTER (WHERE status = 'hidden') AS hidden,
        count(*) FILTER (WHERE status = 'hidden' AND silenced) AS silenced, count(*) AS total, count(DISTINCT nullif(facts->>'file', '')) AS files,
        bool_or(origin = 'returned' AND status = 'shown') AS returned, bool_and(origin = 'uncovered') AS uncovered,
        (SELECT coalesce(jsonb_agg(DISTINCT k.name), '[]') FROM symptom m, jsonb_array_elements_text(m.checks) AS k(name) WHERE m.upgrade_id = x.upgrade_id AND m.cause_id = x.cause_id) AS checks
    FROM symptom x WHERE cause_id IS NOT NULL GROUP BY upgrade_id, cause_id) s
WHERE s.cause_id = c.id;

-- +goose Down
ALTER TABLE cause DROP COLUMN shown, DROP COLUMN hidden, DROP COLUMN silenced, DROP COLUMN total, DROP COLUMN files, DROP COLUMN returned, DROP COLUMN uncovered, DROP COLUMN checks;
