-- Who books online: anybody, new people who have shown an address to be theirs, clients who have shown who they are.
ALTER TABLE business
    ADD COLUMN books_guests boolean NOT NULL DEFAULT true,
    ADD COLUMN books_new boolean NOT NULL DEFAULT false,
    ADD COLUMN books_known boolean NOT NULL DEFAULT true,
    ADD CONSTRAINT business_books_somebody CHECK ((books_guests OR books_known) AND (books_known OR NOT books_new));

-- A client's own password, good as long as they are reached at the address it was set for.
CREATE TABLE client_password (
    client_id uuid PRIMARY KEY REFERENCES client,
    address text NOT NULL,
    hash text NOT NULL,
    set_at timestamptz NOT NULL
);
CREATE INDEX ON client_password (address);
CREATE INDEX ON own_session (address);

-- What somebody looked for online and did not find: no personal data; each device counts once a day for the same search.
CREATE TABLE unmet_search (
    id uuid PRIMARY KEY,
    at timestamptz NOT NULL,
    -- The day at the location, and hashes that mean nothing elsewhere and are forgotten once the day is over.
    date date NOT NULL,
    device_hash bytea CHECK (octet_length(device_hash) = 32),
    search_hash bytea CHECK (octet_length(search_hash) = 32),
    location_id uuid NOT NULL REFERENCES location,
    service_id uuid NOT NULL REFERENCES service,
    practitioner_id uuid REFERENCES practitioner,
    from_date date NOT NULL,
    to_date date NOT NULL CHECK (to_date >= from_date),
    part text CHECK (part IN ('Morning', 'Afternoon', 'Evening')),
    days text NOT NULL CHECK (days IN ('Any', 'MondayToFriday', 'Weekend')),
    gate text NOT NULL CHECK (gate IN ('Client', 'Service', 'Date', 'OpeningHours', 'StartGrid', 'Practitioner', 'RoomAndEquipment',
        'Gap')),
    UNIQUE (date, device_hash, search_hash)
);
CREATE INDEX ON unmet_search (location_id, date);
CREATE INDEX ON unmet_search (at) WHERE device_hash IS NOT NULL;
CREATE INDEX ON unmet_search (service_id);
CREATE INDEX ON unmet_search (practitioner_id) WHERE practitioner_id IS NOT NULL;
