-- +goose Up

-- What is only added to stays, but for a person who is to be forgotten, or a school that
-- goes: a transaction that says so may change and take away.
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION only_added() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF current_setting('freshapron.forgetting', true) = 'yes' THEN
        IF TG_OP = 'DELETE' THEN
            RETURN OLD;
        END IF;
        RETURN NEW;
    END IF;
    RAISE EXCEPTION 'rows of % are never changed or taken away', TG_TABLE_NAME;
END $$;
-- +goose StatementEnd

-- What is a learner's is found, and goes, by them.
CREATE INDEX records_by_learner ON records (learner_id) WHERE learner_id IS NOT NULL;
CREATE INDEX contributions_by_learner ON contributions (learner_id);
CREATE INDEX practisers_by_learner ON practisers (learner_id) WHERE learner_id IS NOT NULL;
CREATE INDEX entries_by_learner ON entries (learner_id);
CREATE INDEX entrants_by_learner ON entrants (learner_id);
CREATE INDEX entrants_by_end ON entrants (school_id, until);
CREATE INDEX plates_by_learner ON plates (learner_id);
CREATE INDEX learner_marks_by_learner ON learner_marks (learner_id);
CREATE INDEX evidence_by_learner ON evidence (learner_id);
CREATE INDEX learner_needs_by_learner ON learner_needs (learner_id);

-- +goose Down
DROP INDEX records_by_learner, contributions_by_learner, practisers_by_learner, entries_by_learner, entrants_by_learner, entrants_by_end, plates_by_learner, learner_marks_by_learner, evidence_by_learner, learner_needs_by_learner;
-- +goose StatementBegin
CREATE OR REPLACE FUNCTION only_added() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'rows of % are never changed or taken away', TG_TABLE_NAME;
END $$;
-- +goose StatementEnd
