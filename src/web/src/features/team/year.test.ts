import { describe, expect, it } from "vitest";
import { dateAt, inYear, standingOf } from "./year";

const today = "2027-03-01";
const held = (from: string, until: string | null = null) => ({ qualificationId: "q", from, until });

describe("what somebody holds in the year from today on", () => {
  it("lies where it counts", () => {
    expect(inYear(held("2020-01-01"), today)).toEqual({ from: 0, until: 1 });
    expect(inYear(held("2027-03-11", "2027-03-20"), today)).toEqual({ from: 10 / 365, until: 20 / 365 });
    expect(inYear(held("2020-01-01", "2027-02-28"), today)).toBeNull();
    expect(inYear(held("2028-06-01"), today)).toBeNull();
  });

  it("is drawn to the day under the pointer", () => {
    expect(dateAt(0, today)).toBe(today);
    expect(dateAt(-1, today)).toBe(today);
    expect(dateAt(10 / 365, today)).toBe("2027-03-11");
  });

  it.each([
    ["open", [held("2020-01-01")], null],
    ["ends", [held("2020-01-01", "2027-12-30")], "2027-12-30"],
    ["soon", [held("2020-01-01", "2027-03-15")], "2027-03-15"],
    ["ends", [held("2020-01-01", "2027-03-15"), held("2027-03-16")], "2027-03-15"],
    ["coming", [held("2027-09-01"), held("2027-04-01", "2027-05-01")], "2027-04-01"],
    ["ranOut", [held("2020-01-01", "2026-01-01")], null],
    ["none", [], null],
  ] as const)("%s", (kind, all, date) => expect(standingOf([...all], today, 30)).toEqual({ kind, date }));
});
