-- +goose Up
ALTER TABLE git_commit ADD COLUMN inert boolean NOT NULL DEFAULT false; -- it touches nothing that a check could depend on

-- +goose Down
ALTER TABLE git_commit DROP COLUMN inert;
