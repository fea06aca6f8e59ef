-- +goose Up
CREATE TABLE schools (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    name      text NOT NULL CHECK (name <> ''),
    time_zone text NOT NULL CHECK (time_zone <> ''),
    -- The day on which a demonstration school was last brought up to date.
    demo_day  date
);

CREATE TABLE rooms (
    id          bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id   bigint NOT NULL REFERENCES schools (id),
    name        text NOT NULL CHECK (name <> ''),
    benches     integer NOT NULL CHECK (benches > 0),
    per_bench   integer NOT NULL CHECK (per_bench > 0),
    learners    integer NOT NULL CHECK (learners > 0),
    adults      integer NOT NULL CHECK (adults >= 0),
    equipment   jsonb NOT NULL,
    instruments jsonb NOT NULL,
    UNIQUE (school_id, name),
    UNIQUE (school_id, id)
);

CREATE TABLE classes (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    name      text NOT NULL CHECK (name <> ''),
    learners  integer NOT NULL CHECK (learners >= 0),
    pace      numeric NOT NULL CHECK (pace > 0),
    UNIQUE (school_id, name),
    UNIQUE (school_id, id)
);

CREATE TABLE periods (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    name      text NOT NULL CHECK (name <> ''),
    starts    integer NOT NULL CHECK (starts >= 0), -- minutes after midnight
    ends      integer NOT NULL CHECK (ends > starts AND ends < 1440),
    UNIQUE (school_id, name),
    UNIQUE (school_id, id)
);

CREATE TABLE dishes (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    slug      text NOT NULL CHECK (slug <> ''),
    title     text NOT NULL CHECK (title <> ''),
    recipe    jsonb NOT NULL,
    UNIQUE (school_id, slug),
    UNIQUE (school_id, id)
);

CREATE TABLE lessons (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id  bigint NOT NULL REFERENCES schools (id),
    dish_id    bigint NOT NULL,
    class_id   bigint NOT NULL,
    room_id    bigint NOT NULL,
    period_id  bigint NOT NULL,
    date       date NOT NULL,
    phases     jsonb NOT NULL,
    group_size integer NOT NULL CHECK (group_size > 0),
    each       integer NOT NULL CHECK (each > 0),
    demo       integer NOT NULL CHECK (demo >= 0),
    spare      integer NOT NULL CHECK (spare >= 0),
    -- Goes up with every change, so that two who change at once notice.
    version    integer NOT NULL DEFAULT 1,
    -- Given out with the empty form: a form that is posted twice makes one lesson.
    form       uuid NOT NULL,
    created_at timestamptz NOT NULL,
    updated_at timestamptz NOT NULL,
    UNIQUE (school_id, id),
    UNIQUE (school_id, form),
    FOREIGN KEY (school_id, dish_id) REFERENCES dishes (school_id, id),
    FOREIGN KEY (school_id, class_id) REFERENCES classes (school_id, id),
    FOREIGN KEY (school_id, room_id) REFERENCES rooms (school_id, id),
    FOREIGN KEY (school_id, period_id) REFERENCES periods (school_id, id)
);

CREATE INDEX lessons_by_date ON lessons (school_id, date);

-- +goose Down
DROP TABLE lessons, dishes, periods, classes, rooms, schools;
