// Drives the screens with Debian's Chromium: Lighthouse on the booking page and three screens of the desk, the first paint of every
// screen and what it loads, and how long the booking page takes to answer a finger on a slow phone.
import { createRequire } from "node:module";
import { figuresIn, median } from "./figures.mjs";

const [, , base, folder] = process.argv;
const figure = figuresIn(folder);
const installed = createRequire(new URL("../src/web/package.json", import.meta.url));
const { default: lighthouse, desktopConfig } = await import(installed.resolve("lighthouse"));
const { default: puppeteer } = await import(installed.resolve("puppeteer-core"));

const browser = await puppeteer.launch({
    executablePath: process.env.CHROME_PATH ?? "/usr/bin/chromium",
    args: ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update", "--disable-sync"],
});

// Fast 3G and a processor four times slower, as Lighthouse's phone has them.
const phone = { width: 390, height: 844, deviceScaleFactor: 2, isMobile: true, hasTouch: true };
const slow = { download: (1.6 * 1024 * 1024) / 8, upload: (750 * 1024) / 8, latency: 150 };

// The server has been warmed up, as it is by the first minute of its day.
for (const path of ["/book", "/"]) await fetch(base + path);

async function judged(name, path, config, page, aims) {
    const runs = [];
    for (let run = 0; run < (aims.seo ? 5 : 3); run++) {
        const { lhr } = await lighthouse(base + path, { logLevel: "silent" }, config, page);
        runs.push(lhr);
    }
    for (const [category, aim] of Object.entries(aims))
        figure(`${name}: ${category}`, median(runs.map((lhr) => lhr.categories[category].score * 100)), "of 100", aim);
    figure(`${name}: performance, the least of all runs`, Math.min(...runs.map((lhr) => lhr.categories.performance.score * 100)), "of 100");
    // How fast the machine was just then; a phone four times slower than a desktop machine is one of about 1500 to 2000.
    figure(`${name}: index of the machine`, median(runs.map((lhr) => lhr.environment.benchmarkIndex)), "");
    return (audit) => median(runs.map((lhr) => lhr.audits[audit].numericValue));
}

const visitor = await browser.newPage();
const all = { performance: "95 or more", accessibility: "100", "best-practices": "100", seo: "100" };
const business = await (await fetch(`${base}/api/public/v1/business`)).json();
const one = business.categories.flatMap((category) => category.services).find((service) => service.name === "Deep tissue 60");
for (const [name, path] of [
    ["booking page as a phone", "/book"],
    ["page of one service as a phone", `/book?what=${one.id}`],
]) {
    const page = await judged(name, path, undefined, visitor, all);
    figure(`${name}: largest paint`, page("largest-contentful-paint"), "ms", "under 2500");
    figure(`${name}: blocked`, page("total-blocking-time"), "ms");
}
await visitor.close();

// The same without estimating: a processor and a line that are really slowed down.
{
    const tab = await browser.newPage();
    await tab.setViewport(phone);
    await tab.setCacheEnabled(false);
    await tab.emulateNetworkConditions(slow);
    await tab.emulateCPUThrottling(4);
    await tab.evaluateOnNewDocument(() => {
        window.paints = [];
        window.presses = [];
        new PerformanceObserver((list) => window.paints.push(...list.getEntries().map((one) => one.startTime))).observe({
            type: "largest-contentful-paint",
            buffered: true,
        });
        new PerformanceObserver((list) =>
            window.presses.push(...list.getEntries().filter((one) => one.interactionId).map((one) => one.duration)),
        ).observe({ type: "event", durationThreshold: 16, buffered: true });
    });
    await tab.goto(`${base}/book`, { waitUntil: "networkidle0" });
    figure("booking page on a slow phone: largest paint", await tab.evaluate(() => window.paints.at(-1)), "ms", "under 2500");
    const press = async (selector) => {
        const found = await tab.waitForSelector(selector, { visible: true });
        await found.evaluate((element) => element.scrollIntoView({ block: "center" }));
        const before = await tab.evaluate(() => window.presses.length);
        await found.tap();
        await tab.waitForNetworkIdle({ idleTime: 300 });
        // A press that took less than the browser counts is not named.
        return tab.evaluate((from) => Math.max(16, ...window.presses.slice(from)), before);
    };
    const presses = {
        "a service": "::-p-xpath(//button[contains(., 'Deep tissue 60')])",
        "that there are no extras": "::-p-xpath(//button[.='No extras; to the free times'])",
        "a day": "::-p-xpath((//main//section/button[@aria-expanded='false'])[2])",
        "the practitioner": "::-p-xpath(//button[contains(., 'whoever is free')])",
    };
    let worst = 0;
    for (const [what, selector] of Object.entries(presses)) {
        const took = await press(selector);
        worst = Math.max(worst, took);
        figure(`booking page on a slow phone: pressing ${what}`, took, "ms");
    }
    figure("booking page on a slow phone: slowest press", worst, "ms", "under 200");
    await tab.close();
}

const desk = await browser.newPage();
await desk.setViewport({ width: 1280, height: 800 });
await desk.goto(`${base}/health/ready`);
const status = await desk.evaluate(async () => {
    const answer = await fetch("/api/v1/session", {
        method: "POST",
        headers: { "content-type": "application/json" },
        body: JSON.stringify({ email: "owner@harrowmere.test", password: "marsh-marigold", code: null }),
    });
    return answer.status;
});
if (status !== 200) throw new Error(`sign in: ${status}`);

for (const [name, path] of [
    ["the book", "/"],
    ["services", "/services"],
    ["team", "/team"],
])
    await judged(`${name} as a desktop`, path, desktopConfig, desk, { performance: "90 or more" });

const screens = [
    "/book", "/", "/team", "/team/qualifications", "/team/extra-shifts", "/rooms", "/services", "/services/add-ons", "/why-not",
    "/setup", "/setup/business", "/setup/locations", "/setup/booking-page", "/setup/accounts", "/setup/import", "/setup/history",
    "/account",
];
for (const screen of screens) {
    const paints = [];
    let bytes = 0;
    for (let run = 0; run < 3; run++) {
        const tab = await browser.newPage();
        await tab.setViewport({ width: 1280, height: 800 });
        await tab.setCacheEnabled(false);
        const wire = await tab.createCDPSession();
        await wire.send("Network.enable");
        bytes = 0;
        wire.on("Network.loadingFinished", (event) => (bytes += event.encodedDataLength));
        await tab.goto(base + screen, { waitUntil: "networkidle0" });
        // The first words of the screen itself: whatever is busy says so.
        await tab.waitForFunction(() => document.querySelector("main") && !document.querySelector("[aria-busy=true]"));
        paints.push(await tab.evaluate(() => performance.getEntriesByName("first-contentful-paint")[0].startTime));
        await tab.close();
    }
    const name = screen === "/" ? "/ (the book)" : screen;
    figure(`${name}: first paint`, median(paints), "ms");
    figure(`${name}: loaded`, bytes / 1024, "KB");
}

await browser.close();
