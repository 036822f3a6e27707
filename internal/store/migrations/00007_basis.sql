-- +goose Up
-- How a diagnostic was known is told in full; a guess was a flag of its own.
UPDATE symptom SET facts = facts - 'guess' || '{"basis": "guess"}' WHERE facts ? 'guess';
UPDATE occurrence SET facts = facts - 'guess' || '{"basis": "guess"}' WHERE facts ? 'guess';
UPDATE symptom SET facts = facts || '{"basis": "tool"}' WHERE NOT facts ? 'basis';
UPDATE occurrence SET facts = facts || '{"basis": "tool"}' WHERE NOT facts ? 'basis';

-- +goose Down
UPDATE symptom SET facts = facts - 'basis' || CASE facts->>'basis' WHEN 'guess' THEN '{"guess": true}' ELSE '{}' END::jsonb;
UPDATE occurrence SET facts = facts - 'basis' || CASE facts->>'basis' WHEN 'guess' THEN '{"guess": true}' ELSE '{}' END::jsonb;
