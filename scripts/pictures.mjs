// Takes the pictures in docs/screenshots of a demo that runs: node scripts/pictures.mjs ADDRESS STAND-INS [NAME …]
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const root = join(dirname(fileURLToPath(import.meta.url)), "..");
const puppeteer = createRequire(join(root, "src/web/package.json"))("puppeteer-core");
const [address, standIns, ...names] = process.argv.slice(2);

const mill = "ffcb72e8-7f54-6713-a40c-0d0faf2b1e08";
const maren = "821aab57-9de1-15d8-1a02-8d736e7ecd9f";
const odile = "0cfccd27-8099-bbdf-2058-97258ab9cb92";
const kirlin = "c44230b3-2a1b-33ac-045d-46e6d3ab1b76";
const laser = "7e9ebba1-2f4b-3c97-13f2-bc89714c7f28";
const deep = "345c7d7c-1716-74e0-5a41-c9dbfd142933";

const press = (words) => async (page) => {
  const found = await page.waitForSelector(`xpath/${words}`, { timeout: 15_000 });
  await found.evaluate((node) => node.scrollIntoView({ block: "center" }));
  await found.click();
};
const button = (words) => press(`//button[normalize-space()='${words}']`);
const see = (words) => async (page) => {
  const found = await page.waitForSelector(`xpath/${words}`, { timeout: 15_000 });
  await found.evaluate((node) => node.scrollIntoView({ block: "center" }));
};
const fill = (label, text) => async (page) => {
  const named = `@id=//label[normalize-space()='${label}']/@for or @aria-label='${label}'`;
  const found = await page.waitForSelector(`xpath///*[(self::input or self::textarea) and (${named})]`, { timeout: 15_000 });
  await found.click({ clickCount: 3 });
  await found.type(text);
};
const choose = (label, text) => async (page) => {
  const found = await page.waitForSelector(`xpath/(//select[@id=//label[normalize-space()='${label}']/@for])[1]`, { timeout: 15_000 });
  await found.evaluate((select, wanted) => {
    select.value = [...select.options].find((one) => one.text.includes(wanted)).value;
    select.dispatchEvent(new Event("change", { bubbles: true }));
  }, text);
};

/** Shows pictures beside each other, to be taken as one. */
async function beside(page, height, ...taken) {
  const width = taken.reduce((sum, one) => sum + one.width, 0) + 20 * (taken.length - 1);
  await page.setViewport({ width, height });
  await page.goto("about:blank");
  const shown = taken.map((one) => `<img width="${one.width}" src="data:image/png;base64,${one.data}">`).join("");
  await page.setContent(`<body style="margin:0;display:flex;gap:20px;background:#fff">${shown}`);
}

/** What the owner is asked over HTTP. */
let session;
async function asOwner(method, path, body, version) {
  if (!session) {
    const entered = await fetch(`${address}/api/v1/session`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ email: "owner@harrowmere.test", password: "marsh-marigold" }),
    });
    const cookie = entered.headers.getSetCookie().map((one) => one.split(";")[0]).join("; ");
    session = { cookie, "x-kingcup-token": (await entered.json()).token };
  }
  const headers = { ...session, "content-type": "application/json", ...(version === undefined ? {} : { "if-match": String(version) }) };
  const answer = await fetch(address + path, { method, headers, body: body && JSON.stringify(body) });
  if (!answer.ok) throw new Error(`${path}: ${answer.status}`);
  return answer.json();
}

/** Has everybody's bookings wait for the desk, or nobody's. */
async function approving(approval) {
  const location = (await asOwner("GET", "/api/v1/setup/locations")).find((one) => one.id === mill);
  location.online.approval = approval;
  await asOwner("PUT", `/api/v1/setup/locations/${mill}`, location, location.version);
}

const visitor = async (path, body) => {
  const headers = { "content-type": "application/json", "idempotency-key": crypto.randomUUID() };
  return (await fetch(`${address}/api/public/v1/${path}`, { method: "POST", headers, body: JSON.stringify(body) })).json();
};

/** Asks for a visit as a client does where the desk approves, and shows it beside the one that is open. */
async function besideRequest(page) {
  const data = await page.screenshot({ encoding: "base64" });
  const wanted = { locationId: mill, lines: [{ serviceId: deep }] };
  const { days } = await visitor("starts", { ...wanted, days: 14 });
  const day = days.find((one) => one.starts.length > 0);
  await approving("everyone");
  const said = { givenName: "Wren", familyName: "Alder", email: "wren.alder@example.com", phone: "020 910 0404" };
  const note = "My left knee is new, please mind it.";
  const asked = await visitor("visits", { ...wanted, ...said, note, start: day.starts[0].start });
  await approving("nobody");
  const { visits } = await asOwner("GET", `/api/v1/locations/${mill}/days/${day.date}`);
  const { id } = visits.find((one) => one.reference === asked.reference);
  await page.goto(`${address}/day/${mill}/${day.date}?visit=${id}`, { waitUntil: "networkidle2" });
  await see("//section[@aria-label='Request']")(page);
  await new Promise((resolve) => setTimeout(resolve, 800));
  const clip = { x: 920, y: 0, width: 360, height: 800 };
  const request = await page.screenshot({ encoding: "base64", clip });
  await beside(page, 800, { width: 1280, data }, { width: 360, data: request });
}

/** Chooses, books and shows one's own bookings, which the letter leads to: four pictures beside each other. */
async function besideOwn(page) {
  const picture = async () => ({ width: 390, data: await page.screenshot({ encoding: "base64" }) });
  const times = await picture();
  const here = page.url();
  await page.goto(`${address}/book`, { waitUntil: "networkidle2" });
  const choosing = await picture();
  await page.goto(here, { waitUntil: "networkidle2" });
  const email = `ada.${Date.now()}@example.com`;
  await press("(//section//button[string-length(normalize-space())=5])[1]")(page);
  const said = { "Given name": "Ada", "Family name": "Marsh", "E-mail": email, Mobile: "020 910 0001" };
  for (const [label, text] of Object.entries(said)) await fill(label, text)(page);
  await see("//h2[.='Who is coming?'] | //*[normalize-space()='Who is coming?']")(page);
  const details = await picture();
  await press("//button[starts-with(normalize-space(), 'Book ')]")(page);
  await see("//*[contains(., 'Your visit is booked')]")(page);
  let link;
  for (let tries = 0; !link && tries < 60; tries++) {
    await new Promise((resolve) => setTimeout(resolve, 1000));
    const letters = await (await fetch(`${standIns}/trays?to=${encodeURIComponent(email)}`)).text();
    link = /http[^"'<\s]*book\/mine[^"'<\s]*/.exec(letters)?.[0];
  }
  await page.goto(link, { waitUntil: "networkidle2" });
  await see("//h1")(page);
  await beside(page, 844, choosing, times, details, await picture());
}

/** Each: its name, who looks (nobody: the public page), where, what is done there; on a phone where it says so. */
const pictures = [
  ["book-day", "owner", `/day/${mill}/2027-03-02`],
  [
    "book-visit",
    "desk",
    `/day/${mill}/2027-03-02`,
    press("//button[contains(@aria-label, 'Bud Beahan')]"),
    see("//h3[.='Money']"),
    besideRequest,
  ],
  [
    "book-new-visit",
    "owner",
    `/day/${mill}/2027-03-02`,
    press("//button[starts-with(normalize-space(), 'New visit')]"),
    fill("Client", "Delta Kirlin"),
    press("//*[@role='option'][contains(., 'Kirlin')]"),
    choose("Service", "Deep tissue 60"),
    press("//*[@aria-label='Starts that fit']/button[starts-with(normalize-space(), '11:00')]"),
  ],
  ["week", "owner", `/week/${mill}/2027-03-02`],
  ["month", "owner", `/month/${mill}/2027-03-02`],
  ["agenda", "owner", `/agenda/${mill}/2027-03-02`],
  ["client", "owner", `/clients/${kirlin}`],
  ["why-not", "owner", "/why-not"],
  ["messages", "owner", "/messages/rules"],
  ["deposits", "owner", "/setup/deposits"],
  ["team", "owner", "/team"],
  ["rota", "owner", `/team/${odile}/rota`],
  ["qualifications", "owner", "/team/qualifications"],
  ["service", "owner", `/services/${laser}`],
  ["ready", "owner", "/setup/ready"],
  ["my-day", "ines", "/my-day"],
  ["public-wide", null, `/book?where=${mill}&what=${deep}&step=when`],
  ["public-phone", null, `/book?where=${mill}&what=${deep}&step=when`, besideOwn],
];
const isPhone = (name) => name === "my-day" || name === "public-phone";

const browser = await puppeteer.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", "--headless=new"] });
const rooms = new Map();

/** A window in which somebody is signed in. */
async function windowOf(user) {
  if (!rooms.has(user)) {
    const room = await browser.createBrowserContext();
    const page = await room.newPage();
    if (user) {
      await page.goto(address);
      await page.waitForSelector("input[type=email], input[autocomplete=username]");
      const inputs = await page.$$("input");
      await inputs[0].type(`${user}@harrowmere.test`);
      await inputs[1].type("marsh-marigold");
      await button("Sign in")(page);
      await page.waitForSelector("nav");
    }
    rooms.set(user, page);
  }
  return rooms.get(user);
}

for (const [name, user, path, ...steps] of pictures) {
  if (names.length && !names.includes(name)) continue;
  const page = await windowOf(user);
  await page.setViewport(isPhone(name) ? { width: 390, height: 844, isMobile: true, hasTouch: true } : { width: 1280, height: 800 });
  await page.goto(address + path, { waitUntil: "networkidle2" });
  try {
    for (const step of steps) {
      await step(page);
      // The book keeps a line open for news, so it is never idle: what a press asks for is there soon.
      await new Promise((resolve) => setTimeout(resolve, 800));
    }
    await page.screenshot({ path: join(root, `docs/screenshots/${name}.png`) });
    console.log(name);
  } catch (error) {
    console.error(name, error.message);
    process.exitCode = 1;
  }
}
await browser.close();
