-- Views of the agenda that somebody has saved by name; those without an owner are for all.

CREATE TABLE saved_view (
    id uuid PRIMARY KEY,
    staff_id uuid REFERENCES staff ON DELETE CASCADE,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 60 AND name = btrim(name)),
    query text NOT NULL CHECK (length(query) <= 4000),
    created_by uuid NOT NULL,
    created_at timestamptz NOT NULL
);
CREATE UNIQUE INDEX ON saved_view (coalesce(staff_id, '00000000-0000-0000-0000-000000000000'), lower(name));

-- The reasons for cancelling that are offered at the desk.
ALTER TABLE business ADD COLUMN cancel_reasons text[] NOT NULL
    DEFAULT ARRAY['Ill', 'Changed their mind', 'Something came up', 'Practitioner is away', 'Booked by mistake']
    CHECK (cardinality(cancel_reasons) <= 20 AND array_position(cancel_reasons, NULL) IS NULL);
-- What they are in a new business is for the program to say.
ALTER TABLE business ALTER COLUMN cancel_reasons DROP DEFAULT;

-- Time in which clients book nothing online, and the desk goes on.
ALTER TABLE blocked_time DROP CONSTRAINT blocked_time_kind_check,
    ADD CONSTRAINT blocked_time_kind_check CHECK (kind IN ('Block', 'TimeOff', 'Online'));

-- An agenda may be of all locations.
CREATE INDEX ON visit (date);

-- A room that was knowingly chosen although it is none that the service asks for.
ALTER TABLE claim ADD COLUMN unsuited boolean NOT NULL DEFAULT false;
