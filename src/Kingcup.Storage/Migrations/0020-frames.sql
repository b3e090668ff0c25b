-- The sites that may show the booking page in a frame of theirs.
ALTER TABLE business ADD COLUMN frame_sites text[] NOT NULL DEFAULT '{}'
    CHECK (cardinality(frame_sites) <= 10
        AND array_to_string(frame_sites, ' ') ~ '^(https?://[a-z0-9.-]+(:[0-9]{1,5})?( |$))*$');
