-- +goose Up
ALTER TABLE lessons
    -- what the teacher has decided in the plan, in order
    ADD COLUMN changes jsonb NOT NULL DEFAULT '[]',
    -- the lesson of which this is the second half
    ADD COLUMN follows bigint,
    ADD FOREIGN KEY (school_id, follows) REFERENCES lessons (school_id, id) ON DELETE CASCADE;

CREATE INDEX lessons_by_follows ON lessons (school_id, follows) WHERE follows IS NOT NULL;

-- What a lesson was before each change, so that it can be undone.
CREATE TABLE lesson_versions (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id  bigint NOT NULL REFERENCES schools (id),
    lesson_id  bigint NOT NULL,
    version    integer NOT NULL,
    did        text NOT NULL, -- what was changed then, in words
    dish_id    bigint NOT NULL,
    class_id   bigint NOT NULL,
    room_id    bigint NOT NULL,
    period_id  bigint NOT NULL,
    date       date NOT NULL,
    phases     jsonb NOT NULL,
    group_size integer NOT NULL,
    each       integer NOT NULL,
    demo       integer NOT NULL,
    spare      integer NOT NULL,
    changes    jsonb NOT NULL,
    saved_at   timestamptz NOT NULL,
    UNIQUE (school_id, lesson_id, version),
    FOREIGN KEY (school_id, lesson_id) REFERENCES lessons (school_id, id) ON DELETE CASCADE,
    FOREIGN KEY (school_id, dish_id) REFERENCES dishes (school_id, id),
    FOREIGN KEY (school_id, class_id) REFERENCES classes (school_id, id),
    FOREIGN KEY (school_id, room_id) REFERENCES rooms (school_id, id),
    FOREIGN KEY (school_id, period_id) REFERENCES periods (school_id, id)
);

-- Lesson files that somebody has brought in, with the plan that came along.
CREATE TABLE lesson_files (
    id         uuid NOT NULL,
    school_id  bigint NOT NULL REFERENCES schools (id),
    name       text NOT NULL,
    lesson     text NOT NULL,
    plan       text NOT NULL DEFAULT '',
    created_at timestamptz NOT NULL,
    PRIMARY KEY (school_id, id)
);

CREATE INDEX lesson_files_by_time ON lesson_files (school_id, created_at);

-- +goose Down
DROP TABLE lesson_files, lesson_versions;
ALTER TABLE lessons DROP COLUMN changes, DROP COLUMN follows;
