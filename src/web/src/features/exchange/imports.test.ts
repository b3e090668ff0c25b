import { describe, expect, it } from "vitest";
import { countedRows, encodings, kinds, manyOf, states } from "./imports";

describe("how many rows of a file", () => {
  it("are one, none and many", () => {
    expect(countedRows(1, "clients")).toBe("1 client");
    expect(countedRows(0, "services")).toBe("0 services");
    expect(countedRows(2, "practitioners")).toBe("2 practitioners");
  });

  it("are grouped where they are thousands, also when they come as text", () => {
    expect(countedRows("1204", "clients")).toMatch(/^1.204 clients$/);
  });
});

describe("words for imports", () => {
  it("has one for every state and kind", () => {
    for (const words of Object.values(states)) expect(words).toMatch(/^[a-z]/);
    for (const [kind, one] of Object.entries(kinds)) expect(manyOf[kind as keyof typeof kinds]).toBe(`${one}s`);
  });

  it("names encodings that this browser can read too", () => {
    for (const [name] of encodings) expect(() => new TextDecoder(name)).not.toThrow();
  });
});
