-- What the business knows of a client, notes and consents, and two records of one person made one.

ALTER TABLE client
    ADD COLUMN born date CHECK (born >= '1900-01-01'),
    -- How they came to the business.
    ADD COLUMN source text CHECK (length(source) BETWEEN 1 AND 80),
    ADD COLUMN tags text[] NOT NULL DEFAULT '{}' CHECK (array_position(tags, NULL) IS NULL AND cardinality(tags) <= 20),
    -- What they like.
    ADD COLUMN likes_practitioner_id uuid REFERENCES practitioner,
    ADD COLUMN likes_room_id uuid REFERENCES room,
    ADD COLUMN likes_quiet boolean NOT NULL DEFAULT false,
    ADD COLUMN likes_pressure text CHECK (likes_pressure IN ('Light', 'Medium', 'Firm')),
    ADD COLUMN likes_words text CHECK (length(likes_words) BETWEEN 1 AND 500),
    -- The record this one has been put aside for. It is never one that was put aside itself.
    ADD COLUMN merged_into uuid REFERENCES client CHECK (merged_into <> id);
CREATE INDEX ON client USING gin (tags) WHERE tags <> '{}';
CREATE INDEX ON client (born) WHERE born IS NOT NULL;
CREATE INDEX ON client (merged_into) WHERE merged_into IS NOT NULL;
CREATE INDEX ON client (family_name, given_name, id) WHERE merged_into IS NULL;

CREATE TABLE client_note (
    id uuid PRIMARY KEY,
    client_id uuid NOT NULL REFERENCES client,
    words text NOT NULL CHECK (length(words) BETWEEN 1 AND 2000),
    author text NOT NULL,
    at timestamptz NOT NULL
);
CREATE INDEX ON client_note (client_id, at);

-- What a client agreed to, or took back, and the words they were asked in. The latest of a kind counts.
CREATE TABLE client_consent (
    id uuid PRIMARY KEY,
    client_id uuid NOT NULL REFERENCES client,
    kind text NOT NULL CHECK (kind IN ('Texts', 'News', 'Pictures')),
    given boolean NOT NULL,
    words text NOT NULL CHECK (length(words) BETWEEN 1 AND 1000),
    author text NOT NULL,
    at timestamptz NOT NULL
);
CREATE INDEX ON client_consent (client_id, at);

-- Pairs of which somebody has said that they are two people.
CREATE TABLE client_apart (
    one_id uuid NOT NULL REFERENCES client,
    other_id uuid NOT NULL REFERENCES client,
    at timestamptz NOT NULL,
    PRIMARY KEY (one_id, other_id),
    CHECK (one_id < other_id)
);
CREATE INDEX ON client_apart (other_id);

-- Two records made one: the kept one before and after, and everything that was moved, so that they can be taken apart again.
CREATE TABLE client_merge (
    id uuid PRIMARY KEY,
    place bigint NOT NULL GENERATED ALWAYS AS IDENTITY,
    kept_id uuid NOT NULL REFERENCES client,
    gone_id uuid NOT NULL REFERENCES client CHECK (gone_id <> kept_id),
    at timestamptz NOT NULL,
    actor text NOT NULL,
    before jsonb NOT NULL,
    after jsonb NOT NULL,
    moved jsonb NOT NULL,
    apart_at timestamptz
);
CREATE INDEX ON client_merge (kept_id);
CREATE INDEX ON client_merge (gone_id);
CREATE UNIQUE INDEX ON client_merge (gone_id) WHERE apart_at IS NULL;

-- Whoever books for a record while it is being put aside books for the one that is kept.
CREATE FUNCTION kept_client(asked uuid) RETURNS uuid LANGUAGE sql AS $$
    SELECT coalesce((SELECT coalesce(merged_into, id) FROM client WHERE id = asked FOR KEY SHARE), asked)
$$;
CREATE FUNCTION visit_of_kept_client() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    NEW.client_id := kept_client(NEW.client_id);
    NEW.payer_id := kept_client(NEW.payer_id);
    RETURN NEW;
END $$;
CREATE TRIGGER of_kept_client BEFORE INSERT OR UPDATE OF client_id, payer_id ON visit
    FOR EACH ROW EXECUTE FUNCTION visit_of_kept_client();
CREATE FUNCTION person_of_kept_client() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    NEW.client_id := kept_client(NEW.client_id);
    RETURN NEW;
END $$;
CREATE TRIGGER of_kept_client BEFORE INSERT OR UPDATE OF client_id ON visit_person
    FOR EACH ROW EXECUTE FUNCTION person_of_kept_client();
