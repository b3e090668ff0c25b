import { beforeEach, describe, expect, it, vi } from "vitest";
import { answerOf, Problem } from "../shared/problem";
import { keepers } from "./keepers";
import { asks } from "./queries";
import { ifMatch, pictureOf, type Room } from "./setup";
import { rememberToken, staff } from "./staff";

/** The client takes fetch and Request as it is made; both are stood in for before. */
const wire = vi.hoisted(() => {
  const wire: { sent?: Request; answer: () => Promise<Response> } = { answer: () => Promise.reject(new Error()) };
  const Real = globalThis.Request;
  globalThis.Request = class extends Real {
    constructor(input: RequestInfo | URL, init?: RequestInit) {
      super(typeof input === "string" ? new URL(input, "http://here") : input, init);
    }
  };
  globalThis.fetch = (input) => {
    wire.sent = input as Request;
    return wire.answer();
  };
  return wire;
});
const answers = (status: number, body: unknown, type = "application/json") => {
  wire.answer = () =>
    Promise.resolve(
      new Response(body === undefined ? null : typeof body === "string" ? body : JSON.stringify(body), {
        status,
        headers: { "content-type": type },
      }),
    );
};
const room: Room = {
  id: "a",
  name: "Cedar",
  locationId: "here",
  capacity: 1,
  turnaroundMinutes: 10,
  features: [],
  version: 3,
};
const context = { client: undefined, queryKey: [], signal: new AbortController().signal, meta: undefined } as never;
const refused = (call: Promise<unknown>) => call.catch((error: unknown) => error) as Promise<Problem>;

beforeEach(() => {
  vi.stubGlobal("localStorage", { setItem: vi.fn(), getItem: vi.fn(), removeItem: vi.fn() });
  rememberToken("the-token");
});

describe("asking", () => {
  it("gives what the API answers, and sends no token where nothing is changed", async () => {
    answers(200, [{ id: "a" }]);
    expect(await asks.rooms().queryFn!(context)).toEqual([{ id: "a" }]);
    expect(new URL(wire.sent!.url).pathname).toBe("/api/v1/setup/rooms");
    expect(wire.sent!.headers.get("X-Kingcup-Token")).toBeNull();
  });

  it("remembers different questions apart, and all of the setup under one name", () => {
    expect(asks.work("a").queryKey).not.toEqual(asks.work("b").queryKey);
    for (const query of [asks.rooms(), asks.business(), asks.readiness(), asks.setupHistory(null)])
      expect(query.queryKey[0]).toBe("setup");
  });
});

describe("keeping", () => {
  it("sends the token of the session, the version that was seen and the document", async () => {
    answers(200, { ...room, version: 4 });
    await keepers.room.put(room, 3, { "X-Accept-Hits": "seen" });
    expect(wire.sent!.method).toBe("PUT");
    expect(new URL(wire.sent!.url).pathname).toBe("/api/v1/setup/rooms/a");
    const { headers } = wire.sent!;
    expect([headers.get("X-Kingcup-Token"), headers.get("If-Match"), headers.get("X-Accept-Hits")]).toEqual([
      "the-token",
      "3",
      "seen",
    ]);
    expect(await wire.sent!.json()).toMatchObject({ name: "Cedar" });
  });

  it("adds without a version", async () => {
    answers(201, room);
    await keepers.room.add(room, {});
    expect(wire.sent!.method).toBe("POST");
    expect(wire.sent!.headers.get("If-Match")).toBeNull();
  });

  it("lets the browser say of a file what it is", async () => {
    answers(201, { id: "p" });
    await answerOf(staff.POST("/api/v1/setup/pictures", { body: new FormData() as never }));
    expect(wire.sent!.headers.get("Content-Type")).toContain("multipart/form-data");
  });

  it("takes an answer without a body for done", async () => {
    answers(204, undefined);
    const gone = staff.DELETE("/api/v1/setup/features/{name}", { params: { path: { name: "wet" } } });
    await expect(answerOf(gone)).resolves.toBeUndefined();
  });
});

describe("a refusal", () => {
  it("is thrown, at its field", async () => {
    answers(
      400,
      { code: "invalid", detail: "Enter a name.", field: "name", errors: { name: ["Enter a name."] } },
      "application/problem+json",
    );
    const problem = await refused(keepers.room.add(room, {}));
    expect(problem).toBeInstanceOf(Problem);
    expect(problem.errors).toEqual({ name: "Enter a name." });
  });

  it("says what to do where something between answers with a page instead", async () => {
    answers(502, "<h1>Bad gateway</h1>", "text/html");
    const problem = await refused(keepers.room.add(room, {}));
    expect(problem.status).toBe(502);
    expect(problem.message).toContain("Nothing was changed");
  });

  it("says that the connection is gone where there is none", async () => {
    wire.answer = () => Promise.reject(new TypeError("Failed to fetch"));
    const problem = await refused(keepers.room.add(room, {}));
    expect([problem.code, problem.status]).toEqual(["offline", 0]);
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
