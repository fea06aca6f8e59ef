-- +goose Up

-- Who sells what, in which packs, and how those who are simulated answer.
CREATE TABLE suppliers (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    name      text NOT NULL CHECK (name <> ''),
    days      integer NOT NULL CHECK (days BETWEEN 0 AND 127), -- a bit each from Monday
    lead_days integer NOT NULL CHECK (lead_days >= 0),
    least     integer NOT NULL CHECK (least >= 0),  -- pence
    charge    integer NOT NULL CHECK (charge >= 0), -- pence
    answers   jsonb NOT NULL DEFAULT '{}',
    version   integer NOT NULL DEFAULT 1,
    UNIQUE (school_id, id),
    UNIQUE (school_id, name)
);

CREATE TABLE products (
    id          bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id   bigint NOT NULL REFERENCES schools (id),
    supplier_id bigint NOT NULL,
    code        text NOT NULL CHECK (code <> ''),
    item        text NOT NULL, -- in the pantry; empty where nobody has said
    name        text NOT NULL CHECK (name <> ''),
    amount      text NOT NULL, -- an exact number
    unit        text NOT NULL,
    pence       integer NOT NULL CHECK (pence > 0),
    keeps       integer CHECK (keeps >= 0),  -- days unopened
    opened      integer CHECK (opened >= 0), -- days once opened
    days        integer NOT NULL CHECK (days BETWEEN 0 AND 127),
    most        integer CHECK (most >= 0),
    gone        boolean NOT NULL DEFAULT false, -- from the list
    UNIQUE (school_id, id),
    UNIQUE (school_id, supplier_id, code),
    FOREIGN KEY (school_id, supplier_id) REFERENCES suppliers (school_id, id)
);

-- What is in the store.
CREATE TABLE batches (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    item      text NOT NULL CHECK (item <> ''), -- in the pantry, or a name
    name      text NOT NULL,                    -- on the packet
    amount    text NOT NULL,
    unit      text NOT NULL,
    whole     text NOT NULL,                    -- what it was when it came
    pence     integer NOT NULL CHECK (pence >= 0), -- for the whole
    opened    date,
    place     text NOT NULL,
    use_by    date,
    gone      boolean NOT NULL DEFAULT false,   -- nothing is left
    version   integer NOT NULL DEFAULT 1,
    UNIQUE (school_id, id)
);

CREATE INDEX batches_there ON batches (school_id) WHERE NOT gone;

-- What happened to batches. Only ever added to.
CREATE TABLE movements (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    batch_id  bigint NOT NULL,
    kind      text NOT NULL CHECK (kind IN ('came', 'counted', 'used', 'thrown', 'moved', 'opened')),
    was       text NOT NULL,
    is_now    text NOT NULL,
    pence     integer NOT NULL, -- of the difference, at the price of the time
    grams     integer NOT NULL, -- of the difference; 0 where nobody knows
    why       text NOT NULL,
    lesson_id bigint,
    who       text NOT NULL,
    at        timestamptz NOT NULL,
    FOREIGN KEY (school_id, batch_id) REFERENCES batches (school_id, id)
);

CREATE INDEX movements_by_batch ON movements (school_id, batch_id, id);
CREATE INDEX movements_by_time ON movements (school_id, at);

-- Lessons of which the use has been booked.
CREATE TABLE booked (
    school_id bigint NOT NULL REFERENCES schools (id),
    lesson_id bigint NOT NULL,
    pence     integer NOT NULL,
    who       text NOT NULL,
    at        timestamptz NOT NULL,
    PRIMARY KEY (school_id, lesson_id)
);

-- How many of a product somebody wants on a delivery that is not ordered yet.
CREATE TABLE decisions (
    school_id  bigint NOT NULL REFERENCES schools (id),
    product_id bigint NOT NULL,
    comes      date NOT NULL,
    count      integer NOT NULL CHECK (count >= 0),
    who        text NOT NULL,
    PRIMARY KEY (school_id, product_id, comes),
    FOREIGN KEY (school_id, product_id) REFERENCES products (school_id, id)
);

CREATE TABLE orders (
    id          bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id   bigint NOT NULL REFERENCES schools (id),
    supplier_id bigint NOT NULL,
    comes       date NOT NULL,
    charge      integer NOT NULL,
    cancelled   boolean NOT NULL DEFAULT false,
    answered    boolean NOT NULL DEFAULT false,
    form        text NOT NULL, -- the press that sent it: it is sent once
    who         text NOT NULL,
    at          timestamptz NOT NULL,
    UNIQUE (school_id, id),
    UNIQUE (school_id, form),
    FOREIGN KEY (school_id, supplier_id) REFERENCES suppliers (school_id, id)
);

CREATE INDEX orders_by_day ON orders (school_id, comes);

-- With the names and prices of the time.
CREATE TABLE order_lines (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id  bigint NOT NULL REFERENCES schools (id),
    order_id   bigint NOT NULL,
    product_id bigint NOT NULL,
    item       text NOT NULL,
    code       text NOT NULL,
    name       text NOT NULL,
    amount     text NOT NULL,
    unit       text NOT NULL,
    keeps      integer,
    opened     integer,
    pence      integer NOT NULL,
    count      integer NOT NULL CHECK (count > 0),
    answer     jsonb,   -- of the supplier
    checked    jsonb,   -- what came
    unlike     boolean NOT NULL DEFAULT false, -- it holds an allergen that what was ordered does not
    decided    text NOT NULL DEFAULT '', -- about another product that came
    decided_by text NOT NULL DEFAULT '',
    UNIQUE (school_id, id),
    FOREIGN KEY (school_id, order_id) REFERENCES orders (school_id, id)
);

CREATE INDEX order_lines_by_order ON order_lines (school_id, order_id, id);
CREATE INDEX order_lines_undecided ON order_lines (school_id) WHERE unlike AND decided = '';

-- Ticks of lists, each with the moment at which it was made and a number of its
-- own, by which one that is sent twice counts once. Only ever added to.
CREATE TABLE ticks (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    list      text NOT NULL,
    line      text NOT NULL,
    done      boolean NOT NULL,
    who       text NOT NULL,
    made      timestamptz NOT NULL,
    at        timestamptz NOT NULL,
    press     uuid NOT NULL,
    UNIQUE (school_id, press)
);

CREATE INDEX ticks_by_list ON ticks (school_id, list, line, made, id);

-- What learners bring to a lesson.
CREATE TABLE homes (
    school_id bigint NOT NULL REFERENCES schools (id),
    lesson_id bigint NOT NULL,
    doc       jsonb NOT NULL,
    version   integer NOT NULL DEFAULT 1,
    PRIMARY KEY (school_id, lesson_id),
    FOREIGN KEY (school_id, lesson_id) REFERENCES lessons (school_id, id) ON DELETE CASCADE
);

-- What came in from homes.
CREATE TABLE contributions (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id  bigint NOT NULL REFERENCES schools (id),
    class_id   bigint NOT NULL,
    learner_id bigint NOT NULL,
    pence      integer NOT NULL CHECK (pence <> 0),
    who        text NOT NULL,
    at         timestamptz NOT NULL,
    FOREIGN KEY (school_id, class_id) REFERENCES classes (school_id, id) ON DELETE CASCADE
);

CREATE INDEX contributions_by_class ON contributions (school_id, class_id);

CREATE TABLE beds (
    id        bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id bigint NOT NULL REFERENCES schools (id),
    name      text NOT NULL CHECK (name <> ''),
    item      text NOT NULL CHECK (item <> ''),
    first     date NOT NULL,
    last      date NOT NULL CHECK (last >= first),
    amount    text NOT NULL,
    unit      text NOT NULL,
    version   integer NOT NULL DEFAULT 1
);

CREATE INDEX beds_by_day ON beds (school_id, last);

-- When people prepare, in minutes after midnight.
CREATE TABLE hours (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    school_id  bigint NOT NULL REFERENCES schools (id),
    account_id bigint NOT NULL,
    weekday    integer NOT NULL CHECK (weekday BETWEEN 0 AND 6),
    first      integer NOT NULL CHECK (first >= 0),
    last       integer NOT NULL CHECK (last > first AND last <= 1440),
    FOREIGN KEY (school_id, account_id) REFERENCES accounts (school_id, id) ON DELETE CASCADE
);

CREATE INDEX hours_by_account ON hours (school_id, account_id);

-- What somebody has decided about the jobs of lessons, by the jobs' ids.
CREATE TABLE job_edits (
    school_id bigint NOT NULL REFERENCES schools (id),
    lesson_id bigint NOT NULL,
    job       text NOT NULL,
    hands     integer NOT NULL, -- minutes; -1 as it is
    wait      integer NOT NULL,
    skip      boolean NOT NULL,
    PRIMARY KEY (school_id, lesson_id, job),
    FOREIGN KEY (school_id, lesson_id) REFERENCES lessons (school_id, id) ON DELETE CASCADE
);

CREATE TRIGGER movements_only_added BEFORE UPDATE OR DELETE ON movements FOR EACH ROW EXECUTE FUNCTION only_added();
CREATE TRIGGER ticks_only_added BEFORE UPDATE OR DELETE ON ticks FOR EACH ROW EXECUTE FUNCTION only_added();

-- +goose StatementBegin
DO $$
DECLARE name text;
BEGIN
    FOREACH name IN ARRAY ARRAY['suppliers', 'products', 'batches', 'movements', 'booked', 'decisions', 'orders', 'order_lines', 'ticks', 'homes',
        'contributions', 'beds', 'hours', 'job_edits'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY, FORCE ROW LEVEL SECURITY', name);
        EXECUTE format('CREATE POLICY of_school ON %I USING (school_id = current_school())', name);
    END LOOP;
END $$;
-- +goose StatementEnd

-- +goose Down
DROP TABLE job_edits, hours, beds, contributions, homes, ticks, order_lines, orders, decisions, booked, movements, batches, products, suppliers;
