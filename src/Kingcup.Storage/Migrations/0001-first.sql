-- The first schema: setup, clients, the book, history, sign-in.
-- Instants are timestamptz, wall times date and time, money bigint minor units, keys uuid version 7.

CREATE EXTENSION IF NOT EXISTS btree_gist;
CREATE EXTENSION IF NOT EXISTS pg_trgm;

CREATE DOMAIN short_text AS text CHECK (length(VALUE) BETWEEN 1 AND 200 AND VALUE = btrim(VALUE));
CREATE DOMAIN grain_minutes AS int CHECK (VALUE >= 0 AND VALUE % 5 = 0 AND VALUE <= 1440);
CREATE DOMAIN wall_time AS time CHECK (extract(second FROM VALUE) = 0 AND extract(minute FROM VALUE)::int % 5 = 0);

-- Setup ----------------------------------------------------------------------------------------------------------

CREATE TABLE business (
    id smallint PRIMARY KEY DEFAULT 1 CHECK (id = 1),
    name short_text NOT NULL,
    currency text NOT NULL CHECK (currency ~ '^[A-Z]{3}$'),
    locale text NOT NULL,
    region text NOT NULL CHECK (region ~ '^[A-Z]{2}$'),
    phone text,
    is_demo boolean NOT NULL DEFAULT false,
    -- How far the clock of a demo business runs ahead of the real one.
    clock_ahead_seconds bigint NOT NULL DEFAULT 0 CHECK (clock_ahead_seconds = 0 OR is_demo),
    -- Counts every change of the setup, so that a server knows when what it remembers is out of date.
    setup_revision bigint NOT NULL DEFAULT 1
);

CREATE TABLE location (
    id uuid PRIMARY KEY,
    name short_text NOT NULL UNIQUE,
    zone text NOT NULL,
    address text NOT NULL DEFAULT '',
    position int NOT NULL,
    bookable_online boolean NOT NULL DEFAULT true,
    longest_wait_minutes grain_minutes NOT NULL DEFAULT 0,
    grid text CHECK (grid IN ('EveryMinutes', 'BackToBack', 'SetTimes')),
    every_minutes grain_minutes CHECK (every_minutes > 0),
    lead_minutes int CHECK (lead_minutes >= 0),
    horizon_days int CHECK (horizon_days BETWEEN 0 AND 730)
);

CREATE TABLE travel (
    from_location_id uuid NOT NULL REFERENCES location,
    to_location_id uuid NOT NULL REFERENCES location,
    minutes grain_minutes NOT NULL,
    PRIMARY KEY (from_location_id, to_location_id),
    CHECK (from_location_id <> to_location_id)
);

CREATE TABLE opening_hours (
    location_id uuid NOT NULL REFERENCES location,
    weekday smallint NOT NULL CHECK (weekday BETWEEN 1 AND 7),
    from_time wall_time NOT NULL,
    -- Midnight as an end means the end of the day, here and in every table of stretches.
    until_time wall_time NOT NULL CHECK (until_time > from_time OR until_time = '00:00'),
    PRIMARY KEY (location_id, weekday, from_time)
);

CREATE TABLE closure (
    location_id uuid NOT NULL REFERENCES location,
    date date NOT NULL,
    yearly boolean NOT NULL,
    reason short_text NOT NULL,
    PRIMARY KEY (location_id, date)
);

CREATE TABLE resource (
    id uuid PRIMARY KEY,
    kind text NOT NULL CHECK (kind IN ('practitioner', 'room', 'equipment')),
    name short_text NOT NULL,
    position int NOT NULL,
    location_id uuid REFERENCES location,
    CHECK ((kind = 'practitioner') = (location_id IS NULL))
);

-- One row for each unit that can be held: a claim can name no unit that is not there.
CREATE TABLE resource_unit (
    resource_id uuid NOT NULL REFERENCES resource,
    unit smallint NOT NULL CHECK (unit >= 0),
    PRIMARY KEY (resource_id, unit)
);

CREATE TABLE practitioner (
    id uuid PRIMARY KEY REFERENCES resource,
    bio text NOT NULL DEFAULT '',
    bookable_online boolean NOT NULL DEFAULT true,
    accepts_new_clients boolean NOT NULL DEFAULT true
);

CREATE TABLE room (
    id uuid PRIMARY KEY REFERENCES resource,
    features text[] NOT NULL DEFAULT '{}',
    turnaround_minutes grain_minutes NOT NULL DEFAULT 0
);

CREATE TABLE equipment_pool (
    id uuid PRIMARY KEY REFERENCES resource,
    turnaround_minutes grain_minutes NOT NULL DEFAULT 0
);

CREATE TABLE qualification (
    id uuid PRIMARY KEY,
    name short_text NOT NULL UNIQUE
);

CREATE TABLE held_qualification (
    practitioner_id uuid NOT NULL REFERENCES practitioner,
    qualification_id uuid NOT NULL REFERENCES qualification,
    from_date date NOT NULL,
    until_date date CHECK (until_date >= from_date),
    PRIMARY KEY (practitioner_id, qualification_id, from_date)
);

CREATE TABLE rota (
    practitioner_id uuid NOT NULL REFERENCES practitioner,
    from_date date NOT NULL,
    weeks smallint NOT NULL CHECK (weeks BETWEEN 1 AND 52),
    PRIMARY KEY (practitioner_id, from_date)
);

-- A shift of a rota (week, weekday) or of a shift change (date).
CREATE TABLE shift_change (
    practitioner_id uuid NOT NULL REFERENCES practitioner,
    date date NOT NULL,
    works_during_closure boolean NOT NULL DEFAULT false,
    reason text,
    PRIMARY KEY (practitioner_id, date)
);

CREATE TABLE shift (
    id uuid PRIMARY KEY,
    practitioner_id uuid NOT NULL REFERENCES practitioner,
    rota_from date,
    week smallint CHECK (week >= 0),
    weekday smallint CHECK (weekday BETWEEN 1 AND 7),
    change_date date,
    location_id uuid NOT NULL REFERENCES location,
    from_time wall_time NOT NULL,
    until_time wall_time NOT NULL CHECK (until_time > from_time OR until_time = '00:00'),
    FOREIGN KEY (practitioner_id, rota_from) REFERENCES rota ON DELETE CASCADE,
    FOREIGN KEY (practitioner_id, change_date) REFERENCES shift_change ON DELETE CASCADE,
    CHECK ((rota_from IS NULL) = (week IS NULL) AND (rota_from IS NULL) = (weekday IS NULL) AND (rota_from IS NULL) <> (change_date IS NULL))
);
CREATE INDEX ON shift (practitioner_id);

CREATE TABLE shift_break (
    shift_id uuid NOT NULL REFERENCES shift ON DELETE CASCADE,
    from_time wall_time NOT NULL,
    until_time wall_time NOT NULL CHECK (until_time > from_time OR until_time = '00:00'),
    reason short_text NOT NULL,
    PRIMARY KEY (shift_id, from_time)
);

CREATE TABLE blocked_time (
    id uuid PRIMARY KEY,
    resource_id uuid NOT NULL REFERENCES resource,
    during tstzrange NOT NULL CHECK (NOT isempty(during) AND lower(during) IS NOT NULL AND upper(during) IS NOT NULL),
    reason short_text NOT NULL
);
CREATE INDEX ON blocked_time USING gist (during);

CREATE TABLE category (
    id uuid PRIMARY KEY,
    name short_text NOT NULL UNIQUE,
    position int NOT NULL
);

CREATE TABLE service (
    id uuid PRIMARY KEY,
    category_id uuid NOT NULL REFERENCES category,
    name short_text NOT NULL UNIQUE,
    description text NOT NULL DEFAULT '',
    position int NOT NULL,
    needs_room boolean NOT NULL,
    room_features text[] NOT NULL DEFAULT '{}',
    room_units smallint NOT NULL DEFAULT 1 CHECK (room_units >= 1),
    buffer_before_minutes grain_minutes NOT NULL DEFAULT 0,
    buffer_after_minutes grain_minutes NOT NULL DEFAULT 0,
    buffer_always boolean NOT NULL DEFAULT false,
    price bigint NOT NULL CHECK (price >= 0),
    visibility text NOT NULL CHECK (visibility IN ('Everyone', 'WithLink', 'ByPhone', 'Hidden')),
    grid text CHECK (grid IN ('EveryMinutes', 'BackToBack', 'SetTimes')),
    every_minutes grain_minutes CHECK (every_minutes > 0),
    lead_minutes int CHECK (lead_minutes >= 0),
    horizon_days int CHECK (horizon_days BETWEEN 0 AND 730),
    prerequisite_id uuid REFERENCES service,
    prerequisite_hours int CHECK (prerequisite_hours >= 0),
    prerequisite_days int CHECK (prerequisite_days > 0),
    weekdays smallint[] NOT NULL DEFAULT '{}',
    CHECK (prerequisite_id <> id),
    CHECK ((prerequisite_id IS NULL) = (prerequisite_hours IS NULL) AND (prerequisite_id IS NULL) = (prerequisite_days IS NULL))
);

CREATE TABLE service_location (
    service_id uuid NOT NULL REFERENCES service,
    location_id uuid NOT NULL REFERENCES location,
    PRIMARY KEY (service_id, location_id)
);

CREATE TABLE service_role (
    service_id uuid NOT NULL REFERENCES service,
    role smallint NOT NULL CHECK (role >= 0),
    name short_text NOT NULL,
    qualification_ids uuid[] NOT NULL DEFAULT '{}',
    added_ids uuid[] NOT NULL DEFAULT '{}',
    excluded_ids uuid[] NOT NULL DEFAULT '{}',
    PRIMARY KEY (service_id, role)
);

CREATE TABLE service_phase (
    service_id uuid NOT NULL REFERENCES service,
    phase smallint NOT NULL CHECK (phase >= 0),
    minutes grain_minutes NOT NULL CHECK (minutes > 0),
    attended_by smallint[] NOT NULL,
    PRIMARY KEY (service_id, phase)
);

CREATE TABLE service_phase_equipment (
    service_id uuid NOT NULL,
    phase smallint NOT NULL,
    pool_id uuid NOT NULL REFERENCES equipment_pool,
    units smallint NOT NULL CHECK (units >= 1),
    PRIMARY KEY (service_id, phase, pool_id),
    FOREIGN KEY (service_id, phase) REFERENCES service_phase
);

CREATE TABLE practitioner_terms (
    service_id uuid NOT NULL REFERENCES service,
    practitioner_id uuid NOT NULL REFERENCES practitioner,
    minutes grain_minutes CHECK (minutes > 0),
    price bigint CHECK (price >= 0),
    accepts_new_clients boolean NOT NULL DEFAULT true,
    PRIMARY KEY (service_id, practitioner_id)
);

CREATE TABLE service_set_time (
    service_id uuid NOT NULL REFERENCES service,
    practitioner_id uuid REFERENCES practitioner,
    weekday smallint NOT NULL CHECK (weekday BETWEEN 1 AND 7),
    at wall_time NOT NULL,
    UNIQUE NULLS NOT DISTINCT (service_id, practitioner_id, weekday, at)
);

CREATE FUNCTION bump_setup_revision() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    UPDATE business SET setup_revision = setup_revision + 1;
    RETURN NULL;
END $$;

DO $$
DECLARE name text;
BEGIN
    FOREACH name IN ARRAY ARRAY['location', 'travel', 'opening_hours', 'closure', 'resource', 'resource_unit', 'practitioner', 'room',
        'equipment_pool', 'qualification', 'held_qualification', 'rota', 'shift', 'shift_change', 'shift_break', 'blocked_time',
        'category', 'service', 'service_location', 'service_role', 'service_phase', 'service_phase_equipment', 'practitioner_terms', 'service_set_time']
    LOOP
        EXECUTE format('CREATE TRIGGER setup_changed AFTER INSERT OR UPDATE OR DELETE ON %I FOR EACH STATEMENT EXECUTE FUNCTION bump_setup_revision()', name);
    END LOOP;
END $$;

-- Clients --------------------------------------------------------------------------------------------------------

CREATE TABLE client (
    id uuid PRIMARY KEY,
    given_name text NOT NULL CHECK (length(given_name) BETWEEN 1 AND 80 AND given_name = btrim(given_name)),
    family_name text NOT NULL CHECK (length(family_name) BETWEEN 1 AND 80 AND family_name = btrim(family_name)),
    email text CHECK (email = lower(email) AND email ~ '^[^\s@]+@[^\s@]+\.[^\s@]+$' AND length(email) <= 254),
    phone text CHECK (phone ~ '^\+[0-9]{5,15}$'),
    alert text,
    household_id uuid,
    created_at timestamptz NOT NULL,
    search text NOT NULL GENERATED ALWAYS AS
        (lower(given_name || ' ' || family_name || ' ' || coalesce(email, '') || ' ' || coalesce(phone, ''))) STORED
);
CREATE INDEX client_search ON client USING gin (search gin_trgm_ops);
CREATE INDEX client_email ON client (email);
CREATE INDEX client_phone ON client (phone);

-- The book -------------------------------------------------------------------------------------------------------

-- A row for each date anything was ever booked on. Writers take its lock in date order, so that two desks never
-- decide about the same day at once; readers compare the revision with the one they remember.
CREATE TABLE book_day (
    date date PRIMARY KEY,
    revision bigint NOT NULL DEFAULT 1
);

CREATE TABLE visit (
    id uuid PRIMARY KEY,
    reference text NOT NULL UNIQUE CHECK (length(reference) = 8),
    location_id uuid NOT NULL REFERENCES location,
    client_id uuid NOT NULL REFERENCES client,
    date date NOT NULL,
    starts_at timestamptz NOT NULL,
    ends_at timestamptz NOT NULL CHECK (ends_at > starts_at),
    state text NOT NULL CHECK (state IN ('Requested', 'Confirmed', 'Arrived', 'InTreatment', 'Done', 'NoShow', 'Cancelled')),
    source text NOT NULL CHECK (source IN ('Desk', 'Online')),
    is_first boolean NOT NULL,
    note text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    cancel_reason text CHECK (length(cancel_reason) <= 500),
    created_at timestamptz NOT NULL,
    version bigint NOT NULL DEFAULT 1,
    CHECK ((state = 'Cancelled') = (cancel_reason IS NOT NULL))
);
CREATE INDEX ON visit (location_id, date);
CREATE INDEX ON visit (client_id, starts_at);

CREATE TABLE appointment (
    id uuid PRIMARY KEY,
    visit_id uuid NOT NULL REFERENCES visit,
    line smallint NOT NULL CHECK (line >= 0),
    service_id uuid NOT NULL REFERENCES service,
    starts_at timestamptz NOT NULL,
    ends_at timestamptz NOT NULL CHECK (ends_at > starts_at),
    price bigint NOT NULL CHECK (price >= 0),
    practitioner_asked boolean NOT NULL,
    UNIQUE (visit_id, line)
);

CREATE TABLE claim (
    id uuid PRIMARY KEY,
    appointment_id uuid NOT NULL REFERENCES appointment,
    location_id uuid NOT NULL REFERENCES location,
    resource_id uuid NOT NULL,
    unit smallint NOT NULL,
    role smallint,
    during tstzrange NOT NULL,
    -- Without buffers and turnaround.
    core tstzrange NOT NULL,
    live boolean NOT NULL DEFAULT true,
    overbooked boolean NOT NULL DEFAULT false,
    FOREIGN KEY (resource_id, unit) REFERENCES resource_unit,
    CHECK (NOT isempty(during) AND NOT isempty(core) AND core <@ during),
    CHECK (lower_inc(during) AND NOT upper_inc(during)),
    CHECK (extract(epoch FROM lower(during))::bigint % 300 = 0 AND extract(epoch FROM upper(during))::bigint % 300 = 0),
    -- No two live claims overlap on the same unit, whatever any program believes.
    CONSTRAINT claim_no_double_booking EXCLUDE USING gist (resource_id WITH =, unit WITH =, during WITH &&) WHERE (live AND NOT overbooked)
);
CREATE INDEX ON claim (appointment_id);
CREATE INDEX claim_during ON claim USING gist (during) WHERE (live);

-- Who changed what, when, from what to what ---------------------------------------------------------------------

CREATE TABLE history (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    at timestamptz NOT NULL,
    actor text NOT NULL,
    action text NOT NULL,
    subject_kind text NOT NULL,
    subject_id uuid NOT NULL,
    before jsonb,
    after jsonb
);
CREATE INDEX ON history (subject_id, id);

CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION '% is append-only', TG_TABLE_NAME USING ERRCODE = 'restrict_violation';
END $$;
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON history FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

-- Sign-in --------------------------------------------------------------------------------------------------------

CREATE TABLE staff (
    id uuid PRIMARY KEY,
    email text NOT NULL UNIQUE CHECK (email = lower(email)),
    name short_text NOT NULL,
    role text NOT NULL CHECK (role IN ('Owner', 'Manager', 'Desk', 'Practitioner', 'Bookkeeper')),
    practitioner_id uuid REFERENCES practitioner,
    password_hash text NOT NULL,
    -- Changes with the password and the role; a cookie made with another stamp is no longer good.
    stamp uuid NOT NULL,
    failures int NOT NULL DEFAULT 0,
    locked_until timestamptz
);

CREATE TABLE protection_key (
    name text PRIMARY KEY,
    xml text NOT NULL
);

-- The first answer to a request that creates something, given again to every retry with the same key.
CREATE TABLE idempotency (
    scope text NOT NULL,
    key text NOT NULL CHECK (length(key) BETWEEN 8 AND 100),
    fingerprint bytea NOT NULL,
    status int,
    body text,
    created_at timestamptz NOT NULL,
    PRIMARY KEY (scope, key)
);
CREATE INDEX ON idempotency (created_at);
