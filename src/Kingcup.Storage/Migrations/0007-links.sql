-- A link between clients is changed by whoever has seen how it stands, as everything else.
ALTER TABLE client_link ADD COLUMN version bigint NOT NULL DEFAULT 1;
