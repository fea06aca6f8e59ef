-- +goose Up

-- Whoever owns the tables changes rows of all schools here.
-- +goose StatementBegin
DO $$
DECLARE name text;
BEGIN
    FOREACH name IN ARRAY ARRAY['lessons', 'lesson_versions', 'dishes', 'rooms'] LOOP
        EXECUTE format('ALTER TABLE %I NO FORCE ROW LEVEL SECURITY', name);
    END LOOP;
END $$;
-- +goose StatementEnd

-- The set-up of a lesson as one document, of a row that had it in columns. Swaps,
-- ways and changes were about the one dish.
-- +goose StatementBegin
CREATE FUNCTION pg_temp.setup_of(dish text, r jsonb) RETURNS jsonb LANGUAGE sql AS $$
    SELECT jsonb_build_object(
        'date', r->'date', 'class', r->'class_id', 'room', r->'room_id', 'period', r->'period_id',
        'menu', jsonb_build_array(jsonb_build_object('dish', r->'dish_id', 'each', r->'each', 'demo', r->'demo')),
        'phases', r->'phases', 'group_size', r->'group_size', 'spare', r->'spare', 'absent', r->'absent', 'teams', r->'teams',
        'changes', (SELECT coalesce(jsonb_agg(CASE WHEN c ? 'dish' THEN c || jsonb_build_object('dish', dish) ELSE c END ORDER BY n), '[]')
            FROM jsonb_array_elements(r->'changes') WITH ORDINALITY AS e(c, n)),
        'swaps', (SELECT coalesce(jsonb_agg(s || jsonb_build_object('dish', dish) ORDER BY n), '[]')
            FROM jsonb_array_elements(r->'swaps') WITH ORDINALITY AS e(s, n)),
        'ways', (SELECT coalesce(jsonb_agg(CASE WHEN w ? 'step' THEN w || jsonb_build_object('dish', dish) ELSE w END ORDER BY n), '[]')
            FROM jsonb_array_elements(r->'ways') WITH ORDINALITY AS e(w, n)))
$$;
-- +goose StatementEnd

-- +goose StatementBegin
CREATE FUNCTION date_of(setup jsonb) RETURNS date LANGUAGE sql IMMUTABLE PARALLEL SAFE AS $$
    SELECT make_date(substr(setup->>'date', 1, 4)::int, substr(setup->>'date', 6, 2)::int, substr(setup->>'date', 9, 2)::int)
$$;
-- +goose StatementEnd

ALTER TABLE lessons ADD COLUMN setup jsonb;
ALTER TABLE lesson_versions ADD COLUMN setup jsonb;
UPDATE lessons l SET setup = pg_temp.setup_of(d.slug, to_jsonb(l)) FROM dishes d WHERE d.school_id = l.school_id AND d.id = l.dish_id;
UPDATE lesson_versions l SET setup = pg_temp.setup_of(d.slug, to_jsonb(l)) FROM dishes d WHERE d.school_id = l.school_id AND d.id = l.dish_id;

-- What is on the menu of a lesson, to be looked up; the set-up has it whole.
CREATE TABLE lesson_dishes (
    school_id bigint NOT NULL REFERENCES schools (id),
    lesson_id bigint NOT NULL,
    dish_id   bigint NOT NULL,
    PRIMARY KEY (school_id, lesson_id, dish_id),
    FOREIGN KEY (school_id, lesson_id) REFERENCES lessons (school_id, id) ON DELETE CASCADE,
    FOREIGN KEY (school_id, dish_id) REFERENCES dishes (school_id, id)
);

CREATE INDEX lesson_dishes_by_dish ON lesson_dishes (school_id, dish_id);

INSERT INTO lesson_dishes SELECT school_id, id, dish_id FROM lessons;

-- The rows that were read are not seen any more: their constraints are checked
-- before the columns go.
SET CONSTRAINTS ALL IMMEDIATE;

ALTER TABLE lessons
    DROP COLUMN dish_id, DROP COLUMN class_id, DROP COLUMN room_id, DROP COLUMN period_id, DROP COLUMN date, DROP COLUMN phases,
    DROP COLUMN group_size, DROP COLUMN each, DROP COLUMN demo, DROP COLUMN spare, DROP COLUMN changes, DROP COLUMN absent,
    DROP COLUMN teams, DROP COLUMN swaps, DROP COLUMN ways,
    ALTER COLUMN setup SET NOT NULL;
ALTER TABLE lesson_versions
    DROP COLUMN dish_id, DROP COLUMN class_id, DROP COLUMN room_id, DROP COLUMN period_id, DROP COLUMN date, DROP COLUMN phases,
    DROP COLUMN group_size, DROP COLUMN each, DROP COLUMN demo, DROP COLUMN spare, DROP COLUMN changes, DROP COLUMN absent,
    DROP COLUMN teams, DROP COLUMN swaps, DROP COLUMN ways,
    ALTER COLUMN setup SET NOT NULL;

-- What lessons are looked up by. PostgreSQL writes these columns itself.
ALTER TABLE lessons
    ADD COLUMN class_id  bigint NOT NULL GENERATED ALWAYS AS ((setup->>'class')::bigint) STORED,
    ADD COLUMN room_id   bigint NOT NULL GENERATED ALWAYS AS ((setup->>'room')::bigint) STORED,
    ADD COLUMN period_id bigint NOT NULL GENERATED ALWAYS AS ((setup->>'period')::bigint) STORED,
    ADD COLUMN date      date   NOT NULL GENERATED ALWAYS AS (date_of(setup)) STORED,
    ADD FOREIGN KEY (school_id, class_id) REFERENCES classes (school_id, id),
    ADD FOREIGN KEY (school_id, room_id) REFERENCES rooms (school_id, id),
    ADD FOREIGN KEY (school_id, period_id) REFERENCES periods (school_id, id);
ALTER TABLE lesson_versions
    ADD COLUMN class_id  bigint NOT NULL GENERATED ALWAYS AS ((setup->>'class')::bigint) STORED,
    ADD COLUMN room_id   bigint NOT NULL GENERATED ALWAYS AS ((setup->>'room')::bigint) STORED,
    ADD COLUMN period_id bigint NOT NULL GENERATED ALWAYS AS ((setup->>'period')::bigint) STORED,
    ADD COLUMN date      date   NOT NULL GENERATED ALWAYS AS (date_of(setup)) STORED,
    ADD FOREIGN KEY (school_id, class_id) REFERENCES classes (school_id, id),
    ADD FOREIGN KEY (school_id, room_id) REFERENCES rooms (school_id, id),
    ADD FOREIGN KEY (school_id, period_id) REFERENCES periods (school_id, id);

CREATE INDEX lessons_by_date ON lessons (school_id, date);
CREATE INDEX lessons_by_class ON lessons (school_id, class_id, date);

-- Units of equipment and what stands on the floor have ids that stay when they
-- are renamed. The first is the name that they had: outages and changes name it.
UPDATE rooms SET equipment = (
    SELECT coalesce(jsonb_agg(e || jsonb_build_object('units', (
        SELECT coalesce(jsonb_agg(u || jsonb_build_object('id', u->'name') ORDER BY n), '[]')
        FROM jsonb_array_elements(e->'units') WITH ORDINALITY AS x(u, n))) ORDER BY m), '[]')
    FROM jsonb_array_elements(equipment) WITH ORDINALITY AS y(e, m));
UPDATE rooms SET things = jsonb_set(things, '{floor,items}', (
    SELECT coalesce(jsonb_agg(i || jsonb_build_object('id', CASE WHEN i->>'kind' = 'bench'
        THEN 'bench-' || regexp_replace(i->>'name', '\D', '', 'g') ELSE i->>'name' END) ORDER BY n), '[]')
    FROM jsonb_array_elements(things->'floor'->'items') WITH ORDINALITY AS x(i, n)))
WHERE jsonb_typeof(things->'floor'->'items') = 'array';

-- Lessons as they began: the lesson file and the plan, for ever. Only ever
-- added to.
CREATE TABLE runs (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    lesson_id bigint NOT NULL,
    version   integer NOT NULL, -- of the set-up
    lesson    text NOT NULL,    -- a lesson file
    plan      text NOT NULL,    -- a plan file
    who       text NOT NULL,
    began_at  timestamptz NOT NULL,
    UNIQUE (school_id, id),
    FOREIGN KEY (school_id, lesson_id) REFERENCES lessons (school_id, id)
);

CREATE INDEX runs_by_lesson ON runs (school_id, lesson_id, id);
CREATE TRIGGER runs_only_added BEFORE UPDATE OR DELETE ON runs FOR EACH ROW EXECUTE FUNCTION only_added();

ALTER TABLE signatures ADD FOREIGN KEY (school_id, lesson_id) REFERENCES lessons (school_id, id);
ALTER TABLE readings ADD FOREIGN KEY (school_id, lesson_id) REFERENCES lessons (school_id, id);
-- A note outlives the lesson that it is about: a second half goes when its
-- split is undone.
ALTER TABLE audit
    ADD FOREIGN KEY (school_id, account_id) REFERENCES accounts (school_id, id),
    ADD FOREIGN KEY (school_id, class_id) REFERENCES classes (school_id, id);

-- +goose StatementBegin
DO $$
DECLARE name text;
BEGIN
    FOREACH name IN ARRAY ARRAY['lessons', 'lesson_versions', 'dishes', 'rooms', 'lesson_dishes', 'runs'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY', name);
    END LOOP;
    FOREACH name IN ARRAY ARRAY['lesson_dishes', 'runs'] LOOP
        EXECUTE format('CREATE POLICY of_school ON %I USING (school_id = current_school())', name);
    END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
-- +goose StatementBegin
DO $$ BEGIN RAISE EXCEPTION 'the set-ups of lessons can''t be taken apart again: restore a backup'; END $$;
-- +goose StatementEnd
