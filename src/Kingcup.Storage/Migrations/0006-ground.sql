-- What holds time in the book, lines that last, what a price is made of, and what holds on dates apart from the setup.

-- Sessions end in the database; nothing reads the stamp of an account any more.
ALTER TABLE staff DROP COLUMN stamp;

-- Occupations --------------------------------------------------------------------------------------------------------

-- Whatever holds time in the book: a line of a visit, a hold of somebody who is choosing, a time proposed to somebody,
-- a group session. The occupation of a line has the identity of the line.
CREATE TABLE occupation (
    id uuid PRIMARY KEY,
    kind text NOT NULL CHECK (kind IN ('Line', 'Hold', 'Proposal', 'Session')),
    location_id uuid NOT NULL REFERENCES location,
    -- When it runs out; from then on its claims count for nobody, whether or not anything has swept them.
    expires_at timestamptz,
    CHECK ((kind IN ('Hold', 'Proposal')) = (expires_at IS NOT NULL)),
    UNIQUE (id, kind)
);
CREATE INDEX occupation_expiring ON occupation (expires_at) WHERE expires_at IS NOT NULL;

INSERT INTO occupation (id, kind, location_id) SELECT a.id, 'Line', v.location_id FROM appointment a JOIN visit v ON v.id = a.visit_id;

ALTER TABLE appointment ADD COLUMN kind text NOT NULL GENERATED ALWAYS AS ('Line') STORED;
ALTER TABLE appointment ADD FOREIGN KEY (id, kind) REFERENCES occupation (id, kind);

ALTER TABLE claim DROP CONSTRAINT claim_appointment_id_fkey;
ALTER TABLE claim RENAME COLUMN appointment_id TO occupation_id;
ALTER TABLE claim ADD COLUMN service_id uuid REFERENCES service;
UPDATE claim SET service_id = a.service_id FROM appointment a WHERE a.id = claim.occupation_id;
ALTER TABLE claim ADD FOREIGN KEY (occupation_id) REFERENCES occupation ON DELETE CASCADE;

-- Visits -------------------------------------------------------------------------------------------------------------

ALTER TABLE visit ADD COLUMN payer_id uuid REFERENCES client;
UPDATE visit SET payer_id = client_id;
ALTER TABLE visit ALTER COLUMN payer_id SET NOT NULL;

-- Who comes besides the client, who is person 0: somebody known, or only a name.
CREATE TABLE visit_person (
    visit_id uuid NOT NULL REFERENCES visit,
    person smallint NOT NULL CHECK (person BETWEEN 1 AND 5),
    client_id uuid REFERENCES client,
    name text CHECK (length(name) BETWEEN 1 AND 160 AND name = btrim(name)),
    PRIMARY KEY (visit_id, person),
    CHECK ((client_id IS NULL) <> (name IS NULL))
);

ALTER TABLE appointment
    ADD COLUMN person smallint NOT NULL DEFAULT 0 CHECK (person BETWEEN 0 AND 5),
    -- Minutes after the start of the visit at which it begins.
    ADD COLUMN offset_minutes int NOT NULL DEFAULT 0 CHECK (offset_minutes BETWEEN 0 AND 2880 AND offset_minutes % 5 = 0),
    -- The room it is in, or none; a room kept over several lines is that of each of them.
    ADD COLUMN room_id uuid REFERENCES room,
    -- The tax in the price as it was agreed, in hundredths of a percent.
    ADD COLUMN tax_basis_points int NOT NULL DEFAULT 0 CHECK (tax_basis_points BETWEEN 0 AND 10000);
UPDATE appointment a SET
    offset_minutes = extract(epoch FROM a.starts_at - v.starts_at)::int / 60,
    room_id = (SELECT r.id FROM claim k JOIN appointment o ON o.id = k.occupation_id JOIN room r ON r.id = k.resource_id
        WHERE o.visit_id = a.visit_id AND k.core @> tstzrange(a.starts_at, a.ends_at) LIMIT 1),
    tax_basis_points = coalesce((SELECT t.basis_points FROM service s JOIN tax_rate t ON t.id = s.tax_rate_id WHERE s.id = a.service_id), 0)
FROM visit v WHERE v.id = a.visit_id;

-- What the price of a line is made of, as it was agreed (rules, section 8): the parts add up to what it costs.
CREATE TABLE price_part (
    appointment_id uuid NOT NULL REFERENCES appointment,
    place smallint NOT NULL CHECK (place >= 0),
    kind text NOT NULL CHECK (kind IN ('List', 'Own', 'Form', 'AddOn')),
    -- Minor units; what takes off is negative.
    amount bigint NOT NULL,
    add_on_id uuid REFERENCES add_on,
    PRIMARY KEY (appointment_id, place),
    CHECK ((kind = 'AddOn') = (add_on_id IS NOT NULL)),
    CHECK (kind NOT IN ('List', 'AddOn') OR amount >= 0)
);
-- Of prices agreed before, only what they came to is known.
INSERT INTO price_part (appointment_id, place, kind, amount) SELECT id, 0, 'List', price FROM appointment;
INSERT INTO price_part (appointment_id, place, kind, amount, add_on_id)
SELECT appointment_id, row_number() OVER (PARTITION BY appointment_id ORDER BY add_on_id), 'AddOn', price, add_on_id
    FROM appointment_add_on;

-- Linked people ------------------------------------------------------------------------------------------------------

-- What one client may do for another. The link reads from the one who acts to the one it is done for.
CREATE TABLE client_link (
    from_client_id uuid NOT NULL REFERENCES client,
    to_client_id uuid NOT NULL REFERENCES client,
    relation text NOT NULL CHECK (length(relation) BETWEEN 1 AND 40 AND relation = btrim(relation)),
    may_book boolean NOT NULL DEFAULT false,
    may_pay boolean NOT NULL DEFAULT false,
    may_see boolean NOT NULL DEFAULT false,
    PRIMARY KEY (from_client_id, to_client_id),
    CHECK (from_client_id <> to_client_id)
);
CREATE INDEX ON client_link (to_client_id);
INSERT INTO client_link (from_client_id, to_client_id, relation, may_book)
SELECT a.id, b.id, 'household', true FROM client a JOIN client b ON b.household_id = a.household_id AND b.id <> a.id;
ALTER TABLE client DROP COLUMN household_id;

-- What holds on dates -------------------------------------------------------------------------------------------------

-- Shift changes, single blocks, closures and stopped days belong to the book: they are read by window under the revisions
-- of their days, and leave the revision of the setup alone. What comes back for ever (rotas, repeating blocks, yearly
-- closures) is setup. The shifts of a rota are written with the rota, which counts the revision.
DROP TRIGGER setup_changed ON shift_change;
DROP TRIGGER setup_changed ON shift;
DROP TRIGGER setup_changed ON shift_break;
DROP TRIGGER setup_changed ON blocked_time;
DROP TRIGGER setup_changed ON online_stop;
DROP TRIGGER setup_changed ON closure;
CREATE TRIGGER setup_changed_new AFTER INSERT ON closure FOR EACH ROW WHEN (NEW.yearly) EXECUTE FUNCTION bump_setup_revision();
CREATE TRIGGER setup_changed_other AFTER UPDATE ON closure FOR EACH ROW WHEN (OLD.yearly OR NEW.yearly)
    EXECUTE FUNCTION bump_setup_revision();
CREATE TRIGGER setup_changed_gone AFTER DELETE ON closure FOR EACH ROW WHEN (OLD.yearly) EXECUTE FUNCTION bump_setup_revision();

ALTER TABLE rota ADD COLUMN version bigint NOT NULL DEFAULT 1;
ALTER TABLE shift_change ADD COLUMN version bigint NOT NULL DEFAULT 1;
ALTER TABLE blocked_time ADD COLUMN version bigint NOT NULL DEFAULT 1;
ALTER TABLE repeating_block ADD COLUMN version bigint NOT NULL DEFAULT 1;
ALTER TABLE closure ADD COLUMN version bigint NOT NULL DEFAULT 1;
ALTER TABLE online_stop ADD COLUMN version bigint NOT NULL DEFAULT 1;

CREATE INDEX ON shift_change (date);
CREATE INDEX ON shift (change_date) WHERE change_date IS NOT NULL;
CREATE INDEX ON closure (date);
CREATE INDEX ON online_stop (date);
CREATE INDEX blocked_time_resource ON blocked_time USING gist (resource_id, during);
