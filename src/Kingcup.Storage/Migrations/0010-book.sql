-- Rooms and lengths chosen by hand, since when a visit stands where it stands, and what each person did last, so that it can be undone.

ALTER TABLE appointment
    -- The length somebody has set by hand, add-ons included; null where service, practitioner and add-ons say it.
    ADD COLUMN set_minutes int CHECK (set_minutes BETWEEN 5 AND 720 AND set_minutes % 5 = 0),
    -- Whether somebody has chosen the room.
    ADD COLUMN room_asked boolean NOT NULL DEFAULT false;

-- Lines change places in one statement.
ALTER TABLE appointment DROP CONSTRAINT appointment_visit_id_line_key;
ALTER TABLE appointment ADD CONSTRAINT appointment_visit_id_line_key UNIQUE (visit_id, line) DEFERRABLE;

-- Since when it has stood where it stands: a step is easily taken back while it is fresh.
ALTER TABLE visit ADD COLUMN state_since timestamptz;
UPDATE visit v SET state_since = coalesce(
    (SELECT max(h.at) FROM history h WHERE h.subject_id = v.id AND h.action IN ('State', 'Cancelled')), v.created_at);
ALTER TABLE visit ALTER COLUMN state_since SET NOT NULL;

-- Visits that repeat: all of a row carry its name.
ALTER TABLE visit ADD COLUMN series_id uuid;
CREATE INDEX ON visit (series_id, starts_at) WHERE series_id IS NOT NULL;

-- What somebody did in the book, newest last. What it changed is kept as it was before.
CREATE TABLE step (
    id uuid PRIMARY KEY,
    place bigint NOT NULL GENERATED ALWAYS AS IDENTITY,
    staff_id uuid NOT NULL REFERENCES staff ON DELETE CASCADE,
    at timestamptz NOT NULL,
    kind text NOT NULL CHECK (kind IN ('Booked', 'Moved', 'Changed', 'Cancelled', 'State')),
    undone_at timestamptz
);
CREATE INDEX ON step (staff_id, place);

CREATE TABLE step_visit (
    step_id uuid NOT NULL REFERENCES step ON DELETE CASCADE,
    visit_id uuid NOT NULL,
    -- The version the step left behind.
    version bigint NOT NULL,
    -- How it stood before; null where there was nothing.
    before jsonb,
    PRIMARY KEY (step_id, visit_id)
);
