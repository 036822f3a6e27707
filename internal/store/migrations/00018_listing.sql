-- +goose Up
-- What package managers said when they were asked what is newer, as the latest run of the
-- check "ready" has it.
CREATE TABLE listing (
    upgrade_id bigint PRIMARY KEY REFERENCES upgrade,
    run        int NOT NULL,
    said       jsonb NOT NULL -- versions.Listing
);

-- +goose Down
DROP TABLE listing;
