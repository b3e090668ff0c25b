-- What the owner says of an add-on to clients.
ALTER TABLE add_on ADD COLUMN words text NOT NULL DEFAULT '' CHECK (length(words) <= 200 AND words = btrim(words));
