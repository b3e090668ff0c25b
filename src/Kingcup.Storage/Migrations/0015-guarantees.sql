-- What clients give when they book, and what it costs to stay away.

CREATE TABLE guarantee_rule (
    id uuid PRIMARY KEY,
    -- Where it is set: one of these.
    service_id uuid REFERENCES service,
    category_id uuid REFERENCES category,
    location_id uuid REFERENCES location,
    only_new boolean NOT NULL,
    no_shows int CHECK (no_shows BETWEEN 1 AND 20),
    months int NOT NULL CHECK (months BETWEEN 1 AND 60),
    -- Minor units.
    from_price bigint CHECK (from_price BETWEEN 1 AND 100000000),
    -- 1 for Monday; none for any.
    weekdays int[] NOT NULL CHECK (weekdays <@ ARRAY[1, 2, 3, 4, 5, 6, 7]),
    -- Minutes from midnight; both or neither.
    from_minute int CHECK (from_minute BETWEEN 0 AND 1439),
    until_minute int CHECK (until_minute BETWEEN 1 AND 1440),
    not_for_plan_holders boolean NOT NULL,
    demand text NOT NULL CHECK (demand IN ('Nothing', 'Card', 'Fixed', 'Percent', 'All')),
    -- Minor units of a fixed amount, whole percent.
    value bigint NOT NULL,
    position int NOT NULL,
    version bigint NOT NULL DEFAULT 1,
    CHECK (num_nonnulls(service_id, category_id, location_id) = 1),
    CHECK ((from_minute IS NULL) = (until_minute IS NULL)),
    CHECK (from_minute < until_minute),
    CHECK (CASE demand WHEN 'Fixed' THEN value BETWEEN 1 AND 100000000 WHEN 'Percent' THEN value BETWEEN 1 AND 100 ELSE value = 0 END)
);

-- A policy is never changed: a visit keeps the one it was booked under.
CREATE TABLE cancellation_policy (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    location_id uuid NOT NULL REFERENCES location,
    at timestamptz NOT NULL,
    below_percent int NOT NULL CHECK (below_percent BETWEEN 0 AND 100),
    below_loses_credit boolean NOT NULL,
    no_show_percent int NOT NULL CHECK (no_show_percent BETWEEN 0 AND 100),
    no_show_loses_credit boolean NOT NULL,
    move_notice_hours int NOT NULL CHECK (move_notice_hours BETWEEN 0 AND 720),
    -- How many moves are free; null for any number.
    free_moves int CHECK (free_moves BETWEEN 0 AND 20),
    UNIQUE (id, location_id)
);

CREATE TABLE cancellation_tier (
    policy_id bigint NOT NULL REFERENCES cancellation_policy,
    hours int NOT NULL CHECK (hours BETWEEN 1 AND 720),
    percent int NOT NULL CHECK (percent BETWEEN 0 AND 100),
    loses_credit boolean NOT NULL,
    PRIMARY KEY (policy_id, hours)
);

CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON cancellation_policy
    FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON cancellation_tier
    FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

-- The policy that holds for what is booked now.
ALTER TABLE location ADD COLUMN policy_id bigint, ADD FOREIGN KEY (policy_id, id) REFERENCES cancellation_policy (id, location_id);

ALTER TABLE visit
    -- The policy it was booked under; null for none.
    ADD COLUMN policy_id bigint,
    -- How often its client has moved it.
    ADD COLUMN moves int NOT NULL DEFAULT 0 CHECK (moves >= 0),
    ADD FOREIGN KEY (policy_id, location_id) REFERENCES cancellation_policy (id, location_id);

CREATE TRIGGER setup_changed AFTER INSERT OR UPDATE OR DELETE ON guarantee_rule
    FOR EACH STATEMENT EXECUTE FUNCTION bump_setup_revision();
