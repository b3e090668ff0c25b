-- Five years of a house of forty: 50,000 clients, 500,000 appointments, most of them past, a usual month ahead. Run with psql;
-- :years is 5, or 0 for the same house with an empty year.
\set ON_ERROR_STOP on
BEGIN;
SET LOCAL synchronous_commit = off;
-- Forty practitioners: copies of those of the demo, with what they hold and when they work.
CREATE TEMP TABLE copy AS
SELECT r.id AS old, gen_random_uuid() AS new, r.position + 100 * n AS position, r.name || ' ' || n AS name
FROM resource r, generate_series(1, 9) AS n WHERE r.kind = 'practitioner' ORDER BY n, r.position
LIMIT greatest(0, 40 - (SELECT count(*) FROM resource WHERE kind = 'practitioner'));
INSERT INTO resource (id, kind, name, position, units) SELECT c.new, 'practitioner', c.name, c.position, r.units FROM copy c
    JOIN resource r ON r.id = c.old;
INSERT INTO resource_unit (resource_id, unit) SELECT c.new, u.unit FROM copy c JOIN resource_unit u ON u.resource_id = c.old;
INSERT INTO practitioner (id, bookable_online, accepts_new_clients) SELECT c.new, p.bookable_online, p.accepts_new_clients FROM copy c
    JOIN practitioner p ON p.id = c.old;
INSERT INTO held_qualification (practitioner_id, qualification_id, from_date, until_date)
SELECT c.new, h.qualification_id, h.from_date, h.until_date FROM copy c JOIN held_qualification h ON h.practitioner_id = c.old;
INSERT INTO rota (practitioner_id, from_date, weeks) SELECT c.new, r.from_date, r.weeks FROM copy c
    JOIN rota r ON r.practitioner_id = c.old;
INSERT INTO shift (id, practitioner_id, rota_from, week, weekday, location_id, from_time, until_time)
SELECT gen_random_uuid(), c.new, s.rota_from, s.week, s.weekday, s.location_id, s.from_time, s.until_time
FROM copy c JOIN shift s ON s.practitioner_id = c.old AND s.rota_from IS NOT NULL;

INSERT INTO client (id, given_name, family_name, email, phone, created_at)
SELECT gen_random_uuid(), (ARRAY['Ada', 'Bea', 'Cleo', 'Dara', 'Ezra', 'Fern', 'Gil', 'Hale', 'Iris',
    'Jude'])[1 + n % 10] || ' ' || n / 977, 'Q' || substr(md5(n::text), 1, 6),
    'scale' || n || '@example.com', '+3532091' || lpad(n::text, 5, '0'), now() - interval '5 years'
FROM generate_series(1, CASE WHEN :years > 0 THEN 50000 ELSE 0 END) AS n;

CREATE TEMP TABLE wanted AS
SELECT gen_random_uuid() AS visit, gen_random_uuid() AS line, p.id AS practitioner, day::date AS date,
    (day::date + time '09:00' + slot * interval '1 hour') AT TIME ZONE l.zone AS starts, l.id AS location,
    row_number() OVER () AS n, day > now() AS ahead
FROM practitioner p CROSS
    JOIN generate_series(current_date - (365 * :years + 1), current_date + CASE WHEN :years > 0 THEN 30 ELSE -1 END,
    interval '1 day') AS day
CROSS JOIN generate_series(0, 9) AS slot CROSS JOIN (SELECT * FROM location ORDER BY position LIMIT 1) AS l
-- Seven a day; ten on the last two days, which are as full as a day can be, and tomorrow, but for a quarter of the people, who have
-- two; a book that thins out ahead.
WHERE :years > 0 AND (slot < 7 OR day::date IN (current_date - 2, current_date - 1, current_date + 1))
    AND day::date <> current_date + 3 AND (day <= now()
    OR (day::date = current_date + 1 AND (abs(hashtext(p.id::text)) % 4 <> 0 OR slot IN (0, 5)))
    OR (day::date > current_date + 1
        AND (abs(hashtext(p.id::text || day || slot)) % 100) < 60 - 2 * (day::date - current_date)));
CREATE TEMP TABLE who AS SELECT id, row_number() OVER () - 1 AS n FROM client;
INSERT INTO visit (id, reference, location_id, client_id, payer_id, date, starts_at, ends_at, state, state_since, source, is_first,
    created_at)
SELECT w.visit, upper(substr(md5(w.n::text), 1, 3)) || lpad(to_hex(w.n), 5, '0'), w.location, c.id, c.id, w.date, w.starts,
    w.starts + interval '55 minutes',
    CASE WHEN w.ahead THEN 'Confirmed' ELSE 'Done' END, w.starts, 'Desk', false, w.starts - interval '9 days'
FROM wanted w JOIN who c ON c.n = w.n % greatest(1, (SELECT count(*) FROM who));
INSERT INTO occupation (id, kind, location_id) SELECT line, 'Line', location FROM wanted;
INSERT INTO appointment (id, visit_id, line, service_id, starts_at, ends_at, price, practitioner_asked)
SELECT w.line, w.visit, 0, s.id, w.starts, w.starts + interval '55 minutes', s.price, false FROM wanted w CROSS JOIN (SELECT id, price
    FROM service ORDER BY position LIMIT 1) AS s;
INSERT INTO price_part (appointment_id, place, kind, amount) SELECT id, 0, 'List', price FROM appointment a WHERE NOT EXISTS (SELECT 1
    FROM price_part p WHERE p.appointment_id = a.id);
INSERT INTO claim (id, occupation_id, location_id, service_id, resource_id, unit, role, during, core)
SELECT gen_random_uuid(), w.line, w.location, a.service_id, w.practitioner, 0, 0, tstzrange(a.starts_at, a.ends_at), tstzrange(a.starts_at,
    a.ends_at)
FROM wanted w JOIN appointment a ON a.id = w.line;
INSERT INTO history (at, actor, action, subject_kind, subject_id, after)
SELECT starts - interval '9 days', 'Scale', 'Booked', 'visit', visit, jsonb_build_object('state', 'Confirmed', 'start', starts) FROM wanted;
INSERT INTO blocked_time (id, resource_id, during, reason)
SELECT gen_random_uuid(), p.id, tstzrange(now() - n * interval '1 day', now() - n * interval '1 day' + interval '15 minutes'), 'call'
FROM (SELECT id FROM practitioner ORDER BY id LIMIT 10) AS p, generate_series(2, 2 + CASE WHEN :years > 0 THEN 999 ELSE -1 END) AS n;
COMMIT;
VACUUM ANALYZE;
-- What was written goes to the disk now, not while something is measured.
CHECKPOINT;
SELECT count(*) || ' appointments, ' || (SELECT count(*) FROM client) || ' clients, ' || (SELECT count(*)
    FROM practitioner) || ' practitioners' FROM appointment;
