-- +goose Up
ALTER TABLE rooms
    ADD COLUMN things  jsonb NOT NULL DEFAULT '{}', -- what stands in it and where, besides what plans use
    ADD COLUMN version integer NOT NULL DEFAULT 1;

-- What does not work, from a day, until a day where that is known.
CREATE TABLE outages (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    room_id   bigint NOT NULL,
    equipment text NOT NULL,
    unit      text NOT NULL,
    why       text NOT NULL,
    who       text NOT NULL,
    first     date NOT NULL,
    last      date CHECK (last >= first),
    FOREIGN KEY (school_id, room_id) REFERENCES rooms (school_id, id) ON DELETE CASCADE
);

CREATE INDEX outages_by_room ON outages (school_id, room_id);

-- Counts of knives and other sharp things, out and in. Only ever added to.
CREATE TABLE sharp_counts (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    room_id   bigint NOT NULL,
    out       boolean NOT NULL,
    counted   integer NOT NULL CHECK (counted >= 0),
    expected  integer NOT NULL,
    who       text NOT NULL,
    at        timestamptz NOT NULL,
    FOREIGN KEY (school_id, room_id) REFERENCES rooms (school_id, id)
);

CREATE INDEX sharp_counts_by_room ON sharp_counts (school_id, room_id, id);

-- The weekdays of a period, a bit each from Monday.
ALTER TABLE periods ADD COLUMN days integer NOT NULL DEFAULT 31 CHECK (days BETWEEN 1 AND 127);

-- Terms, and the days in them on which there is no school.
CREATE TABLE terms (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    name      text NOT NULL CHECK (name <> ''),
    first     date NOT NULL,
    last      date NOT NULL CHECK (last >= first),
    off       boolean NOT NULL
);

CREATE INDEX terms_by_date ON terms (school_id, first);

-- The timetable: which class is in which room at which period, each week.
CREATE TABLE slots (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    class_id  bigint NOT NULL,
    room_id   bigint NOT NULL,
    period_id bigint NOT NULL,
    weekday   integer NOT NULL CHECK (weekday BETWEEN 0 AND 6), -- 0 is Monday
    UNIQUE (school_id, room_id, period_id, weekday),
    FOREIGN KEY (school_id, class_id) REFERENCES classes (school_id, id) ON DELETE CASCADE,
    FOREIGN KEY (school_id, room_id) REFERENCES rooms (school_id, id) ON DELETE CASCADE,
    FOREIGN KEY (school_id, period_id) REFERENCES periods (school_id, id) ON DELETE CASCADE
);

CREATE INDEX slots_by_class ON slots (school_id, class_id);

-- What a teacher has written into a lesson's safety sheet, line by line.
CREATE TABLE sheets (
    school_id  bigint NOT NULL REFERENCES schools (id),
    lesson_id  bigint NOT NULL,
    edits      jsonb NOT NULL,
    version    integer NOT NULL DEFAULT 1,
    PRIMARY KEY (school_id, lesson_id),
    FOREIGN KEY (school_id, lesson_id) REFERENCES lessons (school_id, id) ON DELETE CASCADE
);

-- Sheets as they were signed. Only ever added to.
CREATE TABLE signatures (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    lesson_id bigint NOT NULL,
    lines     jsonb NOT NULL,
    basis     text NOT NULL, -- a hash of what the sheet was composed of
    who       text NOT NULL,
    at        timestamptz NOT NULL
);

CREATE INDEX signatures_by_lesson ON signatures (school_id, lesson_id, id);

-- Temperatures that were read. Only ever added to.
CREATE TABLE readings (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    lesson_id bigint NOT NULL,
    bench     text NOT NULL,
    kind      text NOT NULL CHECK (kind IN ('core', 'hot', 'cold')),
    food      text NOT NULL,
    celsius   numeric NOT NULL,
    seconds   integer NOT NULL CHECK (seconds >= 0),
    good      boolean NOT NULL,
    says      text NOT NULL,
    simulated boolean NOT NULL,
    who       text NOT NULL,
    at        timestamptz NOT NULL
);

CREATE INDEX readings_by_lesson ON readings (school_id, lesson_id, id);

CREATE TRIGGER sharp_counts_only_added BEFORE UPDATE OR DELETE ON sharp_counts FOR EACH ROW EXECUTE FUNCTION only_added();
CREATE TRIGGER signatures_only_added BEFORE UPDATE OR DELETE ON signatures FOR EACH ROW EXECUTE FUNCTION only_added();
CREATE TRIGGER readings_only_added BEFORE UPDATE OR DELETE ON readings FOR EACH ROW EXECUTE FUNCTION only_added();

-- +goose StatementBegin
DO $$
DECLARE name text;
BEGIN
    FOREACH name IN ARRAY ARRAY['outages', 'sharp_counts', 'terms', 'slots', 'sheets', 'signatures', 'readings'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY', name);
        EXECUTE format('CREATE POLICY of_school ON %I USING (school_id = current_school())', name);
    END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
DROP TABLE readings, signatures, sheets, slots, terms, sharp_counts, outages;
ALTER TABLE periods DROP COLUMN days;
ALTER TABLE rooms DROP COLUMN things, DROP COLUMN version;
