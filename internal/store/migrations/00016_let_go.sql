-- +goose Up
ALTER TABLE input ADD COLUMN let_go timestamptz; -- when its raw output was, while what was read of it stays

-- +goose Down
ALTER TABLE input DROP COLUMN let_go;
