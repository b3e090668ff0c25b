import { describe, expect, it } from "vitest";
import { addDays, clockRange, dateIn, longDate, mondayOf, money } from "./format";

describe("dates and times as people read them", () => {
  it("shows instants on the clock of the location, summer and winter", () => {
    expect(clockRange("2027-01-15T09:00:00Z", "2027-01-15T10:30:00Z", "Europe/Dublin")).toBe("09:00–10:30");
    expect(clockRange("2027-07-15T09:00:00Z", "2027-07-15T10:30:00Z", "Europe/Dublin")).toBe("10:00–11:30");
  });

  it("knows the date of an instant in a zone", () => {
    expect(dateIn("2027-07-15T23:30:00Z", "Europe/Dublin")).toBe("2027-07-16");
  });

  it("walks over months, years and clock changes", () => {
    expect(addDays("2027-03-27", 2)).toBe("2027-03-29");
    expect(addDays("2026-12-31", 1)).toBe("2027-01-01");
    expect(mondayOf("2027-03-28")).toBe("2027-03-22");
    expect(mondayOf("2027-03-22")).toBe("2027-03-22");
  });

  it("writes dates without commas", () => {
    expect(longDate("2026-11-24")).toBe("Tuesday 24 November");
  });

  it("writes minor units in the currency's own way", () => {
    expect(money({ amount: 8450, currency: "EUR" })).toContain("84.50");
    expect(money({ amount: 8450, currency: "JPY" })).toMatch(/8,450$/);
  });
});
