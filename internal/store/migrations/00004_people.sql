-- +goose Up

-- The school of whoever asks, as the connection says it: no row of a school is
-- seen or changed by a connection that speaks for another. 0 stands at the
-- door: it sees schools and accounts, so that somebody can sign in.
-- +goose StatementBegin
CREATE FUNCTION current_school() RETURNS bigint LANGUAGE sql STABLE
    AS $$ SELECT nullif(current_setting('freshapron.school', true), '')::bigint $$;
-- +goose StatementEnd

CREATE TABLE accounts (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id  bigint NOT NULL REFERENCES schools (id),
    name       text NOT NULL CHECK (name <> ''),
    email      text NOT NULL CHECK (email <> ''),
    role       text NOT NULL CHECK (role IN ('head', 'teacher', 'technician', 'assistant')),
    password   text NOT NULL DEFAULT '', -- argon2id; empty until a link was followed
    closed     boolean NOT NULL DEFAULT false,
    created_at timestamptz NOT NULL,
    UNIQUE (school_id, id)
);

CREATE UNIQUE INDEX accounts_by_email ON accounts (lower(email));

CREATE TABLE sessions (
    token      text PRIMARY KEY, -- a hash of what the browser holds
    school_id  bigint NOT NULL REFERENCES schools (id),
    account_id bigint NOT NULL,
    data       bytea NOT NULL,
    agent      text NOT NULL,
    began_at   timestamptz NOT NULL,
    expires_at timestamptz NOT NULL,
    FOREIGN KEY (school_id, account_id) REFERENCES accounts (school_id, id) ON DELETE CASCADE
);

CREATE INDEX sessions_by_account ON sessions (school_id, account_id);
CREATE INDEX sessions_by_expiry ON sessions (expires_at);

-- Links that let somebody set a password, each once.
CREATE TABLE links (
    token      text PRIMARY KEY, -- a hash of what was sent
    school_id  bigint NOT NULL REFERENCES schools (id),
    account_id bigint NOT NULL,
    purpose    text NOT NULL CHECK (purpose IN ('invitation', 'reset')),
    expires_at timestamptz NOT NULL,
    used_at    timestamptz,
    FOREIGN KEY (school_id, account_id) REFERENCES accounts (school_id, id) ON DELETE CASCADE
);

CREATE INDEX links_by_account ON links (school_id, account_id);

-- What would be sent by mail.
CREATE TABLE outbox (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    recipient text NOT NULL,
    subject   text NOT NULL,
    body      text NOT NULL,
    sent_at   timestamptz NOT NULL
);

CREATE INDEX outbox_by_time ON outbox (school_id, sent_at);

-- Failed attempts to sign in, by a hash of the address typed or of the place
-- they came from.
CREATE TABLE attempts (
    id  bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    key text NOT NULL,
    at  timestamptz NOT NULL
);

CREATE INDEX attempts_by_key ON attempts (key, at);
CREATE INDEX attempts_by_time ON attempts (at);

-- Who saw or changed what is sensitive. Only ever added to.
CREATE TABLE audit (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id  bigint NOT NULL REFERENCES schools (id),
    account_id bigint,
    who        text NOT NULL,
    did        text NOT NULL,
    about      text NOT NULL, -- needs, safety, people, marks
    class_id   bigint,
    lesson_id  bigint,
    says       text NOT NULL,
    at         timestamptz NOT NULL
);

CREATE INDEX audit_by_time ON audit (school_id, id);

-- +goose StatementBegin
CREATE FUNCTION only_added() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'rows of % are never changed or taken away', TG_TABLE_NAME;
END $$;
-- +goose StatementEnd

CREATE TRIGGER audit_only_added BEFORE UPDATE OR DELETE ON audit FOR EACH ROW EXECUTE FUNCTION only_added();

-- +goose StatementBegin
DO $$
DECLARE name text;
BEGIN
    FOREACH name IN ARRAY ARRAY['rooms', 'classes', 'periods', 'dishes', 'lessons', 'dish_versions', 'edits',
        'pantry_items', 'lesson_versions', 'lesson_files', 'outbox', 'audit'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY', name);
        EXECUTE format('CREATE POLICY of_school ON %I USING (school_id = current_school())', name);
    END LOOP;
    FOREACH name IN ARRAY ARRAY['accounts', 'sessions', 'links'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY', name);
        EXECUTE format('CREATE POLICY of_school ON %I USING (school_id = current_school() OR current_school() = 0)', name);
    END LOOP;
END $$;
-- +goose StatementEnd

ALTER TABLE schools ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY itself ON schools USING (id = current_school() OR current_school() = 0);
ALTER TABLE attempts ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY;
CREATE POLICY at_the_door ON attempts USING (current_school() = 0);

-- +goose Down
DROP TABLE audit, attempts, outbox, links, sessions, accounts;
DROP FUNCTION only_added;
