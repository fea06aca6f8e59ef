-- +goose Up
ALTER TABLE classes
    ADD COLUMN age     integer NOT NULL DEFAULT 0 CHECK (age BETWEEN 0 AND 99), -- years; 0 is not said
    ADD COLUMN rules   jsonb NOT NULL DEFAULT '[]', -- by which groups are dealt
    ADD COLUMN version integer NOT NULL DEFAULT 1;  -- goes up with everything that a plan depends on

CREATE TABLE class_staff (
    school_id  bigint NOT NULL REFERENCES schools (id),
    class_id   bigint NOT NULL,
    account_id bigint NOT NULL,
    PRIMARY KEY (school_id, class_id, account_id),
    FOREIGN KEY (school_id, class_id) REFERENCES classes (school_id, id) ON DELETE CASCADE,
    FOREIGN KEY (school_id, account_id) REFERENCES accounts (school_id, id) ON DELETE CASCADE
);

CREATE INDEX class_staff_by_account ON class_staff (school_id, account_id);

CREATE TABLE learners (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    class_id  bigint NOT NULL,
    code      text NOT NULL DEFAULT '',
    given     text NOT NULL,
    family    text NOT NULL,
    born      date,
    level     integer NOT NULL DEFAULT 0 CHECK (level BETWEEN 0 AND 3),
    can       jsonb NOT NULL DEFAULT '[]',
    UNIQUE (school_id, id),
    CHECK (given || family <> ''),
    FOREIGN KEY (school_id, class_id) REFERENCES classes (school_id, id) ON DELETE CASCADE
);

CREATE INDEX learners_by_class ON learners (school_id, class_id);

-- What is sensitive stands apart: reading a class's names reads none of it.
CREATE TABLE learner_needs (
    school_id  bigint NOT NULL REFERENCES schools (id),
    learner_id bigint NOT NULL,
    class_id   bigint NOT NULL,
    needs      jsonb NOT NULL,
    notes      text NOT NULL DEFAULT '',
    PRIMARY KEY (school_id, learner_id),
    FOREIGN KEY (school_id, learner_id) REFERENCES learners (school_id, id) ON DELETE CASCADE,
    FOREIGN KEY (school_id, class_id) REFERENCES classes (school_id, id) ON DELETE CASCADE
);

CREATE INDEX learner_needs_by_class ON learner_needs (school_id, class_id);

-- A list that somebody is bringing in, until it is taken.
CREATE TABLE lists (
    id         uuid NOT NULL,
    school_id  bigint NOT NULL REFERENCES schools (id),
    account_id bigint NOT NULL,
    class_id   bigint, -- of those who have no column for it
    cells      jsonb NOT NULL,
    columns    jsonb NOT NULL,
    head       boolean NOT NULL,
    created_at timestamptz NOT NULL,
    PRIMARY KEY (school_id, id),
    FOREIGN KEY (school_id, account_id) REFERENCES accounts (school_id, id) ON DELETE CASCADE,
    FOREIGN KEY (school_id, class_id) REFERENCES classes (school_id, id) ON DELETE CASCADE
);

CREATE INDEX lists_by_time ON lists (school_id, created_at);

-- What a lesson decides about its learners: who is not there, who works with
-- whom where somebody has changed that by hand, which swaps and which other
-- ways a learner works with.
ALTER TABLE lessons
    ADD COLUMN absent jsonb NOT NULL DEFAULT '[]',
    ADD COLUMN teams  jsonb NOT NULL DEFAULT '[]',
    ADD COLUMN swaps  jsonb NOT NULL DEFAULT '[]',
    ADD COLUMN ways   jsonb NOT NULL DEFAULT '[]';
ALTER TABLE lesson_versions
    ADD COLUMN absent jsonb NOT NULL DEFAULT '[]',
    ADD COLUMN teams  jsonb NOT NULL DEFAULT '[]',
    ADD COLUMN swaps  jsonb NOT NULL DEFAULT '[]',
    ADD COLUMN ways   jsonb NOT NULL DEFAULT '[]';

CREATE INDEX lessons_by_class ON lessons (school_id, class_id, date);

-- +goose StatementBegin
DO $$
DECLARE name text;
BEGIN
    FOREACH name IN ARRAY ARRAY['class_staff', 'learners', 'learner_needs', 'lists'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY', name);
        EXECUTE format('CREATE POLICY of_school ON %I USING (school_id = current_school())', name);
    END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
ALTER TABLE lesson_versions DROP COLUMN absent, DROP COLUMN teams, DROP COLUMN swaps, DROP COLUMN ways;
ALTER TABLE lessons DROP COLUMN absent, DROP COLUMN teams, DROP COLUMN swaps, DROP COLUMN ways;
DROP TABLE lists, learner_needs, learners, class_staff;
ALTER TABLE classes DROP COLUMN age, DROP COLUMN rules, DROP COLUMN version;
