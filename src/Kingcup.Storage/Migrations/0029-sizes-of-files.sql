-- How large a file that was sent is, so that what waits is counted without reading it, and old ones are found by when they were sent.
ALTER TABLE answer_file ADD COLUMN size int CHECK (size > 0);
UPDATE answer_file a SET size = octet_length(f.bytes) FROM stored_file f WHERE f.id = a.file_id;
ALTER TABLE answer_file ALTER COLUMN size SET NOT NULL;
CREATE INDEX answer_file_sent_at ON answer_file (sent_at);
