-- +goose Up

-- Photographs that benches take in a lesson that runs, small and without what a camera
-- writes into them. They go after some days, which the school sets.
CREATE TABLE pictures (
    school_id bigint NOT NULL REFERENCES schools (id),
    run_id    bigint NOT NULL,
    press     text NOT NULL, -- of the event with which it came
    at        timestamptz NOT NULL,
    jpeg      bytea NOT NULL CHECK (length(jpeg) <= 2 * 1024 * 1024),
    PRIMARY KEY (school_id, run_id, press),
    FOREIGN KEY (school_id, run_id) REFERENCES runs (school_id, id)
);

CREATE INDEX pictures_by_age ON pictures (school_id, at);
ALTER TABLE pictures ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON pictures USING (school_id = current_school());

-- Which recipe a dish of the frozen lesson file is made by, where the ids differ.
ALTER TABLE runs ADD COLUMN recipes jsonb;

-- How a bench's screen shows things: words of live.Ways, apart by spaces.
ALTER TABLE screens ADD COLUMN ways text NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE runs DROP COLUMN recipes;
ALTER TABLE screens DROP COLUMN ways;
DROP TABLE pictures;
