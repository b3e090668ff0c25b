// Drives the server over HTTP with the demo data: availability with wrk, booking one by one beside the bare SQL it needs.
import { execFileSync } from "node:child_process";
import { writeFileSync } from "node:fs";
import { performance } from "node:perf_hooks";

const [, , base, folder, psql] = process.argv;
const get = async (path) => (await fetch(base + path)).json();
const post = async (path, body, headers = {}) => {
  const answer = await fetch(base + path, { method: "POST", headers: { "content-type": "application/json", ...headers }, body: JSON.stringify(body) });
  return { status: answer.status, body: await answer.json() };
};

const business = await get("/api/public/v1/business");
const location = business.locations[0].id;
const services = business.categories.flatMap((category) => category.services);
const service = services.find((one) => one.name === "Deep tissue 60").id;

function wrk(name, body, seconds) {
  const script = `${folder}/${name}.lua`;
  writeFileSync(script, `wrk.method="POST"\nwrk.headers["content-type"]="application/json"\nwrk.body=[==[${JSON.stringify(body)}]==]\n`);
  const out = execFileSync("wrk", ["-t2", "-c16", `-d${seconds}s`, "--latency", "-s", script, `${base}/api/public/v1/starts`]).toString();
  const pick = (pattern) => out.match(pattern)?.[1];
  console.log(`${name}: ${pick(/Requests\/sec:\s+(\S+)/)} requests/s, p50 ${pick(/50%\s+(\S+)/)}, p99 ${pick(/99%\s+(\S+)/)}${/Non-2xx/.test(out) ? " WITH ERRORS" : ""}`);
}

// Requests at a steady rate, whether the answers keep up or not.
async function paced(name, body, rate, seconds) {
  const times = [];
  const text = JSON.stringify(body);
  const begin = performance.now();
  const pending = [];
  for (let i = 0; i < rate * seconds; i++) {
    const due = begin + (i * 1000) / rate;
    const wait = due - performance.now();
    if (wait > 1) await new Promise((go) => setTimeout(go, wait));
    pending.push(
      fetch(`${base}/api/public/v1/starts`, { method: "POST", headers: { "content-type": "application/json" }, body: text })
        .then((answer) => answer.arrayBuffer())
        .then(() => times.push(performance.now() - due)),
    );
  }
  await Promise.all(pending);
  times.sort((a, b) => a - b);
  const at = (share) => times[Math.floor(times.length * share)].toFixed(1);
  console.log(`${name}: ${times.length} requests at ${rate}/s, p50 ${at(0.5)} ms, p99 ${at(0.99)} ms`);
}

const sixty = { locationId: location, lines: [{ serviceId: service }], days: 60 };
await post("/api/public/v1/starts", sixty);
wrk("availability-warm-up", sixty, 5);
await paced("availability-60-days-200-per-second", sixty, 200, 10);
wrk("availability-60-days-flat-out", sixty, 10);

// Booking: every free start of the review, one after another, so that no two wait for the same day's lock.
const starts = [];
for (const name of ["Nutrition review 30", "Physio follow-up 30", "Foot care 30"]) {
  const id = services.find((one) => one.name === name).id;
  const found = await post("/api/public/v1/starts", { locationId: location, lines: [{ serviceId: id }], days: 60 });
  for (const day of found.body.days) for (let i = 0; i < day.starts.length; i += 4) starts.push({ id, start: day.starts[i].start });
}
const times = [];
let booked = 0;
for (const [i, one] of starts.slice(0, 330).entries()) {
  const body = { locationId: location, start: one.start, lines: [{ serviceId: one.id }], givenName: "Bench", familyName: `Number ${i}`, email: `bench${i}@example.com`, phone: "020 910 0001" };
  const before = performance.now();
  const answer = await post("/api/public/v1/visits", body, { "Idempotency-Key": crypto.randomUUID() });
  if (i >= 30) times.push(performance.now() - before);
  if (answer.status === 201) booked++;
}
const median = (list) => list.sort((a, b) => a - b)[Math.floor(list.length / 2)];
const http = median(times);

// The bare transaction of the same shape: lock, client, visit, line, two claims, two history rows, notice.
const sql = `${folder}/bare.sql`;
writeFileSync(
  sql,
  `\\set n random(1, 100000000)
BEGIN;
INSERT INTO book_day (date) VALUES ('2099-01-01'::date + (:n % 10000)::int) ON CONFLICT (date) DO UPDATE SET revision = book_day.revision + 1;
INSERT INTO client (id, given_name, family_name, email, created_at) VALUES (gen_random_uuid(), 'Bare', 'Number', 'bare@example.com', now());
INSERT INTO visit (id, reference, location_id, client_id, date, starts_at, ends_at, state, source, is_first, created_at)
 SELECT ('00000000-0000-4000-8000-' || lpad(to_hex(:n), 12, '0'))::uuid, lpad(to_hex(:n), 8, '0'), l.id, (SELECT id FROM client LIMIT 1), '2099-01-01', '2099-01-01', '2099-01-02', 'Confirmed', 'Desk', false, now() FROM location l LIMIT 1;
INSERT INTO appointment (id, visit_id, line, service_id, starts_at, ends_at, price, practitioner_asked)
 SELECT ('00000000-0000-4000-8001-' || lpad(to_hex(:n), 12, '0'))::uuid, ('00000000-0000-4000-8000-' || lpad(to_hex(:n), 12, '0'))::uuid, 0, s.id, '2099-01-01', '2099-01-02', 0, false FROM service s LIMIT 1;
INSERT INTO claim (id, appointment_id, location_id, resource_id, unit, during, core)
 SELECT gen_random_uuid(), ('00000000-0000-4000-8001-' || lpad(to_hex(:n), 12, '0'))::uuid, l.id, u.resource_id, u.unit,
  tstzrange('2099-01-01'::timestamptz + make_interval(mins => (:n * 5)::int), '2099-01-01'::timestamptz + make_interval(mins => (:n * 5 + 5)::int)),
  tstzrange('2099-01-01'::timestamptz + make_interval(mins => (:n * 5)::int), '2099-01-01'::timestamptz + make_interval(mins => (:n * 5 + 5)::int))
  FROM location l, (SELECT * FROM resource_unit LIMIT 2) u WHERE l.id = (SELECT id FROM location LIMIT 1);
INSERT INTO history (at, actor, action, subject_kind, subject_id) VALUES (now(), 'bare', 'Booked', 'visit', gen_random_uuid()), (now(), 'bare', 'Added', 'client', gen_random_uuid());
SELECT pg_notify('kingcup_book', 'bare');
COMMIT;
`,
);
const words = psql.split(" ");
const port = words[words.indexOf("-p") + 1];
const bench = execFileSync(words[0].replace(/psql$/, "pgbench"), ["-n", "-h", "127.0.0.1", "-p", port, "-U", "kingcup", "-c1", "-t300", "-M", "simple", "-f", sql, "bench"], { stdio: ["ignore", "pipe", "ignore"] }).toString();
const bare = Number(bench.match(/latency average = (\S+)/)[1]);
console.log(`booking: ${booked} of ${Math.min(330, starts.length)} booked, median ${http.toFixed(2)} ms over HTTP; bare transaction ${bare.toFixed(2)} ms; ratio ${(http / bare).toFixed(1)}`);
