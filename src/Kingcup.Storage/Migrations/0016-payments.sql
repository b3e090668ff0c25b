-- The ledger, the payments bookings wait for, and the cards that are kept with the gateway.

-- One movement of money. It is never changed; a mistake is reversed.
CREATE TABLE ledger_entry (
    id uuid PRIMARY KEY,
    place bigint NOT NULL GENERATED ALWAYS AS IDENTITY,
    at timestamptz NOT NULL,
    actor text NOT NULL,
    location_id uuid NOT NULL REFERENCES location,
    reason text NOT NULL CHECK (reason IN ('Deposit', 'Fee', 'FeeTakenBack', 'FeeDeclined', 'Refund')),
    note text NOT NULL DEFAULT '',
    client_id uuid REFERENCES client,
    -- What has caused it.
    visit_id uuid REFERENCES visit,
    payment_id uuid,
    CHECK (num_nonnulls(visit_id, payment_id) >= 1)
);
CREATE INDEX ON ledger_entry (visit_id) WHERE visit_id IS NOT NULL;
CREATE INDEX ON ledger_entry (payment_id) WHERE payment_id IS NOT NULL;
CREATE INDEX ON ledger_entry (location_id, at);
CREATE INDEX ON ledger_entry (client_id) WHERE client_id IS NOT NULL;

CREATE TABLE ledger_posting (
    entry_id uuid NOT NULL REFERENCES ledger_entry,
    account text NOT NULL CHECK (account IN ('Cash', 'CardClearing', 'ClientDeposits', 'GiftCardsOutstanding', 'PackageLiability',
        'MembershipLiability', 'ClientAccounts', 'ServiceIncome', 'ProductIncome', 'MembershipIncome', 'Forfeits', 'Breakage',
        'Discounts', 'TaxPayable', 'TipsPayable')),
    -- Minor units: debit is positive, credit negative.
    amount bigint NOT NULL CHECK (amount <> 0),
    PRIMARY KEY (entry_id, account)
);

-- Money is neither made nor lost: looked at when the transaction commits, for every entry it has touched.
CREATE FUNCTION check_ledger() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE entry uuid; rest bigint; sides int;
BEGIN
    IF TG_TABLE_NAME = 'ledger_entry' THEN entry := NEW.id; ELSE entry := NEW.entry_id; END IF;
    SELECT coalesce(sum(amount), 0), count(*) INTO rest, sides FROM ledger_posting WHERE entry_id = entry;
    IF rest <> 0 OR sides < 2 THEN
        RAISE EXCEPTION 'ledger entry % has % postings that add up to %', entry, sides, rest
            USING ERRCODE = 'check_violation', CONSTRAINT = 'ledger_balanced';
    END IF;
    RETURN NULL;
END $$;
CREATE CONSTRAINT TRIGGER balanced AFTER INSERT ON ledger_entry DEFERRABLE INITIALLY DEFERRED
    FOR EACH ROW EXECUTE FUNCTION check_ledger();
CREATE CONSTRAINT TRIGGER balanced AFTER INSERT ON ledger_posting DEFERRABLE INITIALLY DEFERRED
    FOR EACH ROW EXECUTE FUNCTION check_ledger();
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON ledger_entry
    FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE OR TRUNCATE ON ledger_posting
    FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

-- What a booking waits for: money, or a card that is kept.
CREATE TABLE payment (
    id uuid PRIMARY KEY,
    location_id uuid NOT NULL REFERENCES location,
    -- Minor units; 0 where only a card is kept.
    amount bigint NOT NULL CHECK (amount >= 0),
    currency text NOT NULL CHECK (length(currency) = 3),
    state text NOT NULL CHECK (state IN ('Open', 'Charging', 'Booked', 'Returning', 'Ended')),
    -- What the gateway calls it; null until it was asked.
    gateway_id text UNIQUE,
    -- What names the time that is kept for it.
    hold_hash bytea NOT NULL CHECK (octet_length(hold_hash) = 32),
    -- Who books what, until that is settled.
    wanted jsonb,
    visit_id uuid REFERENCES visit,
    -- Why nothing was booked.
    ended_because text,
    created_at timestamptz NOT NULL,
    -- The first moment at which nobody pays any more.
    expires_at timestamptz NOT NULL,
    settled_at timestamptz,
    CHECK ((state = 'Booked') = (visit_id IS NOT NULL)),
    CHECK ((state IN ('Booked', 'Ended')) = (wanted IS NULL)),
    CHECK ((state IN ('Booked', 'Ended')) = (settled_at IS NOT NULL))
);
CREATE INDEX payment_unsettled ON payment (expires_at) WHERE settled_at IS NULL;
CREATE INDEX ON payment (visit_id) WHERE visit_id IS NOT NULL;
ALTER TABLE ledger_entry ADD FOREIGN KEY (payment_id) REFERENCES payment;

-- A card that is kept with the gateway; its number is nowhere here.
CREATE TABLE card (
    id uuid PRIMARY KEY,
    client_id uuid NOT NULL REFERENCES client,
    payment_id uuid NOT NULL UNIQUE REFERENCES payment,
    gateway_token text NOT NULL,
    last_digits text NOT NULL CHECK (last_digits ~ '^[0-9]{4}$'),
    expires text NOT NULL,
    created_at timestamptz NOT NULL
);
CREATE INDEX ON card (client_id);

-- A time that is kept for somebody who is paying is not given back by leaving the page.
ALTER TABLE proposal ADD COLUMN is_paying boolean NOT NULL DEFAULT false;

-- What the gateway is still to do with a card: after a while, so that a press on the wrong button costs nobody anything.
CREATE TABLE card_work (
    id uuid PRIMARY KEY,
    kind text NOT NULL CHECK (kind IN ('Refund', 'Charge')),
    visit_id uuid NOT NULL REFERENCES visit,
    -- What is given back, or which card is charged.
    payment_id uuid REFERENCES payment,
    card_id uuid REFERENCES card,
    amount bigint NOT NULL CHECK (amount > 0),
    currency text NOT NULL CHECK (length(currency) = 3),
    -- Sent: nobody takes it back any more; it is done, or asked about again.
    state text NOT NULL CHECK (state IN ('Waiting', 'Sent', 'Done', 'Declined', 'Dropped')),
    created_at timestamptz NOT NULL,
    due_at timestamptz NOT NULL,
    settled_at timestamptz,
    CHECK (CASE kind WHEN 'Refund' THEN payment_id IS NOT NULL AND card_id IS NULL ELSE card_id IS NOT NULL AND payment_id IS NULL END),
    CHECK ((state IN ('Done', 'Declined', 'Dropped')) = (settled_at IS NOT NULL)),
    CHECK (kind = 'Charge' OR state <> 'Declined')
);
CREATE INDEX card_work_left ON card_work (due_at) WHERE settled_at IS NULL;
CREATE INDEX ON card_work (visit_id);
