// What the measurements over HTTP share: requests as a browser sends them, and bare transactions beside them.
import { execFileSync } from "node:child_process";
import { writeFileSync } from "node:fs";
import { Agent, request } from "node:http";

// Answers come packed as a browser asks for them, and are unpacked only where they are read: what is measured is the server, on the
// same two cores.
const agent = new Agent({ keepAlive: true, maxSockets: 64 });

/** Sends JSON; answers the status. */
export function sender(base) {
    return (path, text, more = {}) =>
        new Promise((done, failed) => {
            const plain = { "content-type": "application/json", "content-length": Buffer.byteLength(text), "accept-encoding": "gzip" };
            const asked = request(base + path, { method: "POST", agent, headers: { ...plain, ...more } }, (answer) => {
                answer.resume();
                answer.on("end", () => done(answer.statusCode));
            });
            asked.on("error", failed);
            asked.end(text);
        });
}

/** Sends JSON; answers the status and what was answered. */
export function asker(base) {
    return (path, body, more = {}, method = "POST") =>
        new Promise((done, failed) => {
            const text = body === null ? "" : JSON.stringify(body);
            const plain = body === null ? {} : { "content-type": "application/json", "content-length": Buffer.byteLength(text) };
            const asked = request(base + path, { method, agent, headers: { ...plain, ...more } }, (answer) => {
                const parts = [];
                answer.on("data", (part) => parts.push(part));
                answer.on("end", () => {
                    const said = Buffer.concat(parts).toString();
                    done({ status: answer.statusCode, body: said.startsWith("{") ? JSON.parse(said) : null });
                });
            });
            asked.on("error", failed);
            asked.end(text);
        });
}

/** Runs transactions with pgbench, one after another; answers how long one run of them takes, in milliseconds. */
export function bareOf(psql, file, sql, times = 200) {
    writeFileSync(file, sql);
    const words = psql.split(" ");
    const port = words[words.indexOf("-p") + 1];
    return () => {
        const bench = execFileSync(
            words[0].replace(/psql$/, "pgbench"),
            ["-n", "-h", "127.0.0.1", "-p", port, "-U", "kingcup", "-c1", `-t${times}`, "-M", "simple", "-f", file, "bench"],
            { stdio: ["ignore", "pipe", "inherit"] },
        ).toString();
        if (!/number of failed transactions: 0 /.test(bench)) throw new Error(`a bare transaction failed\n${bench}`);
        return Number(bench.match(/latency average = (\S+)/)[1]);
    };
}

/** Starts of some services, apart from each other, so that no two wait for the same day's lock. */
export async function startsOf(post, location, services, names) {
    const starts = [];
    for (const name of names) {
        const id = services.find((one) => one.name === name).id;
        const found = await post("/api/public/v1/starts", { locationId: location, lines: [{ serviceId: id }], days: 60 });
        for (const day of found.body.days) for (let i = 0; i < day.starts.length; i += 4) starts.push({ id, start: day.starts[i].start });
    }
    return starts;
}
