-- What is asked for waits so long, and what is proposed instead is kept so long, until somebody says something.

ALTER TABLE business
    ADD COLUMN answer_hours int NOT NULL DEFAULT 24 CHECK (answer_hours BETWEEN 1 AND 336),
    ADD COLUMN choose_hours int NOT NULL DEFAULT 24 CHECK (choose_hours BETWEEN 1 AND 336);

-- The desk looks at whatever clients ask of them.
ALTER TABLE practitioner ADD COLUMN needs_approval boolean NOT NULL DEFAULT false;

DO $$
DECLARE place text;
BEGIN
    FOREACH place IN ARRAY ARRAY['location', 'category', 'service'] LOOP
        EXECUTE format('ALTER TABLE %I DROP CONSTRAINT IF EXISTS %I', place, place || '_approval_check');
        EXECUTE format('ALTER TABLE %I ADD CONSTRAINT %I CHECK (approval IN (''Nobody'', ''NewClients'', ''PayLater'', ''Everyone''))',
            place, place || '_approval_check');
    END LOOP;
END $$;

ALTER TABLE visit DROP CONSTRAINT visit_state_check,
    ADD CONSTRAINT visit_state_check
        CHECK (state IN ('Requested', 'Answered', 'Confirmed', 'Arrived', 'InTreatment', 'Done', 'NoShow', 'Cancelled')),
    DROP CONSTRAINT visit_cancelled_by_check,
    ADD CONSTRAINT visit_cancelled_by_check CHECK (cancelled_by IN ('Client', 'Business', 'Nobody')),
    -- When it lapses, as long as somebody still has to agree.
    ADD COLUMN lapses_at timestamptz,
    -- What the desk has written to the client with its answer.
    ADD COLUMN answer_words text NOT NULL DEFAULT '' CHECK (length(answer_words) <= 500);
UPDATE visit SET lapses_at = starts_at WHERE state = 'Requested';
ALTER TABLE visit ADD CONSTRAINT visit_lapses CHECK ((state IN ('Requested', 'Answered')) = (lapses_at IS NOT NULL));
CREATE INDEX visit_lapsing ON visit (lapses_at) WHERE lapses_at IS NOT NULL;

DROP INDEX visit_range;
CREATE INDEX visit_range ON visit (range_hash, ends_at) WHERE source = 'Online' AND state IN ('Requested', 'Answered', 'Confirmed');
DROP INDEX visit_device;
CREATE INDEX visit_device ON visit (device_hash, ends_at) WHERE source = 'Online' AND state IN ('Requested', 'Answered', 'Confirmed');

-- A time that is proposed belongs to what was asked for.
ALTER TABLE proposal ADD COLUMN visit_id uuid REFERENCES visit ON DELETE CASCADE,
    ADD CONSTRAINT proposal_of_visit CHECK (kind = 'Proposal' OR visit_id IS NULL);
CREATE INDEX ON proposal (visit_id) WHERE visit_id IS NOT NULL;
CREATE INDEX ON proposal (date) WHERE visit_id IS NOT NULL;

ALTER TABLE message_rule DROP CONSTRAINT message_rule_trigger_check,
    ADD CONSTRAINT message_rule_trigger_check
        CHECK (trigger IN ('Requested', 'Booked', 'Approved', 'Declined', 'Proposed', 'Lapsed', 'Moved', 'Cancelled', 'Fee', 'Refund',
            'Unfinished', 'BeforeStart', 'AfterEnd'));

WITH usual (place, trigger, subject, body) AS (VALUES
    (1, 'Proposed', 'Another time for {{ services }}?',
        E'Hello {{ client }},\n\nyou asked for {{ services }} on {{ date }} at {{ time }}. That is not possible, but we keep these for '
         'you until {{ until }}:\n\n{{ times }}\n\n{% sentence %}{{ words }}\n\n{% endsentence %}{% sentence %}Choose one here: '
         '{{ link }}\n{% endsentence %}{% sentence %}Or call us on {{ phone }}.{% endsentence %}'),
    (2, 'Lapsed', 'Your request for {{ date }} has lapsed',
        E'Hello {{ client }},\n\nyou asked for {{ services }} on {{ date }} at {{ time }}, and it was not settled in time. Nothing is '
         'booked. {% sentence %}{{ refund }} goes back to your card. {% endsentence %}You can look for another time at {{ page }}'
         '{% sentence %}\n\nOr call us on {{ phone }}.{% endsentence %}')
), added AS (
    INSERT INTO message_rule (id, trigger, channel, recipient, position)
    SELECT ('00000000-0000-7000-8000-00000000180' || place::text)::uuid, trigger, 'Email', 'Client', 14 + place FROM usual
)
INSERT INTO message_text (rule_id, language, subject, body)
SELECT ('00000000-0000-7000-8000-00000000180' || place::text)::uuid, 'en', subject, body FROM usual;

-- What was declined may have been with a word.
UPDATE message_text SET body = replace(body, 'is not possible. {% sentence %}', 'is not possible. {% sentence %}{{ words }} '
    '{% endsentence %}{% sentence %}')
WHERE rule_id = '00000000-0000-7000-8000-000000001704';
