-- Deposits taken at the desk, in cash or at the card terminal, and money that goes back the way it came.

ALTER TABLE payment
    -- How the money comes: by the card page, before a visit is booked; or at the desk, for a visit that stands.
    ADD COLUMN way text NOT NULL DEFAULT 'Page' CHECK (way IN ('Page', 'Terminal', 'Cash')),
    ALTER COLUMN hold_hash DROP NOT NULL,
    DROP CONSTRAINT payment_check,
    DROP CONSTRAINT payment_check1,
    ADD CONSTRAINT payment_visit
        CHECK (CASE way WHEN 'Page' THEN (state = 'Booked') = (visit_id IS NOT NULL) ELSE visit_id IS NOT NULL END),
    ADD CONSTRAINT payment_wanted CHECK ((way = 'Page' AND state NOT IN ('Booked', 'Ended')) = (wanted IS NOT NULL)),
    ADD CONSTRAINT payment_hold CHECK ((way = 'Page') = (hold_hash IS NOT NULL)),
    ADD CONSTRAINT payment_desk CHECK (way = 'Page' OR amount > 0);
ALTER TABLE payment ALTER COLUMN way DROP DEFAULT;

-- What is still to be done with money: by the gateway, or by hand where it came in cash.
ALTER TABLE card_work ADD COLUMN by_hand boolean NOT NULL DEFAULT false,
    -- Why: what goes with a fee is taken back with it, whatever else is under way for the visit.
    ADD COLUMN reason text NOT NULL DEFAULT 'Fee' CHECK (reason IN ('Fee', 'MoveFee', 'Returned')),
    ADD CONSTRAINT card_work_by_hand CHECK (NOT by_hand OR kind = 'Refund');
ALTER TABLE card_work ALTER COLUMN reason DROP DEFAULT;
DROP INDEX card_work_left;
CREATE INDEX card_work_left ON card_work (due_at) WHERE settled_at IS NULL AND NOT by_hand;
CREATE INDEX card_work_by_hand_left ON card_work (visit_id) WHERE settled_at IS NULL AND by_hand;

ALTER TABLE ledger_entry DROP CONSTRAINT ledger_entry_reason_check,
    ADD CONSTRAINT ledger_entry_reason_check
        CHECK (reason IN ('Deposit', 'Fee', 'FeeTakenBack', 'FeeDeclined', 'Refund', 'MoveFee', 'Returned', 'CashGiven'));

-- Nothing is taken out of a deposit that is not in it: looked at when the transaction commits.
CREATE FUNCTION check_deposit() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE visit uuid; held bigint;
BEGIN
    SELECT visit_id INTO visit FROM ledger_entry WHERE id = NEW.entry_id;
    IF visit IS NULL THEN RETURN NULL; END IF;
    SELECT coalesce(-sum(p.amount), 0) INTO held FROM ledger_entry e JOIN ledger_posting p ON p.entry_id = e.id
        WHERE e.visit_id = visit AND p.account = 'ClientDeposits';
    IF held < 0 THEN
        RAISE EXCEPTION 'the deposit of visit % would be %', visit, held
            USING ERRCODE = 'check_violation', CONSTRAINT = 'deposit_held';
    END IF;
    RETURN NULL;
END $$;
CREATE CONSTRAINT TRIGGER deposit_held AFTER INSERT ON ledger_posting DEFERRABLE INITIALLY DEFERRED
    FOR EACH ROW WHEN (NEW.account = 'ClientDeposits') EXECUTE FUNCTION check_deposit();

-- What is to be given back in cash is said where it is said what goes back to a card.
UPDATE message_text SET body = replace(
    replace(
        body,
        '{% sentence %}{{ refund }} goes back to your card. {% endsentence %}',
        '{% sentence %}{{ refund }} goes back to your card. {% endsentence %}'
            '{% sentence %}{{ cash_back }} waits for you in cash at our desk. {% endsentence %}'
    ),
    '{% sentence %}{{ refund }} goes back to your card.{% endsentence %}',
    '{% sentence %}{{ refund }} goes back to your card. {% endsentence %}'
        '{% sentence %}{{ cash_back }} waits for you in cash at our desk.{% endsentence %}'
) WHERE body LIKE '%{{ refund }} goes back to your card.%';
