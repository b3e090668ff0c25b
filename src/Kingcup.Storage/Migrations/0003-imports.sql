-- Imports under way, who cancelled, and an index for the visits ahead.

ALTER TABLE import
    ADD COLUMN state text NOT NULL DEFAULT 'Uploaded'
        CHECK (state IN ('Uploaded', 'Checking', 'Checked', 'Importing', 'Imported', 'Undoing', 'Undone', 'Failed')),
    -- Kept until the rows are in, a week at the most.
    ADD COLUMN file bytea,
    ADD COLUMN encoding text NOT NULL DEFAULT 'utf-8',
    ADD COLUMN delimiter text NOT NULL DEFAULT ',' CHECK (length(delimiter) = 1),
    ADD COLUMN heads text[] NOT NULL DEFAULT '{}',
    ADD COLUMN mapping jsonb,
    ADD COLUMN rows_done int NOT NULL DEFAULT 0 CHECK (rows_done >= 0),
    ADD COLUMN good int NOT NULL DEFAULT 0 CHECK (good >= 0),
    ADD COLUMN bad int NOT NULL DEFAULT 0 CHECK (bad >= 0),
    ADD COLUMN known int NOT NULL DEFAULT 0 CHECK (known >= 0),
    -- Names of what is made beside the rows, such as categories that were not there.
    ADD COLUMN made text[] NOT NULL DEFAULT '{}',
    -- What could not be taken back when the import was undone.
    ADD COLUMN kept int NOT NULL DEFAULT 0 CHECK (kept >= 0),
    ADD COLUMN good_rows_only boolean NOT NULL DEFAULT false,
    ADD COLUMN error text,
    ADD COLUMN version bigint NOT NULL DEFAULT 1,
    ADD CHECK (rows >= 0 AND added >= 0);

CREATE INDEX import_at ON import (at DESC);

ALTER TABLE import_row ADD COLUMN subject_kind text NOT NULL DEFAULT 'client'
    CHECK (subject_kind IN ('client', 'service', 'practitioner', 'category', 'qualification'));

-- Rows that cannot be taken, or need not be because what they say is there.
CREATE TABLE import_fault (
    import_id uuid NOT NULL REFERENCES import ON DELETE CASCADE,
    place int NOT NULL,
    line int NOT NULL,
    is_known boolean NOT NULL,
    field text,
    message text NOT NULL,
    cells text[] NOT NULL,
    PRIMARY KEY (import_id, place)
);

CREATE INDEX visit_ahead ON visit (ends_at) WHERE state IN ('Requested', 'Confirmed');

-- Who cancelled a visit, and whether the notice the client owes was past by then.
ALTER TABLE visit
    ADD COLUMN cancelled_by text CHECK (cancelled_by IN ('Client', 'Business')),
    ADD COLUMN cancelled_late boolean NOT NULL DEFAULT false,
    ADD CHECK (cancelled_by IS NULL OR state = 'Cancelled'),
    ADD CHECK (NOT cancelled_late OR cancelled_by = 'Client');
