-- +goose Up

-- A practice that was set for a class. Its code lets learners in, without an account,
-- until it ends.
CREATE TABLE practices (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    class_id  bigint NOT NULL,
    lesson_id bigint, -- whose amounts and foods are practised; null where it has gone
    title     text NOT NULL,
    source    jsonb NOT NULL, -- what of the lesson is practised, as it was when it was set
    code      text NOT NULL UNIQUE,
    set_by    text NOT NULL,
    set_at    timestamptz NOT NULL,
    until     timestamptz NOT NULL,
    UNIQUE (school_id, id),
    FOREIGN KEY (school_id, class_id) REFERENCES classes (school_id, id) ON DELETE CASCADE
);

CREATE INDEX practices_by_class ON practices (school_id, class_id, id);

-- Who has come in to practise: a learner of the class, or somebody who is not on the
-- list. The token is all that a device holds.
CREATE TABLE practisers (
    token       text PRIMARY KEY,
    school_id   bigint NOT NULL REFERENCES schools (id),
    practice_id bigint NOT NULL,
    learner_id  bigint,
    seen        timestamptz NOT NULL,
    ended       boolean NOT NULL DEFAULT false,
    UNIQUE (school_id, token),
    FOREIGN KEY (school_id, practice_id) REFERENCES practices (school_id, id) ON DELETE CASCADE,
    FOREIGN KEY (school_id, learner_id) REFERENCES learners (school_id, id) ON DELETE CASCADE
);

CREATE INDEX practisers_by_practice ON practisers (school_id, practice_id);

-- The picture that a learner has chosen, by which they come in again.
CREATE TABLE learner_marks (
    school_id  bigint NOT NULL REFERENCES schools (id),
    learner_id bigint NOT NULL,
    picture    text NOT NULL,
    PRIMARY KEY (school_id, learner_id),
    FOREIGN KEY (school_id, learner_id) REFERENCES learners (school_id, id) ON DELETE CASCADE
);

-- What was tried. Only ever added to.
CREATE TABLE tries (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    token     text NOT NULL,
    press     text NOT NULL, -- a try that arrives twice counts once
    template  text NOT NULL,
    correct   boolean NOT NULL,
    percent   double precision NOT NULL, -- off the answer
    at        timestamptz NOT NULL,
    UNIQUE (school_id, token, press),
    FOREIGN KEY (school_id, token) REFERENCES practisers (school_id, token) ON DELETE CASCADE
);

-- That a learner has a skill. Only ever added to.
CREATE TABLE evidence (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id  bigint NOT NULL REFERENCES schools (id),
    learner_id bigint NOT NULL,
    skill      text NOT NULL CHECK (skill <> ''),
    how        text NOT NULL CHECK (how IN ('seen', 'asked', 'practised', 'measured', 'made')),
    level      integer NOT NULL CHECK (level BETWEEN 0 AND 3),
    who        text NOT NULL,
    at         timestamptz NOT NULL,
    press      text NOT NULL,
    UNIQUE (school_id, learner_id, skill, press),
    FOREIGN KEY (school_id, learner_id) REFERENCES learners (school_id, id) ON DELETE CASCADE
);

ALTER TABLE practices ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON practices USING (school_id = current_school() OR current_school() = 0);
ALTER TABLE practisers ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON practisers USING (school_id = current_school() OR current_school() = 0);
ALTER TABLE learner_marks ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON learner_marks USING (school_id = current_school());
ALTER TABLE tries ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON tries USING (school_id = current_school());
ALTER TABLE evidence ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON evidence USING (school_id = current_school());

-- +goose Down
DROP TABLE evidence, tries, learner_marks, practisers, practices;
