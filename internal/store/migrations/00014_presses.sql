-- +goose Up

-- Forms that were taken, by the number that came with the empty one: what is sent again
-- after a lost answer is not written twice.
CREATE TABLE presses (
    school_id bigint NOT NULL REFERENCES schools (id),
    press     uuid NOT NULL,
    at        timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (school_id, press)
);

CREATE INDEX presses_by_age ON presses (school_id, at);
ALTER TABLE presses ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON presses USING (school_id = current_school());

-- +goose Down
DROP TABLE presses;
