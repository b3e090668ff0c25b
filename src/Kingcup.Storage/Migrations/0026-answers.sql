-- Questions answered with a tick, a number, a date or a file.
ALTER TABLE question DROP CONSTRAINT question_kind_check;
ALTER TABLE question
    ADD CONSTRAINT question_kind_check CHECK (kind IN ('Line', 'Text', 'YesNo', 'OneOf', 'Tick', 'Number', 'Date', 'File'));

ALTER TABLE stored_file DROP CONSTRAINT stored_file_kind_check;
ALTER TABLE stored_file ADD CONSTRAINT stored_file_kind_check CHECK (kind IN ('picture', 'evidence', 'answer'));

-- Files sent for a booking, by whoever has their token. Those no visit needs are removed after a while.
CREATE TABLE answer_file (
    file_id uuid PRIMARY KEY REFERENCES stored_file ON DELETE CASCADE,
    token_hash bytea NOT NULL UNIQUE CHECK (octet_length(token_hash) = 32),
    device_hash bytea NOT NULL CHECK (octet_length(device_hash) = 32),
    range_hash bytea NOT NULL CHECK (octet_length(range_hash) = 32),
    sent_at timestamptz NOT NULL
);

-- How it was asked for then: a date, a number and a file are shown as what they are.
ALTER TABLE visit_answer
    ADD COLUMN kind text NOT NULL DEFAULT 'Line' CHECK (kind IN ('Line', 'Text', 'YesNo', 'OneOf', 'Tick', 'Number', 'Date', 'File')),
    ADD COLUMN file_id uuid REFERENCES stored_file;
UPDATE visit_answer a SET kind = q.kind FROM question q WHERE q.id = a.question_id;
ALTER TABLE visit_answer ALTER COLUMN kind DROP DEFAULT, ADD CHECK ((kind = 'File') = (file_id IS NOT NULL));
CREATE INDEX visit_answer_file ON visit_answer (file_id) WHERE file_id IS NOT NULL;

-- What the client has written to the business when they booked; the note beside it is the staff's.
ALTER TABLE visit ADD COLUMN client_note text NOT NULL DEFAULT '' CHECK (length(client_note) <= 500);

-- Whether the booking page shows the telephone number always, only where nothing is left to book, or never.
ALTER TABLE business
    ADD COLUMN phone_shown text NOT NULL DEFAULT 'Always' CHECK (phone_shown IN ('Always', 'WhenFull', 'Never'));
