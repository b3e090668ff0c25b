import { describe, expect, it } from "vitest";
import { monthAfter } from "./months";

describe("months on", () => {
  it("go over the end of the year, both ways", () => {
    expect(monthAfter("2027-12-31", 1)).toBe("2028-01-01");
    expect(monthAfter("2027-01-15", -1)).toBe("2026-12-01");
    expect(monthAfter("2027-03-02", 0)).toBe("2027-03-01");
  });
});
