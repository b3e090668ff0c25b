import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { staffHere } from "./staffHere";

beforeEach(() => {
  const kept = new Map<string, string>();
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => kept.set(key, value),
    removeItem: (key: string) => kept.delete(key),
  });
});
afterEach(() => vi.unstubAllGlobals());

describe("whether staff use this device", () => {
  it("is known from signing in until signing out", () => {
    expect(staffHere.is()).toBe(false);
    staffHere.mark();
    expect(staffHere.is()).toBe(true);
    staffHere.mark();
    staffHere.forget();
    expect(staffHere.is()).toBe(false);
  });

  it("keeps nothing about who it is", () => {
    staffHere.mark();
    expect(localStorage.getItem("kingcup-staff")).toBe("1");
  });
});
