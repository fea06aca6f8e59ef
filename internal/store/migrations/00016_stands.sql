-- +goose Up

-- How often something of a school has changed: a page that was drawn is good for as long
-- as this stands. It is counted once for each transaction, as the last thing before it
-- ends, so that nobody waits for whoever is still at work.
CREATE TABLE stands (
    school_id bigint PRIMARY KEY,
    stand     bigint NOT NULL DEFAULT 0
);

INSERT INTO stands (school_id) SELECT id FROM schools;
ALTER TABLE stands ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY of_school ON stands USING (school_id = current_school() OR current_school() = 0);

-- +goose StatementBegin
CREATE FUNCTION stand_of_new_school() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    INSERT INTO stands (school_id) VALUES (NEW.id) ON CONFLICT DO NOTHING;
    RETURN NULL;
END $$;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE FUNCTION count_change() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    school bigint;
    mark   text;
BEGIN
    IF TG_TABLE_NAME = 'schools' THEN
        school := coalesce(NEW.id, OLD.id);
    ELSE
        school := coalesce(NEW.school_id, OLD.school_id);
    END IF;
    mark := school || ' ' || txid_current();
    IF current_setting('freshapron.counted', true) IS DISTINCT FROM mark THEN
        PERFORM set_config('freshapron.counted', mark, true);
        UPDATE stands SET stand = stand + 1 WHERE school_id = school;
    END IF;
    RETURN NULL;
END $$;
-- +goose StatementEnd

CREATE TRIGGER begin_stand AFTER INSERT ON schools FOR EACH ROW EXECUTE FUNCTION stand_of_new_school();

-- Of these no page that is kept shows anything: who is signed in and what was tried, what
-- is on its way by mail, what was looked at, and what happens while a lesson runs.
-- +goose StatementBegin
DO $$
DECLARE name text;
BEGIN
    FOR name IN
        SELECT c.relname FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'school_id'
        WHERE c.relkind = 'r' AND c.relnamespace = 'public'::regnamespace
            AND c.relname NOT IN ('stands', 'sessions', 'presses', 'audit', 'outbox', 'links', 'ticks', 'events', 'pictures', 'tries')
        UNION SELECT 'schools'
    LOOP
        EXECUTE format('CREATE CONSTRAINT TRIGGER changes AFTER INSERT OR UPDATE OR DELETE ON %I DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION count_change()', name);
    END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
-- +goose StatementBegin
DO $$
DECLARE name text;
BEGIN
    FOR name IN SELECT tgrelid::regclass FROM pg_trigger WHERE tgname = 'changes' LOOP
        EXECUTE format('DROP TRIGGER changes ON %s', name);
    END LOOP;
END $$;
-- +goose StatementEnd
DROP TRIGGER begin_stand ON schools;
DROP FUNCTION count_change(), stand_of_new_school();
DROP TABLE stands;
