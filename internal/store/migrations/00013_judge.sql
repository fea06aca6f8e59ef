-- +goose Up

-- Who comes from outside to mark.
ALTER TABLE accounts DROP CONSTRAINT accounts_role_check;
ALTER TABLE accounts ADD CONSTRAINT accounts_role_check CHECK (role IN ('head', 'teacher', 'technician', 'assistant', 'assessor'));

-- An assessed task: what is asked, how it is marked and by whom. What is made in it is a
-- practical lesson.
CREATE TABLE tasks (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    lesson_id bigint NOT NULL,
    doc       jsonb NOT NULL,
    code      text NOT NULL UNIQUE, -- by which its learners come in
    form      text NOT NULL,
    version   integer NOT NULL DEFAULT 1,
    UNIQUE (school_id, id),
    UNIQUE (school_id, form),
    FOREIGN KEY (school_id, lesson_id) REFERENCES lessons (school_id, id)
);

CREATE INDEX tasks_by_lesson ON tasks (school_id, lesson_id);

-- What one learner has chosen and written for a task.
CREATE TABLE entries (
    school_id  bigint NOT NULL REFERENCES schools (id),
    task_id    bigint NOT NULL,
    learner_id bigint NOT NULL,
    doc        jsonb NOT NULL,
    version    integer NOT NULL DEFAULT 1,
    PRIMARY KEY (school_id, task_id, learner_id),
    FOREIGN KEY (school_id, task_id) REFERENCES tasks (school_id, id) ON DELETE CASCADE,
    FOREIGN KEY (school_id, learner_id) REFERENCES learners (school_id, id) ON DELETE CASCADE
);

-- The tokens that learners hold who have come in to a task.
CREATE TABLE entrants (
    token      text PRIMARY KEY,
    school_id  bigint NOT NULL REFERENCES schools (id),
    task_id    bigint NOT NULL,
    learner_id bigint NOT NULL,
    until      timestamptz NOT NULL,
    FOREIGN KEY (school_id, task_id) REFERENCES tasks (school_id, id) ON DELETE CASCADE,
    FOREIGN KEY (school_id, learner_id) REFERENCES learners (school_id, id) ON DELETE CASCADE
);

-- What was seen, said, tasted and marked: of a task, a tasting or a lesson. Only ever
-- added to; what is of a learner goes with them.
CREATE TABLE records (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id  bigint NOT NULL REFERENCES schools (id),
    about      text NOT NULL, -- "task/3"
    press      text NOT NULL, -- the sender's own number: one that arrives twice counts once
    at         timestamptz NOT NULL,
    account    bigint,
    who        text NOT NULL,
    learner_id bigint,
    doc        jsonb NOT NULL,
    UNIQUE (school_id, about, press),
    FOREIGN KEY (school_id, learner_id) REFERENCES learners (school_id, id) ON DELETE CASCADE
);

CREATE INDEX records_by_about ON records (school_id, about, id);
CREATE TRIGGER records_stay BEFORE UPDATE ON records FOR EACH ROW EXECUTE FUNCTION only_added();

-- The photograph of what a learner has made.
CREATE TABLE plates (
    school_id  bigint NOT NULL REFERENCES schools (id),
    task_id    bigint NOT NULL,
    learner_id bigint NOT NULL,
    at         timestamptz NOT NULL,
    jpeg       bytea NOT NULL CHECK (length(jpeg) <= 2 * 1024 * 1024),
    PRIMARY KEY (school_id, task_id, learner_id),
    FOREIGN KEY (school_id, task_id) REFERENCES tasks (school_id, id) ON DELETE CASCADE,
    FOREIGN KEY (school_id, learner_id) REFERENCES learners (school_id, id) ON DELETE CASCADE
);

-- How a lesson is tasted and looked back on: one document each.
CREATE TABLE reviews (
    school_id bigint NOT NULL REFERENCES schools (id),
    lesson_id bigint NOT NULL,
    kind      text NOT NULL CHECK (kind IN ('tasting', 'review')),
    doc       jsonb NOT NULL,
    version   integer NOT NULL DEFAULT 1,
    PRIMARY KEY (school_id, lesson_id, kind),
    FOREIGN KEY (school_id, lesson_id) REFERENCES lessons (school_id, id)
);

ALTER TABLE tasks ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON tasks USING (school_id = current_school() OR current_school() = 0);
ALTER TABLE entries ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON entries USING (school_id = current_school());
ALTER TABLE entrants ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON entrants USING (school_id = current_school() OR current_school() = 0);
ALTER TABLE records ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON records USING (school_id = current_school());
ALTER TABLE plates ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON plates USING (school_id = current_school());
ALTER TABLE reviews ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON reviews USING (school_id = current_school());

-- +goose Down
ALTER TABLE accounts DROP CONSTRAINT accounts_role_check;
ALTER TABLE accounts ADD CONSTRAINT accounts_role_check CHECK (role IN ('head', 'teacher', 'technician', 'assistant')) NOT VALID;
DROP TABLE reviews, plates, records, entrants, entries, tasks;
