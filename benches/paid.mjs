// A whole booking with a hold and a deposit over HTTP, beside the bare transactions it needs. What the card gateway takes is measured
// by asking it the same, and taken off: it is another process, and of a real one nobody knows.
import { performance } from "node:perf_hooks";
import { asker, bareOf, startsOf } from "./driving.mjs";
import { figuresIn, median } from "./figures.mjs";

const [, , base, folder, psql, gateway, gatewayKey] = process.argv;
const figure = figuresIn(folder);
const post = asker(base);
const atGateway = asker(gateway);

const id = (kind) => `('00000000-0000-4000-${kind}-' || lpad(to_hex(:n), 12, '0'))::uuid`;
const hash = "decode(lpad(to_hex(:n), 64, '0'), 'hex')";
const lock = `SELECT pg_advisory_xact_lock_shared(7201907);
INSERT INTO book_day (date, revision) VALUES ('2099-01-01'::date + (:n % 10000)::int, 1) ON CONFLICT (date) DO UPDATE
 SET revision = book_day.revision + 1;
SELECT pg_advisory_xact_lock(7201906, :n % 1000000);
`;
const told = "SELECT pg_notify('kingcup_book', 'bare');\nCOMMIT;\n";
const during = `tstzrange('2099-01-01'::timestamptz + make_interval(mins => (:n * 5)::int),
   '2099-01-01'::timestamptz + make_interval(mins => (:n * 5 + 5)::int))`;
// As large as what is kept of a laid visit, and of what somebody wants who pays.
const laid = `'{"lines":["${"x".repeat(900)}"]}'`;

// Five transactions: keep, begin to pay, name the payment at the gateway, decide, book.
const bare = bareOf(
    psql,
    `${folder}/bare-paid.sql`,
    `\\set n random(1, 100000000)
BEGIN;
${lock}
INSERT INTO proposal (id, kind, token_hash, location_id, date, expires_at, created_at, device_hash, range_hash, asked,
  setup_revision, visit)
 SELECT ${id("8002")}, 'Hold', ${hash}, l.id, '2099-01-01', now() + interval '10 minutes', now(), ${hash}, ${hash}, ${hash}, 1, ${laid}
 FROM location l LIMIT 1;
INSERT INTO occupation (id, kind, location_id, expires_at, proposal_id)
 SELECT ${id("8001")}, 'Hold', l.id, now() + interval '10 minutes', ${id("8002")} FROM location l LIMIT 1;
INSERT INTO claim (id, occupation_id, location_id, resource_id, unit, during, core)
 SELECT gen_random_uuid(), ${id("8001")}, l.id, u.resource_id, u.unit, ${during}, ${during}
  FROM location l, (SELECT * FROM resource_unit LIMIT 2) u WHERE l.id = (SELECT id FROM location LIMIT 1);
${told}
BEGIN;
INSERT INTO idempotency (scope, key, fingerprint, created_at) VALUES ('bare', 'number ' || lpad(:n::text, 9, '0'), decode('00', 'hex'),
 now());
${lock}
UPDATE proposal SET expires_at = now() + interval '20 minutes', is_paying = true WHERE id = ${id("8002")};
UPDATE occupation SET expires_at = now() + interval '20 minutes' WHERE proposal_id = ${id("8002")};
INSERT INTO payment (id, location_id, amount, currency, state, way, hold_hash, wanted, created_at, expires_at)
 SELECT ${id("8003")}, l.id, 100, 'EUR', 'Open', 'Page', ${hash}, ${laid}, now(), now() + interval '10 minutes' FROM location l LIMIT 1;
UPDATE idempotency SET status = 201, body = ${laid} WHERE scope = 'bare' AND key = 'number ' || lpad(:n::text, 9, '0');
${told}
UPDATE payment SET gateway_id = :n::text WHERE id = ${id("8003")};
BEGIN;
${lock}
UPDATE proposal SET expires_at = now() + interval '1 day' WHERE id = ${id("8002")};
UPDATE occupation SET expires_at = now() + interval '1 day' WHERE proposal_id = ${id("8002")};
UPDATE payment SET state = 'Charging' WHERE id = ${id("8003")};
${told}
BEGIN;
${lock}
INSERT INTO client (id, given_name, family_name, email, created_at) VALUES (${id("8004")}, 'Bare', 'Number', 'bare@example.com', now());
UPDATE occupation SET kind = 'Line', expires_at = NULL, proposal_id = NULL WHERE proposal_id = ${id("8002")};
DELETE FROM proposal WHERE id = ${id("8002")};
INSERT INTO visit (id, reference, location_id, client_id, payer_id, date, starts_at, ends_at, state, state_since, source, is_first,
  created_at, device_hash, range_hash)
 SELECT ${id("8000")}, lpad(to_hex(:n), 8, '0'), l.id, ${id("8004")}, ${id("8004")}, '2099-01-01', '2099-01-01', '2099-01-02',
  'Confirmed', now(), 'Online', true, now(), ${hash}, ${hash} FROM location l LIMIT 1;
INSERT INTO appointment (id, visit_id, line, service_id, starts_at, ends_at, price, practitioner_asked)
 SELECT ${id("8001")}, ${id("8000")}, 0, s.id, '2099-01-01', '2099-01-02', 0, false FROM service s LIMIT 1;
INSERT INTO price_part (appointment_id, place, kind, amount) VALUES (${id("8001")}, 0, 'List', 0);
INSERT INTO history (at, actor, action, subject_kind, subject_id, after)
 VALUES (now(), 'bare', 'Booked', 'visit', ${id("8000")}, ${laid}), (now(), 'bare', 'Added', 'client', ${id("8004")}, ${laid});
INSERT INTO message_event (at, ready_at, kind, visit_id, by_client, after)
 VALUES (now(), now() + interval '1 day', 'Visit', ${id("8000")}, true, ${laid});
UPDATE payment SET state = 'Booked', visit_id = ${id("8000")}, wanted = NULL, settled_at = now() WHERE id = ${id("8003")};
INSERT INTO card (id, client_id, payment_id, gateway_token, last_digits, expires, created_at)
 VALUES (gen_random_uuid(), ${id("8004")}, ${id("8003")}, 'bare', '0001', '04/29', now());
INSERT INTO ledger_entry (id, at, actor, location_id, reason, client_id, visit_id, payment_id)
 SELECT ${id("8005")}, now(), 'bare', l.id, 'Deposit', ${id("8004")}, ${id("8000")}, ${id("8003")} FROM location l LIMIT 1;
INSERT INTO ledger_posting (entry_id, account, amount) VALUES (${id("8005")}, 'CardClearing', 100), (${id("8005")}, 'ClientDeposits', -100);
${told}`,
    150,
);

// What the gateway is asked for one payment: begun, looked at, captured, looked at.
async function gatewayOnce(i) {
    const keyed = (key) => ({ authorization: `Bearer ${gatewayKey}`, "idempotency-key": key });
    const reference = crypto.randomUUID();
    let spent = 0;
    const ask = async (...asked) => {
        const before = performance.now();
        const answer = await atGateway(...asked);
        spent += performance.now() - before;
        return answer.body;
    };
    const begun = { reference, payee: "Bench", amount: 100 + i, currency: "EUR", returnAddress: `${base}/book`, atTerminal: false };
    const session = await ask("/v1/sessions", begun, keyed(reference));
    await enter(session.page);
    await ask(`/v1/sessions/${session.id}`, null, keyed(""), "GET");
    await ask(`/v1/sessions/${session.id}/capture`, {}, keyed(`capture ${session.id}`));
    await ask(`/v1/sessions/${session.id}`, null, keyed(""), "GET");
    return spent;
}

// Somebody enters a card, which takes as long as it takes.
async function enter(page) {
    const body = "number=9000000000000001&expires=04%2F29&check=123&what=pay";
    const headers = { "content-type": "application/x-www-form-urlencoded" };
    const answer = await fetch(page, { method: "POST", redirect: "manual", headers, body });
    if (answer.status !== 302) throw new Error(`the card was answered with ${answer.status}`);
}

const business = await (await fetch(`${base}/api/public/v1/business`)).json();
const location = business.locations[0].id;
const services = business.categories.flatMap((category) => category.services);
const starts = await startsOf(post, location, services, ["Express facial 30", "Back and shoulders 30", "Podiatry 40", "Shockwave 20"]);

async function whole(i, { id: serviceId, start }) {
    let spent = 0;
    const ask = async (path, body, status, headers) => {
        const before = performance.now();
        const answer = await post(path, body, headers);
        spent += performance.now() - before;
        if (answer.status !== status) throw new Error(`${path}: ${answer.status} ${JSON.stringify(answer.body)}`);
        return answer.body;
    };
    const wanted = { locationId: location, start, lines: [{ serviceId }] };
    const held = await ask("/api/public/v1/holds", wanted, 201);
    const phone = `020 92${String(i).padStart(5, "0")}`;
    const who = { givenName: "Bench", familyName: `Payer ${i}`, email: `payer${i}@example.com`, phone };
    const seen = { hold: held.token, dueSeen: held.due.amount, priceSeen: held.price.amount };
    const begun = await ask("/api/public/v1/payments", { ...wanted, ...who, ...seen }, 201, { "idempotency-key": crypto.randomUUID() });
    await enter((await ask("/api/public/v1/payments/page", { token: begun.token }, 200)).address);
    const paid = await ask("/api/public/v1/payments/finish", { token: begun.token }, 200);
    if (paid.state !== "booked") throw new Error(`not booked but ${paid.state}`);
    return spent;
}

// The first run in code not yet compiled for speed; they are not counted.
const warm = 60,
    all = Math.min(180, starts.length);
if (all < 120) throw new Error(`only ${all} starts are free`);
const bareBefore = bare();
const times = [],
    apart = [];
for (let i = 0; i < all; i++) {
    const [time, at] = [await whole(i, starts[i]), await gatewayOnce(i)];
    if (i >= warm) (times.push(time), apart.push(at));
}
// Before and after, since a disk has its moods.
const bareTime = (bareBefore + bare()) / 2;
figure("bare transactions of a booking with hold and deposit", bareTime, "ms");
figure("the card gateway's part of it", median(apart), "ms");
const own = (median(times) - median(apart)) / bareTime;
figure("booking with hold and deposit over HTTP, without the gateway's part, median", own, "times", "at most 3", "its bare transactions");
