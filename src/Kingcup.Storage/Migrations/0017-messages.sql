-- What clients and the team are told, when, and what has become of it.

CREATE DOMAIN language_tag AS text CHECK (VALUE ~ '^[a-z]{2,3}$');

ALTER TABLE business
    -- When nobody is disturbed by what does not have to be sent at once; the same time twice for never.
    ADD COLUMN quiet_from time NOT NULL DEFAULT '21:00',
    ADD COLUMN quiet_until time NOT NULL DEFAULT '08:00';

ALTER TABLE client
    -- In which language they are written to; null for that of the business.
    ADD COLUMN language language_tag;

CREATE TABLE message_rule (
    id uuid PRIMARY KEY,
    trigger text NOT NULL CHECK (trigger IN ('Requested', 'Booked', 'Approved', 'Declined', 'Moved', 'Cancelled', 'Fee', 'Refund',
        'Unfinished', 'BeforeStart', 'AfterEnd')),
    channel text NOT NULL CHECK (channel IN ('Email', 'Text')),
    recipient text NOT NULL CHECK (recipient IN ('Client', 'Practitioner', 'Staff')),
    -- Minutes before the start or after the end.
    offset_minutes int NOT NULL DEFAULT 0 CHECK (offset_minutes BETWEEN 0 AND 527040),
    -- How many minutes late it still makes sense.
    late_minutes int NOT NULL DEFAULT 0 CHECK (late_minutes BETWEEN 0 AND 10080),
    location_id uuid REFERENCES location,
    service_ids uuid[] NOT NULL DEFAULT '{}' CHECK (cardinality(service_ids) <= 100 AND array_position(service_ids, NULL) IS NULL),
    -- New clients only, returning ones only; online only, at the desk only; null for both.
    is_new boolean,
    is_online boolean,
    -- After a visit: only for who has nothing of the kind booked since.
    only_if_not_back boolean NOT NULL DEFAULT false,
    staff_ids uuid[] NOT NULL DEFAULT '{}' CHECK (cardinality(staff_ids) <= 50 AND array_position(staff_ids, NULL) IS NULL),
    is_on boolean NOT NULL DEFAULT true,
    position int NOT NULL,
    version bigint NOT NULL DEFAULT 1,
    CHECK ((trigger IN ('BeforeStart', 'AfterEnd')) = (offset_minutes > 0)),
    CHECK (trigger <> 'Unfinished' OR (recipient = 'Client' AND channel = 'Email')),
    CHECK (recipient = 'Staff' OR staff_ids = '{}'),
    CHECK (trigger = 'AfterEnd' OR NOT only_if_not_back)
);
CREATE INDEX ON message_rule (location_id) WHERE location_id IS NOT NULL;

-- What it says, by language.
CREATE TABLE message_text (
    rule_id uuid NOT NULL REFERENCES message_rule ON DELETE CASCADE,
    language language_tag NOT NULL,
    subject text NOT NULL CHECK (length(subject) <= 200),
    body text NOT NULL CHECK (length(body) BETWEEN 1 AND 5000),
    PRIMARY KEY (rule_id, language)
);
CREATE TRIGGER setup_changed AFTER INSERT OR UPDATE OR DELETE ON message_rule
    FOR EACH STATEMENT EXECUTE FUNCTION bump_setup_revision();
CREATE TRIGGER setup_changed AFTER INSERT OR UPDATE OR DELETE ON message_text
    FOR EACH STATEMENT EXECUTE FUNCTION bump_setup_revision();

-- What has happened that somebody may have to be told of: written with what happened, and gone once messages were made of it.
CREATE TABLE message_event (
    place bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    at timestamptz NOT NULL,
    -- What the desk does may be taken back at once, so that nobody is told of a slip of the hand.
    ready_at timestamptz NOT NULL,
    -- A visit that stands differently, or one of the rest.
    kind text NOT NULL CHECK (kind IN ('Visit', 'Fee', 'Refund', 'Unfinished')),
    -- No reference: what was taken out of the book is told of, too.
    visit_id uuid,
    by_client boolean NOT NULL,
    -- How the visit stood and stands: state, start and who cancelled it.
    before jsonb,
    after jsonb,
    -- Minor units of a fee or of what went back; for whom and what where there is no visit, or none any more.
    amount bigint CHECK (amount > 0),
    about jsonb,
    CHECK ((kind = 'Unfinished' OR kind = 'Visit' AND after IS NULL) = (about IS NOT NULL)),
    CHECK (kind = 'Unfinished' OR visit_id IS NOT NULL)
);
CREATE INDEX ON message_event (visit_id);
CREATE INDEX ON message_event (ready_at);

CREATE TABLE message (
    id uuid PRIMARY KEY,
    place bigint NOT NULL GENERATED ALWAYS AS IDENTITY,
    rule_id uuid REFERENCES message_rule ON DELETE SET NULL,
    trigger text NOT NULL,
    channel text NOT NULL CHECK (channel IN ('Email', 'Text')),
    recipient text NOT NULL CHECK (recipient IN ('Client', 'Practitioner', 'Staff')),
    client_id uuid REFERENCES client,
    practitioner_id uuid REFERENCES practitioner,
    staff_id uuid REFERENCES staff,
    visit_id uuid REFERENCES visit ON DELETE SET NULL,
    -- The start of the visit it was planned around: each is planned once.
    about_start timestamptz,
    -- Null where there is nowhere to send it.
    address text CHECK (length(address) <= 254),
    name text NOT NULL DEFAULT '',
    language language_tag NOT NULL,
    subject text NOT NULL,
    body text NOT NULL,
    -- An entry for a calendar that goes with it, or null.
    calendar text,
    state text NOT NULL CHECK (state IN ('Waiting', 'Sending', 'Sent', 'Failed', 'Dropped', 'LeftOut')),
    created_at timestamptz NOT NULL,
    due_at timestamptz NOT NULL,
    tries int NOT NULL DEFAULT 0,
    -- Until when whoever sends it has it to themselves.
    taken_until timestamptz,
    settled_at timestamptz,
    -- Why it was left out or dropped, as a word; what was answered where it failed.
    because text,
    CHECK ((state IN ('Sent', 'Failed', 'Dropped', 'LeftOut')) = (settled_at IS NOT NULL)),
    CHECK (address IS NOT NULL OR state IN ('LeftOut', 'Dropped'))
);
CREATE UNIQUE INDEX message_planned_once ON message (rule_id, visit_id, about_start, coalesce(practitioner_id, staff_id, client_id))
    WHERE about_start IS NOT NULL;
CREATE INDEX message_due ON message (due_at) WHERE settled_at IS NULL;
CREATE INDEX ON message (place DESC);
CREATE INDEX ON message (state, place DESC);
CREATE INDEX ON message (visit_id) WHERE visit_id IS NOT NULL;
CREATE INDEX ON message (client_id) WHERE client_id IS NOT NULL;
CREATE INDEX message_unfinished ON message (address, created_at) WHERE trigger = 'Unfinished';

-- What a business says until its owner says it differently.
WITH usual (place, trigger, channel, recipient, minutes, late, online, subject, body) AS (VALUES
    (1, 'Booked', 'Email', 'Client', 0, 0, NULL::boolean, 'Your booking on {{ date }} at {{ time }}',
        E'Hello {{ client }},\n\nyou are booked at {{ business }}:\n\n{{ services }}\n{{ date }}, {{ time }} to {{ end }}\n'
         'with {{ practitioners }}\n\n{% sentence %}The same again on {{ others }}. {% endsentence %}{% sentence %}We are at '
         '{{ address }}. {% endsentence %}Your reference is {{ reference }}.\n\nThe price is {{ price }}. {% sentence %}You '
         'have paid {{ deposit }} already; {{ rest }} is left to pay.{% endsentence %}\n\n{% sentence %}Look at it, move it or '
         'cancel it here: {{ link }}\n{% endsentence %}{% sentence %}Or call us on {{ phone }}.{% endsentence %}'),
    (2, 'Requested', 'Email', 'Client', 0, 0, NULL, 'We have your request for {{ date }} at {{ time }}',
        E'Hello {{ client }},\n\nyou have asked for {{ services }} on {{ date }} at {{ time }}. The time is kept for you '
         'while we look at it; we write again as soon as it is settled.\n\nYour reference is {{ reference }}.'
         '{% sentence %}\n\nYour bookings: {{ link }}{% endsentence %}'),
    (3, 'Approved', 'Email', 'Client', 0, 0, NULL, 'You are booked on {{ date }} at {{ time }}',
        E'Hello {{ client }},\n\nwhat you asked for is booked:\n\n{{ services }}\n{{ date }}, {{ time }} to {{ end }}\nwith '
         '{{ practitioners }}\n\n{% sentence %}We are at {{ address }}. {% endsentence %}Your reference is {{ reference }}.'
         '{% sentence %}\n\nLook at it, move it or cancel it here: {{ link }}{% endsentence %}'),
    (4, 'Declined', 'Email', 'Client', 0, 0, NULL, 'Your request for {{ date }}',
        E'Hello {{ client }},\n\nwe are sorry: {{ services }} on {{ date }} at {{ time }} is not possible. {% sentence %}'
         '{{ refund }} goes back to your card. {% endsentence %}You can look for another time at {{ page }}\n\n{% sentence %}'
         'Or call us on {{ phone }}.{% endsentence %}'),
    (5, 'Moved', 'Email', 'Client', 0, 0, NULL, 'Moved to {{ date }} at {{ time }}',
        E'Hello {{ client }},\n\nyour booking on {{ old_date }} at {{ old_time }} is now on {{ date }} at {{ time }}:\n\n'
         '{{ services }}\n{{ date }}, {{ time }} to {{ end }}\nwith {{ practitioners }}\n\nYour reference is still '
         '{{ reference }}.{% sentence %}\n\nYour bookings: {{ link }}{% endsentence %}'),
    (6, 'Cancelled', 'Email', 'Client', 0, 0, NULL, 'Cancelled: {{ date }} at {{ time }}',
        E'Hello {{ client }},\n\nyour booking of {{ services }} on {{ date }} at {{ time }} is cancelled. {% sentence %}It '
         'was cancelled late, so {{ fee }} is due. {% endsentence %}{% sentence %}{{ refund }} goes back to your card.'
         '{% endsentence %}\n\nYou can book again at {{ page }}'),
    (7, 'Fee', 'Email', 'Client', 0, 0, NULL, 'A fee of {{ fee }}',
        E'Hello {{ client }},\n\nfor {{ services }} on {{ date }} at {{ time }} a fee of {{ fee }} is due, as our terms say. '
         '{% sentence %}{{ kept }} of it is kept from your deposit. {% endsentence %}{% sentence %}{{ charged }} was taken '
         'from your card. {% endsentence %}{% sentence %}{{ owed }} is left to pay. {% endsentence %}{% sentence %}Call us '
         'on {{ phone }} if you think that this is wrong.{% endsentence %}'),
    (8, 'Refund', 'Email', 'Client', 0, 0, NULL, '{{ refund }} has gone back to your card',
        E'Hello {{ client }},\n\n{{ refund }} for {{ services }} on {{ date }} has gone back to your card. It may take your '
         'bank a few days to show it.'),
    (9, 'Unfinished', 'Email', 'Client', 0, 0, NULL, 'Your booking is not finished',
        E'Hello {{ client }},\n\nyou began to book {{ services }} on {{ date }} at {{ time }}. Nothing was booked, and '
         'nothing was charged. If you still want to come, look here for a time: {{ page }}'),
    (10, 'BeforeStart', 'Email', 'Client', 2880, 240, NULL, 'See you on {{ date }} at {{ time }}',
        E'Hello {{ client }},\n\nwe look forward to seeing you:\n\n{{ services }}\n{{ date }}, {{ time }} to {{ end }}\nwith '
         '{{ practitioners }}\n\n{% sentence %}We are at {{ address }}. {% endsentence %}{% sentence %}If you cannot come, '
         'move it or cancel it here: {{ link }}\n{% endsentence %}{% sentence %}Or call us on {{ phone }}.{% endsentence %}'),
    (11, 'BeforeStart', 'Text', 'Client', 1440, 240, NULL, '',
        E'{{ business }}: see you on {{ date }} at {{ time }}.{% sentence %} If you cannot come, call {{ phone }}.'
         '{% endsentence %}'),
    (12, 'Booked', 'Email', 'Practitioner', 0, 0, true, 'Booked online: {{ date }} at {{ time }}',
        E'{{ client_name }} has booked {{ services }} on {{ date }}, {{ time }} to {{ end }}. Reference {{ reference }}.'),
    (14, 'Moved', 'Email', 'Practitioner', 0, 0, true, 'Moved: {{ date }} at {{ time }}',
        E'{{ client_name }} has moved {{ services }} from {{ old_date }}, {{ old_time }} to {{ date }}, {{ time }} to '
         '{{ end }}. Reference {{ reference }}.'),
    (13, 'Cancelled', 'Email', 'Practitioner', 0, 0, true, 'Cancelled: {{ date }} at {{ time }}',
        E'{{ client_name }} has cancelled {{ services }} on {{ date }}, {{ time }} to {{ end }}. Reference {{ reference }}.')
), added AS (
    INSERT INTO message_rule (id, trigger, channel, recipient, offset_minutes, late_minutes, is_online, position)
    SELECT ('00000000-0000-7000-8000-0000000017' || lpad(place::text, 2, '0'))::uuid, trigger, channel, recipient, minutes, late, online,
        place
    FROM usual
)
INSERT INTO message_text (rule_id, language, subject, body)
SELECT ('00000000-0000-7000-8000-0000000017' || lpad(place::text, 2, '0'))::uuid, 'en', subject, body FROM usual;

-- Clients who see their own bookings: by a link that was sent to them, or by a code. Only hashes of what names a session are kept.
CREATE TABLE own_session (
    token_hash bytea PRIMARY KEY CHECK (octet_length(token_hash) = 32),
    -- Whose: one client's by a link, everybody's who is reached at the address by a code.
    client_id uuid REFERENCES client,
    address text NOT NULL,
    created_at timestamptz NOT NULL,
    expires_at timestamptz NOT NULL CHECK (expires_at > created_at)
);
CREATE INDEX ON own_session (client_id) WHERE client_id IS NOT NULL;
CREATE INDEX ON own_session (expires_at);

CREATE TABLE own_code (
    id uuid PRIMARY KEY,
    address text NOT NULL,
    -- The message that carries it; the code is drawn when that is sent, and kept as a hash.
    message_id uuid NOT NULL UNIQUE REFERENCES message,
    code_hash bytea CHECK (octet_length(code_hash) = 32),
    asked_at timestamptz NOT NULL,
    expires_at timestamptz NOT NULL,
    tries int NOT NULL DEFAULT 0 CHECK (tries BETWEEN 0 AND 5)
);
CREATE INDEX ON own_code (address, asked_at);
CREATE INDEX ON own_code (expires_at);

-- A move that counts as cancelling costs what that costs; the deposit stays with the visit.
ALTER TABLE ledger_entry DROP CONSTRAINT ledger_entry_reason_check,
    ADD CONSTRAINT ledger_entry_reason_check
        CHECK (reason IN ('Deposit', 'Fee', 'FeeTakenBack', 'FeeDeclined', 'Refund', 'MoveFee'));

-- Visits around which something may be due.
CREATE INDEX visit_to_come ON visit (starts_at) WHERE state = 'Confirmed';
CREATE INDEX visit_done ON visit (ends_at) WHERE state = 'Done';
