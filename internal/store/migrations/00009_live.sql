-- +goose Up

-- When a run's lesson was planned to begin, and how it is rehearsed; null where it
-- is real.
ALTER TABLE runs
    ADD COLUMN door      timestamptz NOT NULL DEFAULT now(),
    ADD COLUMN rehearsal jsonb;

-- What happens in a lesson that runs. Only ever added to.
CREATE TABLE events (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    run_id    bigint NOT NULL,
    press     text NOT NULL, -- the sender's own number: one that arrives twice counts once
    at        timestamptz NOT NULL,
    said      timestamptz,
    who       text NOT NULL,
    line      text NOT NULL, -- the event, as in a file of events, without its times
    UNIQUE (school_id, run_id, press),
    FOREIGN KEY (school_id, run_id) REFERENCES runs (school_id, id)
);

CREATE INDEX events_by_run ON events (school_id, run_id, id);
CREATE TRIGGER events_only_added BEFORE UPDATE OR DELETE ON events FOR EACH ROW EXECUTE FUNCTION only_added();

-- Screens at benches, which need no account: a code opens one bench of one run.
CREATE TABLE screens (
    school_id bigint NOT NULL REFERENCES schools (id),
    run_id    bigint NOT NULL,
    bench     text NOT NULL,
    code      text NOT NULL UNIQUE,
    until     timestamptz NOT NULL,
    shut      boolean NOT NULL DEFAULT false,
    PRIMARY KEY (school_id, run_id, bench),
    FOREIGN KEY (school_id, run_id) REFERENCES runs (school_id, id)
);

ALTER TABLE events ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON events USING (school_id = current_school());
ALTER TABLE screens ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON screens USING (school_id = current_school() OR current_school() = 0);

-- +goose Down
DROP TABLE screens, events;
ALTER TABLE runs DROP COLUMN rehearsal, DROP COLUMN door;
