-- Booking knowingly what does not fit, rules set at a client, and what clients are asked and told when they book.

ALTER TABLE location ADD COLUMN accepts_new_clients boolean NOT NULL DEFAULT true;

-- New clients may owe another notice than returning ones, at each place that sets one.
DO $$
DECLARE place text;
BEGIN
    FOREACH place IN ARRAY ARRAY['location', 'category', 'service'] LOOP
        EXECUTE format('ALTER TABLE %I
            ADD COLUMN new_move_notice_hours int CHECK (new_move_notice_hours BETWEEN 0 AND 2160),
            ADD COLUMN new_cancel_notice_hours int CHECK (new_cancel_notice_hours BETWEEN 0 AND 2160)', place);
    END LOOP;
END $$;

ALTER TABLE client
    -- Set at this client; they go before those of the service, its category and the location.
    ADD COLUMN lead_minutes int CHECK (lead_minutes BETWEEN 0 AND 129600),
    ADD COLUMN horizon_days int CHECK (horizon_days BETWEEN 0 AND 730),
    ADD COLUMN move_notice_hours int CHECK (move_notice_hours BETWEEN 0 AND 2160),
    ADD COLUMN cancel_notice_hours int CHECK (cancel_notice_hours BETWEEN 0 AND 2160),
    ADD COLUMN version bigint NOT NULL DEFAULT 1;

-- Somebody was told and booked it so: such a claim is no visit that has lost its place.
ALTER TABLE claim
    ADD COLUMN outside_shift boolean NOT NULL DEFAULT false,
    ADD COLUMN over_blocks uuid[] NOT NULL DEFAULT '{}';

CREATE INDEX claim_overbooked ON claim USING gist (resource_id, unit, during) WHERE (live AND overbooked);

ALTER TABLE staff ADD COLUMN may_overbook boolean NOT NULL DEFAULT false;

-- What a client accepts is kept as she read it.
CREATE TABLE terms (
    id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    at timestamptz NOT NULL,
    text text NOT NULL CHECK (length(text) BETWEEN 1 AND 20000)
);
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON terms FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

ALTER TABLE business
    ADD COLUMN bookable_online boolean NOT NULL DEFAULT true,
    ADD COLUMN terms_id bigint REFERENCES terms,
    ADD COLUMN after_address text CHECK (after_address ~ '^https://' AND length(after_address) <= 500),
    ADD COLUMN after_words text CHECK (length(after_words) BETWEEN 1 AND 80),
    ADD COLUMN after_at_once boolean NOT NULL DEFAULT false,
    ADD CHECK (after_address IS NOT NULL OR (after_words IS NULL AND NOT after_at_once));

ALTER TABLE visit ADD COLUMN terms_id bigint REFERENCES terms;

CREATE TABLE question (
    id uuid PRIMARY KEY,
    text text NOT NULL CHECK (length(text) BETWEEN 1 AND 300 AND text = btrim(text)),
    hint text NOT NULL DEFAULT '' CHECK (length(hint) <= 300),
    kind text NOT NULL CHECK (kind IN ('Line', 'Text', 'YesNo', 'OneOf')),
    choices text[] NOT NULL DEFAULT '{}',
    required boolean NOT NULL DEFAULT false,
    position int NOT NULL,
    archived boolean NOT NULL DEFAULT false,
    version bigint NOT NULL DEFAULT 1,
    CHECK ((kind = 'OneOf') = (cardinality(choices) >= 2))
);

-- A question without a row here is asked for every service.
CREATE TABLE question_service (
    question_id uuid NOT NULL REFERENCES question,
    service_id uuid NOT NULL REFERENCES service,
    PRIMARY KEY (question_id, service_id)
);

CREATE TABLE visit_answer (
    visit_id uuid NOT NULL REFERENCES visit,
    question_id uuid NOT NULL REFERENCES question,
    -- As it was asked then.
    question text NOT NULL,
    answer text NOT NULL CHECK (length(answer) BETWEEN 1 AND 4000),
    PRIMARY KEY (visit_id, question_id)
);

DO $$
DECLARE name text;
BEGIN
    FOREACH name IN ARRAY ARRAY['question', 'question_service'] LOOP
        EXECUTE format('CREATE TRIGGER setup_changed AFTER INSERT OR UPDATE OR DELETE ON %I FOR EACH STATEMENT EXECUTE FUNCTION bump_setup_revision()', name);
    END LOOP;
END $$;
