-- Whoever pays for a visit may be told of it, and a practitioner is told that what was asked for with them stands.
ALTER TABLE message_rule DROP CONSTRAINT message_rule_recipient_check,
    ADD CONSTRAINT message_rule_recipient_check CHECK (recipient IN ('Client', 'Payer', 'Practitioner', 'Staff'));
ALTER TABLE message DROP CONSTRAINT message_recipient_check,
    ADD CONSTRAINT message_recipient_check CHECK (recipient IN ('Client', 'Payer', 'Practitioner', 'Staff'));

WITH added AS (
    INSERT INTO message_rule (id, trigger, channel, recipient, position)
    SELECT '00000000-0000-7000-8000-000000002701'::uuid, 'Approved', 'Email', 'Practitioner', coalesce(max(position), 0) + 1
    FROM message_rule
    RETURNING id
)
INSERT INTO message_text (rule_id, language, subject, body)
SELECT id, 'en', 'Granted: {{ date }} at {{ time }}',
    '{{ client_name }} comes for {{ services }} on {{ date }}, {{ time }} to {{ end }}. Reference {{ reference }}.' FROM added;
