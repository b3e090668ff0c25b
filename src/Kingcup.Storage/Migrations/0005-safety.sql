-- What clients read apart from what staff wrote, attention and kept shifts, sessions that end, and limits that hold over all servers.

-- The reason of a closure was written for the house; clients read only what is written for them.
ALTER TABLE closure ADD COLUMN for_clients short_text;

-- Practitioners who look after several clients at once, in services that allow it.
ALTER TABLE service ADD COLUMN beside_others boolean NOT NULL DEFAULT false;

-- A shift may be kept for some services or categories; with both empty it is for all.
ALTER TABLE shift
    ADD COLUMN service_ids uuid[] NOT NULL DEFAULT '{}',
    ADD COLUMN category_ids uuid[] NOT NULL DEFAULT '{}';

-- A client whom the business knew before the book did.
ALTER TABLE client ADD COLUMN known_before boolean NOT NULL DEFAULT false;

-- How many visits booked online one person may have open at once.
ALTER TABLE business ADD COLUMN most_open_online int NOT NULL DEFAULT 5 CHECK (most_open_online BETWEEN 1 AND 100);

-- Where an online booking came from, as keyed hashes: of the address range and of the device.
ALTER TABLE visit ADD COLUMN range_hash bytea, ADD COLUMN device_hash bytea;
CREATE INDEX visit_range ON visit (range_hash, ends_at) WHERE source = 'Online' AND state IN ('Requested', 'Confirmed');
CREATE INDEX visit_device ON visit (device_hash, ends_at) WHERE source = 'Online' AND state IN ('Requested', 'Confirmed');

-- Secrets of this database, such as the key of those hashes.
CREATE TABLE secret (
    name text PRIMARY KEY,
    value bytea NOT NULL CHECK (octet_length(value) >= 32)
);

-- Sign-in --------------------------------------------------------------------------------------------------------

ALTER TABLE staff
    ADD COLUMN sees_contacts boolean NOT NULL DEFAULT false,
    -- The shared secret of the second factor (RFC 6238), and the last time step that was used.
    ADD COLUMN totp_secret bytea,
    ADD COLUMN totp_confirmed boolean NOT NULL DEFAULT false,
    ADD COLUMN totp_step bigint NOT NULL DEFAULT 0,
    DROP COLUMN failures,
    DROP COLUMN locked_until;

ALTER TABLE business ADD COLUMN owners_need_code boolean NOT NULL DEFAULT false;

CREATE TABLE session (
    id uuid PRIMARY KEY,
    staff_id uuid NOT NULL REFERENCES staff,
    created_at timestamptz NOT NULL,
    seen_at timestamptz NOT NULL,
    -- However much it is used.
    expires_at timestamptz NOT NULL CHECK (expires_at > created_at),
    ended_at timestamptz,
    device text NOT NULL DEFAULT '' CHECK (length(device) <= 120)
);
CREATE INDEX ON session (staff_id) WHERE ended_at IS NULL;

-- Failed sign-ins of one account from one address range; only hashes of both are kept.
CREATE TABLE sign_in_failure (
    account_hash bytea NOT NULL,
    range_hash bytea NOT NULL,
    failures int NOT NULL CHECK (failures > 0),
    since timestamptz NOT NULL,
    PRIMARY KEY (account_hash, range_hash)
);

-- How often an address range has asked in one minute, over all servers. Losing it in a crash does no harm.
CREATE UNLOGGED TABLE request_count (
    policy text NOT NULL,
    range_hash bytea NOT NULL,
    minute bigint NOT NULL,
    taken int NOT NULL CHECK (taken >= 0),
    PRIMARY KEY (policy, range_hash, minute)
);

-- First answers are given again as they were ------------------------------------------------------------------------

ALTER TABLE idempotency ADD COLUMN location text;

-- Searches ---------------------------------------------------------------------------------------------------------

-- Changes of the setup, newest first, without a look at every visit's and client's.
CREATE INDEX history_setup ON history (id DESC) WHERE subject_kind NOT IN ('visit', 'client');
