-- Deposits that are paid by a link the client is sent, for a visit that stands.
ALTER TABLE payment DROP CONSTRAINT payment_way_check,
    ADD CONSTRAINT payment_way_check CHECK (way IN ('Page', 'Terminal', 'Cash', 'Link'));

ALTER TABLE message_event DROP CONSTRAINT message_event_kind_check,
    ADD CONSTRAINT message_event_kind_check CHECK (kind IN ('Visit', 'Fee', 'Refund', 'Unfinished', 'Deposit'));

ALTER TABLE message_rule DROP CONSTRAINT message_rule_trigger_check,
    ADD CONSTRAINT message_rule_trigger_check
        CHECK (trigger IN ('Requested', 'Booked', 'Approved', 'Declined', 'Proposed', 'Lapsed', 'Moved', 'Cancelled', 'Fee', 'Refund',
            'Unfinished', 'BeforeStart', 'AfterEnd', 'DepositAsked'));

WITH usual (place, channel, subject, body) AS (VALUES
    (1, 'Email', 'A deposit for {{ date }} at {{ time }}',
        E'Hello {{ client }},\n\nfor {{ services }} on {{ date }} at {{ time }} we ask for a deposit of {{ asked }}. {% sentence %}Pay it '
         'here by card until {{ until }}: {{ link }}\n\n{% endsentence %}It counts towards the price; what cancelling costs you read '
         'there too.{% sentence %}\n\nOr call us on {{ phone }}.{% endsentence %}'),
    (2, 'Text', '',
        E'{{ business }}: please pay the deposit of {{ asked }} for {{ date }} at {{ time }} until {{ until }}.{% sentence %} '
         '{{ link }}{% endsentence %}')
), added AS (
    INSERT INTO message_rule (id, trigger, channel, recipient, position)
    SELECT ('00000000-0000-7000-8000-00000000220' || place::text)::uuid, 'DepositAsked', channel, 'Client', 16 + place FROM usual
)
INSERT INTO message_text (rule_id, language, subject, body)
SELECT ('00000000-0000-7000-8000-00000000220' || place::text)::uuid, 'en', subject, body FROM usual;
