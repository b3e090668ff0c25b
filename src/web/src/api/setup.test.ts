import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Problem } from "../shared/problem";
import { ifMatch, pictureOf, read, send } from "./setup";
import { rememberToken } from "./staff";

/** What was sent last, and what is answered to it. */
let sent: { path: string; init: RequestInit } | undefined;
const answers = (status: number, body: unknown, type = "application/json") =>
  vi.stubGlobal("fetch", (path: string, init: RequestInit) => {
    sent = { path, init };
    const text = body === undefined ? null : typeof body === "string" ? body : JSON.stringify(body);
    return Promise.resolve(new Response(text, { status, headers: { "content-type": type } }));
  });
const headersSent = () => sent!.init.headers as Record<string, string>;

beforeEach(() => {
  sent = undefined;
  vi.stubGlobal("localStorage", { setItem: vi.fn(), getItem: vi.fn(), removeItem: vi.fn() });
  rememberToken("the-token");
});
afterEach(() => vi.unstubAllGlobals());

describe("reading the setup", () => {
  it("asks the API and gives what it answers", async () => {
    answers(200, [{ id: "a" }]);
    expect(await read("/setup/rooms")).toEqual([{ id: "a" }]);
    expect(sent!.path).toBe("/api/v1/setup/rooms");
  });

  it("sends no token and no body where nothing is changed", async () => {
    answers(200, []);
    await read("/setup/rooms");
    expect(headersSent()).toEqual({});
    expect(sent!.init.body).toBeUndefined();
  });
});

describe("changing the setup", () => {
  it("sends the token of the session, the version that was seen and the document", async () => {
    answers(200, { id: "a", version: 4 });
    await send("PUT", "/setup/rooms/a", { name: "Cedar" }, ifMatch(3));
    expect(headersSent()).toEqual({
      "X-Kingcup-Token": "the-token",
      "Content-Type": "application/json",
      "If-Match": "3",
    });
    expect(sent!.init.body).toBe('{"name":"Cedar"}');
  });

  it("lets the browser say of a file what it is", async () => {
    answers(201, { id: "p" });
    const file = new FormData();
    await send("POST", "/pictures", file);
    expect(headersSent()).not.toHaveProperty("Content-Type");
    expect(sent!.init.body).toBe(file);
  });

  it("takes an answer without a body for done", async () => {
    answers(204, undefined);
    await expect(send("DELETE", "/setup/rooms/a")).resolves.toBeUndefined();
  });

  it("throws what the server refuses, at its field", async () => {
    answers(
      400,
      { code: "invalid", detail: "Enter a name.", field: "name", errors: { name: ["Enter a name."] } },
      "application/problem+json",
    );
    const problem = await send("POST", "/setup/rooms", {}).catch((error: unknown) => error);
    expect(problem).toBeInstanceOf(Problem);
    expect((problem as Problem).errors).toEqual({ name: "Enter a name." });
  });

  it("says what to do where something between answers with a page instead", async () => {
    answers(502, "<h1>Bad gateway</h1>", "text/html");
    const problem = (await send("POST", "/setup/rooms", {}).catch((error: unknown) => error)) as Problem;
    expect(problem.status).toBe(502);
    expect(problem.message).toContain("Nothing was changed");
  });

  it("says that the connection is gone where there is none", async () => {
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("Failed to fetch")));
    const problem = (await read("/setup/rooms").catch((error: unknown) => error)) as Problem;
    expect(problem.code).toBe("offline");
    expect(problem.status).toBe(0);
  });
});

describe("small words of the API", () => {
  it("take a version that is missing for none", () => {
    expect(ifMatch(undefined)).toEqual({ "If-Match": "0" });
    expect(ifMatch("12")).toEqual({ "If-Match": "12" });
  });

  it("know where a picture lies, and that there may be none", () => {
    expect(pictureOf("p")).toBe("/api/public/v1/pictures/p");
    expect(pictureOf(null)).toBeUndefined();
    expect(pictureOf(undefined)).toBeUndefined();
  });
});
