// Drives the server over HTTP with the demo data: availability with wrk, booking one by one beside the bare SQL it needs.
import { execFileSync } from "node:child_process";
import { writeFileSync } from "node:fs";
import { performance } from "node:perf_hooks";
import { asker, bareOf, sender, startsOf } from "./driving.mjs";
import { figuresIn, median } from "./figures.mjs";

const [, , base, folder, psql] = process.argv;

const figure = figuresIn(folder);

const get = async (path) => (await fetch(base + path)).json();
const post = asker(base);
const send = sender(base);

const business = await get("/api/public/v1/business");
const location = business.locations[0].id;
const services = business.categories.flatMap((category) => category.services);
const service = services.find((one) => one.name === "Deep tissue 60").id;

function wrk(name, body, seconds) {
    const script = `${folder}/wrk.lua`;
    writeFileSync(script, `wrk.method="POST"\nwrk.headers["content-type"]="application/json"\nwrk.body=[==[${JSON.stringify(body)}]==]\n`);
    const out = execFileSync("wrk", ["-t2", "-c16", `-d${seconds}s`, "--latency", "-s", script, `${base}/api/public/v1/starts`]).toString();
    // Of the lines of the distribution, which stand alone; the shares of the lines above look the same.
    const milliseconds = (text) => parseFloat(text) * (text.endsWith("us") ? 0.001 : text.endsWith("ms") ? 1 : 1000);
    const at = (share) => milliseconds(out.match(new RegExp(`^\\s+${share}%\\s+(\\S+)\\s*$`, "m"))[1]);
    if (/Non-2xx/.test(out)) throw new Error(`${name}: some requests were refused\n${out}`);
    figure(`${name}, requests a second`, Number(out.match(/Requests\/sec:\s+(\S+)/)[1]), "1/s");
    figure(`${name}, p50`, at(50), "ms");
    figure(`${name}, p99`, at(99), "ms");
}

// Requests at a steady rate, whether the answers keep up or not.
async function ask(text) {
    const status = await send("/api/public/v1/starts", text);
    if (status !== 200) throw new Error(`status ${status}`);
}

async function paced(name, body, rate, seconds) {
    const times = [];
    const text = JSON.stringify(body);
    const begin = performance.now();
    const pending = [];
    for (let i = 0; i < rate * seconds; i++) {
        const due = begin + (i * 1000) / rate;
        const wait = due - performance.now();
        if (wait > 1) await new Promise((go) => setTimeout(go, wait));
        pending.push(ask(text).then(() => times.push(performance.now() - due)));
    }
    await Promise.all(pending);
    times.sort((a, b) => a - b);
    const at = (share) => times[Math.floor(times.length * share)];
    figure(`${name}, p50`, at(0.5), "ms", "under 15");
    figure(`${name}, p99`, at(0.99), "ms", "under 50");
}

const sixty = { locationId: location, lines: [{ serviceId: service }], days: 60 };
// The server has only just said that it is ready.
await paced("availability over 60 days at 200 a second, first minute after the start", sixty, 200, 60);
await paced("availability over 60 days at 200 a second", sixty, 200, 15);
wrk("availability over 60 days, flat out", sixty, 10);

// The bare transaction of the same shape: key, lock, client, visit, line, price, two claims, two history rows, what is told of it, notice.
const bare = bareOf(
    psql,
    `${folder}/bare.sql`,
    `\\set n random(1, 100000000)
BEGIN;
INSERT INTO idempotency (scope, key, fingerprint, created_at) VALUES ('bare', gen_random_uuid()::text, decode('00', 'hex'), now());
INSERT INTO book_day (date) VALUES ('2099-01-01'::date + (:n % 10000)::int) ON CONFLICT (date) DO UPDATE
 SET revision = book_day.revision + 1;
INSERT INTO client (id, given_name, family_name, email, created_at) VALUES (gen_random_uuid(), 'Bare', 'Number', 'bare@example.com', now());
INSERT INTO visit (id, reference, location_id, client_id, payer_id, date, starts_at, ends_at, state, state_since, source, is_first,
  created_at)
 SELECT ('00000000-0000-4000-8000-' || lpad(to_hex(:n), 12, '0'))::uuid, lpad(to_hex(:n), 8, '0'), l.id, c.id, c.id, '2099-01-01',
  '2099-01-01', '2099-01-02', 'Confirmed', now(), 'Desk', false, now() FROM location l, client c LIMIT 1;
INSERT INTO occupation (id, kind, location_id) SELECT ('00000000-0000-4000-8001-' || lpad(to_hex(:n), 12, '0'))::uuid, 'Line', id
 FROM location LIMIT 1;
INSERT INTO appointment (id, visit_id, line, service_id, starts_at, ends_at, price, practitioner_asked)
 SELECT ('00000000-0000-4000-8001-' || lpad(to_hex(:n), 12, '0'))::uuid, ('00000000-0000-4000-8000-' || lpad(to_hex(:n), 12, '0'))::uuid,
  0, s.id, '2099-01-01', '2099-01-02', 0, false FROM service s LIMIT 1;
INSERT INTO price_part (appointment_id, place, kind, amount)
 VALUES (('00000000-0000-4000-8001-' || lpad(to_hex(:n), 12, '0'))::uuid, 0, 'List', 0);
INSERT INTO claim (id, occupation_id, location_id, resource_id, unit, during, core)
 SELECT gen_random_uuid(), ('00000000-0000-4000-8001-' || lpad(to_hex(:n), 12, '0'))::uuid, l.id, u.resource_id, u.unit,
  tstzrange('2099-01-01'::timestamptz + make_interval(mins => (:n * 5)::int),
   '2099-01-01'::timestamptz + make_interval(mins => (:n * 5 + 5)::int)),
  tstzrange('2099-01-01'::timestamptz + make_interval(mins => (:n * 5)::int),
   '2099-01-01'::timestamptz + make_interval(mins => (:n * 5 + 5)::int))
  FROM location l, (SELECT * FROM resource_unit LIMIT 2) u WHERE l.id = (SELECT id FROM location LIMIT 1);
INSERT INTO history (at, actor, action, subject_kind, subject_id)
 VALUES (now(), 'bare', 'Booked', 'visit', gen_random_uuid()), (now(), 'bare', 'Added', 'client', gen_random_uuid());
INSERT INTO message_event (at, ready_at, kind, visit_id, by_client, after)
 VALUES (now(), now() + interval '1 day', 'Visit', ('00000000-0000-4000-8000-' || lpad(to_hex(:n), 12, '0'))::uuid, true, '{}');
SELECT pg_notify('kingcup_book', 'bare');
COMMIT;
`,
);

const starts = await startsOf(post, location, services, ["Nutrition review 30", "Physio follow-up 30", "Foot care 30"]);
// The first bookings of a server that has just been started run in code not yet compiled for speed; they are not counted.
const warm = 100;
const bareBefore = bare();
const times = [];
let booked = 0;
for (const [i, one] of starts.slice(0, 330).entries()) {
    const body = {
        locationId: location,
        start: one.start,
        lines: [{ serviceId: one.id }],
        givenName: "Bench",
        familyName: `Number ${i}`,
        email: `bench${i}@example.com`,
        phone: `020 91${String(i).padStart(5, "0")}`,
    };
    const before = performance.now();
    const status = await send("/api/public/v1/visits", JSON.stringify(body), { "idempotency-key": crypto.randomUUID() });
    if (i >= warm) times.push(performance.now() - before);
    if (status === 201) booked++;
}
const http = median(times);
// Before and after, since a disk has its moods.
const bareTime = (bareBefore + bare()) / 2;
if (booked < Math.min(330, starts.length) * 0.9) throw new Error(`only ${booked} of ${Math.min(330, starts.length)} could be booked`);
figure("bare transaction of a booking", bareTime, "ms");
figure("booking over HTTP, median", http / bareTime, "times", "at most 3", "bare transaction of a booking");
