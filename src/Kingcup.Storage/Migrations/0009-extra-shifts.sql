-- Shifts added over a range of dates in one go. What each day was before is kept, so that all of them are taken back in one go; a day
-- that has been changed since then stays as it was changed.
CREATE TABLE extra_shifts (
    id uuid PRIMARY KEY,
    from_date date NOT NULL,
    until_date date NOT NULL CHECK (until_date >= from_date),
    weekdays smallint[] NOT NULL CHECK (weekdays <@ '{1,2,3,4,5,6,7}'::smallint[]),
    location_id uuid NOT NULL REFERENCES location,
    from_time wall_time NOT NULL,
    until_time wall_time NOT NULL CHECK (until_time > from_time OR until_time = '00:00'),
    service_ids uuid[] NOT NULL,
    category_ids uuid[] NOT NULL,
    practitioner_ids uuid[] NOT NULL CHECK (cardinality(practitioner_ids) > 0),
    instead boolean NOT NULL,
    reason short_text,
    added_at timestamptz NOT NULL,
    added_by text NOT NULL
);
CREATE INDEX ON extra_shifts (until_date);

-- By which extra shifts a day was changed last; anything else that changes it takes their name away.
ALTER TABLE shift_change ADD COLUMN extra_id uuid REFERENCES extra_shifts ON DELETE SET NULL;
CREATE INDEX ON shift_change (extra_id) WHERE extra_id IS NOT NULL;

CREATE TABLE extra_shifts_day (
    extra_id uuid NOT NULL REFERENCES extra_shifts ON DELETE CASCADE,
    practitioner_id uuid NOT NULL REFERENCES practitioner,
    date date NOT NULL,
    -- The shift change that held before, and by which extra shifts; null where the rota did.
    before jsonb,
    before_extra_id uuid REFERENCES extra_shifts ON DELETE SET NULL,
    PRIMARY KEY (extra_id, practitioner_id, date)
);
CREATE INDEX ON extra_shifts_day (before_extra_id) WHERE before_extra_id IS NOT NULL;
