-- A time that somebody has for a while: whoever is choosing now, and whoever is asked or offered something.

CREATE TABLE proposal (
    id uuid PRIMARY KEY,
    kind text NOT NULL CHECK (kind IN ('Hold', 'Proposal')),
    -- Names it to whoever has it; the token itself is kept nowhere.
    token_hash bytea NOT NULL UNIQUE CHECK (octet_length(token_hash) = 32),
    location_id uuid NOT NULL REFERENCES location,
    date date NOT NULL,
    -- The first moment at which it counts for nobody.
    expires_at timestamptz NOT NULL,
    created_at timestamptz NOT NULL,
    -- Whose it is, for counting how many somebody has.
    device_hash bytea CHECK (octet_length(device_hash) = 32),
    range_hash bytea CHECK (octet_length(range_hash) = 32),
    -- Hash of what was asked for: what is taken up has to be the same.
    asked bytea NOT NULL CHECK (octet_length(asked) = 32),
    -- The setup its plan was made by.
    setup_revision bigint NOT NULL,
    -- The visit as it would lie: lines, extras, parts of the price, claims.
    visit jsonb NOT NULL,
    CHECK (created_at < expires_at),
    CHECK (kind <> 'Hold' OR (device_hash IS NOT NULL AND range_hash IS NOT NULL))
);
CREATE INDEX proposal_expiring ON proposal (expires_at);
CREATE INDEX proposal_of_device ON proposal (device_hash);
CREATE INDEX proposal_of_range ON proposal (range_hash);

-- What it holds goes with it; what it has become, a line, is its own.
ALTER TABLE occupation ADD COLUMN proposal_id uuid REFERENCES proposal ON DELETE CASCADE;
CREATE INDEX occupation_of_proposal ON occupation (proposal_id) WHERE proposal_id IS NOT NULL;
ALTER TABLE occupation ADD CHECK (kind IN ('Hold', 'Proposal') OR proposal_id IS NULL);
