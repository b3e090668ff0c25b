import { describe, expect, it } from "vitest";
import { acceptHeader, instantOf, type Chosen } from "./fits";

describe("the instant of a wall time", () => {
  const dublin = "Europe/Dublin";

  it("follows the clock of the location", () => {
    expect(instantOf("2027-03-01", "11:15", dublin)).toBe("2027-03-01T11:15:00Z");
    expect(instantOf("2027-07-01", "11:15", dublin)).toBe("2027-07-01T10:15:00Z");
    expect(instantOf("2027-07-01", "11:15", "Australia/Lord_Howe")).toBe("2027-07-01T00:45:00Z");
  });

  it("goes forward over a gap and takes the earlier of two, as the core does", () => {
    expect(instantOf("2027-03-28", "01:30", dublin)).toBe("2027-03-28T01:30:00Z");
    expect(instantOf("2027-10-31", "01:30", dublin)).toBe("2027-10-31T00:30:00Z");
  });
});

describe("what was read", () => {
  const start = { start: "2027-03-01T11:15:00Z" } as Chosen;

  it("is sent only with a start that goes over something", () => {
    expect(acceptHeader(null)).toEqual({});
    expect(acceptHeader(start)).toEqual({});
    expect(acceptHeader({ ...start, accept: "AB" })).toEqual({ "X-Accept-Over": "AB" });
  });
});
