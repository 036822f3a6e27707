-- +goose Up
-- How often work on a run, or on a leg as it is, began without coming to an end; and
-- the version of the program that set it aside.
ALTER TABLE run ADD COLUMN tries int NOT NULL DEFAULT 0, ADD COLUMN aside_by text NOT NULL DEFAULT '';
ALTER TABLE notes ADD COLUMN aside_by text NOT NULL DEFAULT '';
-- asked counts what asks for causes to be drawn anew without a run; drawn is what asked was
-- when they last were.
ALTER TABLE leg ADD COLUMN tries int NOT NULL DEFAULT 0, ADD COLUMN problem text NOT NULL DEFAULT '', ADD COLUMN aside_by text NOT NULL DEFAULT '',
    ADD COLUMN asked bigint NOT NULL DEFAULT 0, ADD COLUMN drawn bigint NOT NULL DEFAULT 0;

-- +goose Down
ALTER TABLE run DROP COLUMN tries, DROP COLUMN aside_by;
ALTER TABLE notes DROP COLUMN aside_by;
ALTER TABLE leg DROP COLUMN tries, DROP COLUMN problem, DROP COLUMN aside_by, DROP COLUMN asked, DROP COLUMN drawn;
