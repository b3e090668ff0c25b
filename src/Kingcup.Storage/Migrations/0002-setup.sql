-- The whole setup: pictures, rules at three places, limits, add-ons, repeating blocks, retirement, sign-in links, imports.

-- Files ----------------------------------------------------------------------------------------------------------

CREATE TABLE stored_file (
    id uuid PRIMARY KEY,
    kind text NOT NULL CHECK (kind IN ('picture', 'evidence')),
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 200),
    content_type text NOT NULL,
    bytes bytea NOT NULL CHECK (octet_length(bytes) BETWEEN 1 AND 10485760),
    created_at timestamptz NOT NULL
);

-- Business -------------------------------------------------------------------------------------------------------

CREATE DOMAIN colour AS text CHECK (VALUE ~ '^#[0-9A-F]{6}$');

ALTER TABLE business
    ADD COLUMN version bigint NOT NULL DEFAULT 1,
    ADD COLUMN about text NOT NULL DEFAULT '' CHECK (length(about) <= 2000),
    ADD COLUMN colour_main colour NOT NULL DEFAULT '#17594A',
    ADD COLUMN colour_accent colour NOT NULL DEFAULT '#F4B400',
    ADD COLUMN logo_id uuid REFERENCES stored_file,
    ADD COLUMN guide_finished boolean NOT NULL DEFAULT false,
    ADD CHECK (length(locale) BETWEEN 2 AND 35);

CREATE TABLE tax_rate (
    id uuid PRIMARY KEY,
    name short_text NOT NULL UNIQUE,
    -- Hundredths of a percent: 13.5 % is 1350.
    basis_points int NOT NULL CHECK (basis_points BETWEEN 0 AND 10000),
    position int NOT NULL
);

-- Rules of online booking, the same at every place that may set them ----------------------------------------------

DO $$
DECLARE place text;
BEGIN
    ALTER TABLE category
        ADD COLUMN grid text CHECK (grid IN ('EveryMinutes', 'BackToBack', 'SetTimes')),
        ADD COLUMN every_minutes grain_minutes CHECK (every_minutes > 0),
        ADD COLUMN lead_minutes int CHECK (lead_minutes >= 0),
        ADD COLUMN horizon_days int CHECK (horizon_days BETWEEN 0 AND 730);
    FOREACH place IN ARRAY ARRAY['location', 'category', 'service'] LOOP
        EXECUTE format(
            $f$ALTER TABLE %I
                ADD COLUMN new_lead_minutes int CHECK (new_lead_minutes >= 0),
                ADD COLUMN new_horizon_days int CHECK (new_horizon_days BETWEEN 0 AND 730),
                ADD COLUMN gap text CHECK (gap IN ('Off', 'Prefer', 'Strict')),
                ADD COLUMN shortest_gap_minutes grain_minutes CHECK (shortest_gap_minutes > 0),
                ADD COLUMN assignment text CHECK (assignment IN ('HouseOrder', 'EvenLoad', 'TightFit')),
                ADD COLUMN choice text CHECK (choice IN ('ClientMay', 'ClientMust', 'House')),
                ADD COLUMN approval text CHECK (approval IN ('Nobody', 'NewClients', 'Everyone')),
                ADD COLUMN move_notice_hours int CHECK (move_notice_hours BETWEEN 0 AND 2160),
                ADD COLUMN cancel_notice_hours int CHECK (cancel_notice_hours BETWEEN 0 AND 2160),
                ADD COLUMN version bigint NOT NULL DEFAULT 1$f$, place);
    END LOOP;
END $$;

ALTER TABLE location
    ADD COLUMN phone text NOT NULL DEFAULT '' CHECK (length(phone) <= 40),
    ADD COLUMN no_show_times int CHECK (no_show_times BETWEEN 1 AND 50),
    ADD COLUMN no_show_months int CHECK (no_show_months BETWEEN 1 AND 60),
    ADD COLUMN no_show_action text CHECK (no_show_action IN ('Refuse', 'Approve')),
    ADD CHECK ((no_show_times IS NULL) = (no_show_months IS NULL) AND (no_show_times IS NULL) = (no_show_action IS NULL));

CREATE TABLE online_stop (
    location_id uuid NOT NULL REFERENCES location,
    date date NOT NULL,
    reason short_text NOT NULL,
    PRIMARY KEY (location_id, date)
);

-- People, rooms, equipment ---------------------------------------------------------------------------------------

ALTER TABLE resource
    ADD COLUMN version bigint NOT NULL DEFAULT 1,
    -- The first local date on which it is no longer used.
    ADD COLUMN retired_from date,
    -- How many units count now; rows of resource_unit stay where something was once held on them.
    ADD COLUMN units smallint NOT NULL DEFAULT 1 CHECK (units BETWEEN 1 AND 200);
UPDATE resource SET units = (SELECT count(*) FROM resource_unit WHERE resource_id = id);

ALTER TABLE practitioner
    ADD COLUMN phone text CHECK (phone ~ '^\+[0-9]{5,15}$'),
    ADD COLUMN email text CHECK (email = lower(email) AND length(email) <= 254),
    ADD COLUMN languages text[] NOT NULL DEFAULT '{}',
    ADD COLUMN tint smallint NOT NULL DEFAULT 0 CHECK (tint BETWEEN 0 AND 11),
    ADD COLUMN photo_id uuid REFERENCES stored_file,
    ADD COLUMN most_appointments int CHECK (most_appointments BETWEEN 0 AND 200),
    ADD COLUMN most_minutes int CHECK (most_minutes BETWEEN 0 AND 1440 AND most_minutes % 5 = 0);

CREATE TABLE practitioner_limit (
    practitioner_id uuid NOT NULL REFERENCES practitioner,
    category_id uuid NOT NULL REFERENCES category,
    most_appointments int NOT NULL CHECK (most_appointments BETWEEN 0 AND 200),
    PRIMARY KEY (practitioner_id, category_id)
);

ALTER TABLE held_qualification ADD COLUMN evidence_id uuid REFERENCES stored_file;
ALTER TABLE qualification ADD COLUMN version bigint NOT NULL DEFAULT 1, ADD COLUMN warn_days int NOT NULL DEFAULT 30 CHECK (warn_days BETWEEN 0 AND 365);

CREATE TABLE feature (
    name short_text PRIMARY KEY
);
INSERT INTO feature SELECT DISTINCT unnest(features) FROM room ON CONFLICT DO NOTHING;

ALTER TABLE blocked_time ADD COLUMN kind text NOT NULL DEFAULT 'Block' CHECK (kind IN ('Block', 'TimeOff'));

CREATE TABLE repeating_block (
    id uuid PRIMARY KEY,
    resource_id uuid NOT NULL REFERENCES resource,
    first_date date NOT NULL,
    rule text NOT NULL CHECK (rule ~ '^FREQ=(DAILY|WEEKLY|MONTHLY|YEARLY)' AND length(rule) <= 200),
    from_time wall_time NOT NULL,
    until_time wall_time NOT NULL CHECK (until_time > from_time OR until_time = '00:00'),
    reason short_text NOT NULL
);

-- A date of a repeating block at another time, or, without times, left out.
CREATE TABLE repeating_block_date (
    block_id uuid NOT NULL REFERENCES repeating_block ON DELETE CASCADE,
    date date NOT NULL,
    from_time wall_time,
    until_time wall_time CHECK (until_time > from_time OR until_time = '00:00'),
    PRIMARY KEY (block_id, date),
    CHECK ((from_time IS NULL) = (until_time IS NULL))
);

-- Services -------------------------------------------------------------------------------------------------------

ALTER TABLE service
    ADD COLUMN kind text NOT NULL DEFAULT 'OneToOne' CHECK (kind IN ('OneToOne', 'Group')),
    ADD COLUMN seats smallint NOT NULL DEFAULT 1 CHECK (seats BETWEEN 1 AND 500),
    ADD COLUMN price_form text NOT NULL DEFAULT 'Fixed' CHECK (price_form IN ('Fixed', 'From', 'Hourly', 'Free', 'OnRequest')),
    ADD COLUMN online_name text CHECK (length(online_name) BETWEEN 1 AND 200),
    ADD COLUMN online_minutes int CHECK (online_minutes BETWEEN 1 AND 1440),
    ADD COLUMN client_kind text NOT NULL DEFAULT 'Everyone' CHECK (client_kind IN ('Everyone', 'NewOnly', 'ReturningOnly')),
    -- Month and day, MM-DD; both or neither.
    ADD COLUMN season_from text CHECK (season_from ~ '^(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])$'),
    ADD COLUMN season_until text CHECK (season_until ~ '^(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01])$'),
    ADD COLUMN archived_at timestamptz,
    ADD COLUMN link text NOT NULL UNIQUE DEFAULT replace(gen_random_uuid()::text, '-', ''),
    ADD COLUMN picture_id uuid REFERENCES stored_file,
    ADD COLUMN return_days int CHECK (return_days BETWEEN 1 AND 1000),
    ADD COLUMN tax_rate_id uuid REFERENCES tax_rate,
    ADD CHECK ((season_from IS NULL) = (season_until IS NULL)),
    ADD CHECK (length(description) <= 10000);

CREATE TABLE add_on (
    id uuid PRIMARY KEY,
    name short_text NOT NULL UNIQUE,
    minutes grain_minutes NOT NULL,
    price bigint NOT NULL CHECK (price >= 0),
    most smallint NOT NULL DEFAULT 1 CHECK (most BETWEEN 1 AND 20),
    position int NOT NULL,
    version bigint NOT NULL DEFAULT 1,
    archived_at timestamptz
);

CREATE TABLE service_add_on (
    service_id uuid NOT NULL REFERENCES service,
    add_on_id uuid NOT NULL REFERENCES add_on,
    suggested boolean NOT NULL DEFAULT false,
    PRIMARY KEY (service_id, add_on_id)
);

CREATE TABLE appointment_add_on (
    appointment_id uuid NOT NULL REFERENCES appointment ON DELETE CASCADE,
    add_on_id uuid NOT NULL REFERENCES add_on,
    count smallint NOT NULL CHECK (count BETWEEN 1 AND 20),
    -- Of all of them together, as agreed when it was booked.
    minutes grain_minutes NOT NULL,
    price bigint NOT NULL CHECK (price >= 0),
    PRIMARY KEY (appointment_id, add_on_id)
);

DO $$
DECLARE name text;
BEGIN
    FOREACH name IN ARRAY ARRAY['tax_rate', 'online_stop', 'practitioner_limit', 'feature', 'repeating_block', 'repeating_block_date', 'add_on', 'service_add_on']
    LOOP
        EXECUTE format('CREATE TRIGGER setup_changed AFTER INSERT OR UPDATE OR DELETE ON %I FOR EACH STATEMENT EXECUTE FUNCTION bump_setup_revision()', name);
    END LOOP;
END $$;

-- Clients --------------------------------------------------------------------------------------------------------

ALTER TABLE client ADD COLUMN may_book_online boolean NOT NULL DEFAULT true;
ALTER TABLE visit ADD COLUMN cancelled_at timestamptz;

-- Sign-in --------------------------------------------------------------------------------------------------------

ALTER TABLE staff
    ADD COLUMN version bigint NOT NULL DEFAULT 1,
    ADD COLUMN edits_own_shifts boolean NOT NULL DEFAULT false,
    ADD COLUMN signed_off boolean NOT NULL DEFAULT false;

-- A link that lets somebody choose a password, once. Only the hash of its token is kept.
CREATE TABLE sign_in_link (
    token_hash bytea PRIMARY KEY,
    staff_id uuid NOT NULL REFERENCES staff,
    expires_at timestamptz NOT NULL,
    used_at timestamptz
);

-- Imports --------------------------------------------------------------------------------------------------------

CREATE TABLE import (
    id uuid PRIMARY KEY,
    kind text NOT NULL CHECK (kind IN ('clients', 'services', 'practitioners')),
    file_name text NOT NULL CHECK (length(file_name) <= 200),
    actor text NOT NULL,
    at timestamptz NOT NULL,
    rows int NOT NULL,
    added int NOT NULL,
    undone_at timestamptz
);

CREATE TABLE import_row (
    import_id uuid NOT NULL REFERENCES import,
    subject_id uuid NOT NULL,
    PRIMARY KEY (import_id, subject_id)
);

CREATE INDEX history_kind ON history (subject_kind, id);
