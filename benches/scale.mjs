// The queries of the screens on a book of five years beside the same on an empty year, one after another, over HTTP.
import { readFileSync } from "node:fs";
import { performance } from "node:perf_hooks";
import { figuresIn } from "./figures.mjs";

const [, , folder, pid, ...bases] = process.argv;
const figure = figuresIn(folder);

async function measure(base) {
    let cookie = "",
        token = "";
    async function ask(method, path, body, headers = {}) {
        const answer = await fetch(base + path, {
            method,
            headers: {
                ...(body ? { "content-type": "application/json" } : {}),
                ...(cookie ? { cookie, "X-Kingcup-Token": token } : {}),
                ...headers,
            },
            body: body && JSON.stringify(body),
        });
        const text = await answer.text();
        if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${text.slice(0, 300)}`);
        return { answer, body: text ? JSON.parse(text) : null };
    }

    const session = await ask("POST", "/api/v1/session", { email: "owner@harrowmere.test", password: "marsh-marigold" });
    cookie = session.answer.headers
        .getSetCookie()
        .map((one) => one.split(";")[0])
        .join("; ");
    token = session.body.token ?? "";
    const setup = (await ask("GET", "/api/v1/setup")).body;
    const location = setup.locations[0];
    const service = setup.services.find((one) => one.name === "Deep tissue 60");
    const today = location.today;
    const inDays = (n) => new Date(Date.parse(today) + n * 86400000).toISOString().slice(0, 10);
    const practitioner = (await ask("GET", "/api/v1/setup/practitioners")).body[0];
    const rooms = (await ask("GET", "/api/v1/setup/rooms")).body;
    const room = rooms.find((one) => one.locationId === location.id);
    const booked =
        (await ask("GET", `/api/v1/locations/${location.id}/days/${inDays(1)}`)).body.visits[0] ??
        (
            await ask(
                "POST",
                "/api/v1/visits",
                {
                    locationId: location.id,
                    start: (
                        await ask("POST", "/api/v1/starts", {
                            locationId: location.id,
                            lines: [{ serviceId: service.id }],
                            from: inDays(2),
                            days: 5,
                        })
                    ).body.flatMap((day) => day.starts)[0].start,
                    lines: [{ serviceId: service.id }],
                    newClient: { givenName: "Ada", familyName: "Marsh", phone: "020 910 0001" },
                },
                { "Idempotency-Key": crypto.randomUUID() },
            )
        ).body;
    let version = room.version;
    const questions = {
        "a day": () => ask("GET", `/api/v1/locations/${location.id}/days/${inDays(3)}`),
        "availability over 60 days": () =>
            ask("POST", "/api/public/v1/starts", { locationId: location.id, lines: [{ serviceId: service.id }], days: 60 }),
        "search of clients": () => ask("GET", "/api/v1/clients?search=qab1"),
        "a week of one practitioner": () =>
            ask("GET", `/api/v1/locations/${location.id}/weeks/${inDays(1)}?resourceId=${practitioner.id}`),
        "a month as a map": () => ask("GET", `/api/v1/locations/${location.id}/months/${inDays(1)}`),
        "an agenda of a day": () => ask("GET", `/api/v1/agenda?locationId=${location.id}&from=${inDays(3)}&until=${inDays(3)}`),
        "the list of clients": () => ask("GET", "/api/v1/clients/list"),
        "the record of a client": () => ask("GET", `/api/v1/clients/${booked.client.id}/record`),
        "history of a visit": () => ask("GET", `/api/v1/visits/${booked.id}/history`),
        "history of the setup": () => ask("GET", "/api/v1/setup/history"),
        "a block": async () => {
            const made = await ask("POST", "/api/v1/setup/blocks", {
                resourceId: room.id,
                locationId: location.id,
                kind: "block",
                reason: "bench",
                start: `${inDays(40)}T07:00:00`,
                end: `${inDays(40)}T07:15:00`,
            });
            await ask("DELETE", `/api/v1/setup/blocks/${made.body.id}`, undefined, { "If-Match": "1" });
        },
        "a change of the setup": async () => {
            version = (await ask("PUT", `/api/v1/setup/rooms/${room.id}`, room, { "If-Match": String(version) })).body.version;
        },
    };
    const medians = {};
    for (const [name, question] of Object.entries(questions)) {
        const times = [];
        for (let i = 0; i < 40; i++) {
            const before = performance.now();
            await question();
            if (i >= 10) times.push(performance.now() - before);
        }
        medians[name] = times.sort((a, b) => a - b)[Math.floor(times.length / 2)];
    }
    return medians;
}

const [empty, full] = [await measure(bases[0]), await measure(bases[1])];
for (const name of Object.keys(full)) {
    figure(`${name}, on five years`, full[name], "ms", "under 50");
    figure(
        `${name}, five years beside an empty year`,
        full[name] / empty[name],
        "times",
        "at most 2",
        `the same on an empty year (${empty[name].toFixed(2)} ms)`,
    );
}
figure(
    "memory of a server after it",
    Number(readFileSync(`/proc/${pid}/status`, "utf8").match(/VmRSS:\s+(\d+)/)[1]) / 1024,
    "MB",
    "under 250",
);
