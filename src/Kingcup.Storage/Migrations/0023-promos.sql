-- Promo codes: what whoever names one pays less.

CREATE TABLE promo (
    id uuid PRIMARY KEY,
    -- In capitals and without spaces, as it is compared.
    code text NOT NULL CONSTRAINT promo_code_taken UNIQUE CHECK (code ~ '^[A-Z0-9-]{3,24}$'),
    kind text NOT NULL CHECK (kind IN ('Percent', 'Fixed')),
    -- Whole percent, or minor units.
    value bigint NOT NULL CHECK (value BETWEEN 1 AND CASE kind WHEN 'Percent' THEN 100 ELSE 100000000 END),
    -- Dates of visits it holds for, and the last on which it can be used, by the clock of the location.
    from_date date,
    until_date date,
    book_by date,
    ended boolean NOT NULL DEFAULT false,
    version bigint NOT NULL DEFAULT 1,
    CHECK (from_date <= until_date)
);

-- The services it holds for; none for all.
CREATE TABLE promo_service (
    promo_id uuid NOT NULL REFERENCES promo,
    service_id uuid NOT NULL REFERENCES service,
    PRIMARY KEY (promo_id, service_id)
);
CREATE INDEX ON promo_service (service_id);

CREATE TRIGGER setup_changed AFTER INSERT OR UPDATE OR DELETE ON promo FOR EACH STATEMENT EXECUTE FUNCTION bump_setup_revision();
CREATE TRIGGER setup_changed AFTER INSERT OR UPDATE OR DELETE ON promo_service
    FOR EACH STATEMENT EXECUTE FUNCTION bump_setup_revision();

-- What a code takes off is a part of the price, of the service or of the add-on it names.
ALTER TABLE price_part ADD COLUMN promo_id uuid REFERENCES promo,
    DROP CONSTRAINT price_part_kind_check,
    DROP CONSTRAINT price_part_check,
    ADD CHECK (kind IN ('List', 'Own', 'Form', 'AddOn', 'Promo')),
    ADD CHECK (kind <> 'AddOn' OR add_on_id IS NOT NULL),
    ADD CHECK (add_on_id IS NULL OR kind IN ('AddOn', 'Promo')),
    ADD CHECK ((kind = 'Promo') = (promo_id IS NOT NULL)),
    ADD CHECK (kind <> 'Promo' OR amount < 0);
CREATE INDEX ON price_part (promo_id) WHERE promo_id IS NOT NULL;
