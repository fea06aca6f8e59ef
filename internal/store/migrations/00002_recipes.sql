-- +goose Up
ALTER TABLE schools ADD COLUMN settings jsonb NOT NULL DEFAULT '{}';

ALTER TABLE dishes
    -- ready to be taught, a draft, or set aside
    ADD COLUMN status     text NOT NULL DEFAULT 'ready' CHECK (status IN ('ready', 'draft', 'aside')),
    -- the dish of which this is a version for another level
    ADD COLUMN family     bigint,
    ADD COLUMN version    integer NOT NULL DEFAULT 1,
    -- given out with the form that made it: sent twice, it makes one dish
    ADD COLUMN form       uuid,
    ADD COLUMN updated_at timestamptz NOT NULL DEFAULT now(),
    ADD UNIQUE (school_id, form),
    ADD FOREIGN KEY (school_id, family) REFERENCES dishes (school_id, id);

CREATE INDEX dishes_by_family ON dishes (school_id, family);

-- What a dish was before each change.
CREATE TABLE dish_versions (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id  bigint NOT NULL REFERENCES schools (id),
    dish_id    bigint NOT NULL,
    version    integer NOT NULL,
    title      text NOT NULL,
    recipe     jsonb NOT NULL,
    saved_at   timestamptz NOT NULL,
    UNIQUE (school_id, dish_id, version),
    FOREIGN KEY (school_id, dish_id) REFERENCES dishes (school_id, id)
);

-- The form of somebody who is writing, as it was last seen.
CREATE TABLE edits (
    id         uuid NOT NULL,
    school_id  bigint NOT NULL REFERENCES schools (id),
    dish_id    bigint,
    base       integer NOT NULL, -- version of the dish that it began with
    title      text NOT NULL,
    form       jsonb NOT NULL,
    updated_at timestamptz NOT NULL,
    PRIMARY KEY (school_id, id),
    FOREIGN KEY (school_id, dish_id) REFERENCES dishes (school_id, id)
);

CREATE INDEX edits_by_dish ON edits (school_id, dish_id);

-- What a school has changed of the pantry that ships, or added to it.
CREATE TABLE pantry_items (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id  bigint NOT NULL REFERENCES schools (id),
    slug       text NOT NULL CHECK (slug <> ''),
    item       jsonb NOT NULL,
    version    integer NOT NULL DEFAULT 1,
    updated_at timestamptz NOT NULL,
    UNIQUE (school_id, slug)
);

-- +goose Down
DROP TABLE pantry_items, edits, dish_versions;
ALTER TABLE dishes DROP COLUMN status, DROP COLUMN family, DROP COLUMN version, DROP COLUMN form, DROP COLUMN updated_at;
ALTER TABLE schools DROP COLUMN settings;
