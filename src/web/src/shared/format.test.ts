import { afterEach, describe, expect, it, vi } from "vitest";
import {
  addDays,
  clock,
  clockRange,
  dateIn,
  longDate,
  moment,
  mondayOf,
  money,
  shortDate,
  shortTime,
  timeWords,
  wallTime,
  weekday,
} from "./format";

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

  it("shows the hour that comes twice twice, and the one after a gap once", () => {
    expect(clock("2027-10-31T00:30:00Z", "Europe/Dublin")).toBe("01:30");
    expect(clock("2027-10-31T01:30:00Z", "Europe/Dublin")).toBe("01:30");
    expect(clock("2027-03-28T00:55:00Z", "Europe/Dublin")).toBe("00:55");
    expect(clock("2027-03-28T01:00:00Z", "Europe/Dublin")).toBe("02:00");
  });

  it("knows the date of an instant west of Greenwich and by half hours", () => {
    expect(dateIn("2027-03-01T03:00:00Z", "America/New_York")).toBe("2027-02-28");
    expect(dateIn("2027-03-01T13:30:00Z", "Australia/Lord_Howe")).toBe("2027-03-02");
  });

  it("says midnight as 00:00, never as 24:00", () => {
    expect(clock("2027-01-15T00:00:00Z", "Europe/Dublin")).toBe("00:00");
  });

  it("writes dates short where there is little room", () => {
    expect(shortDate("2027-03-01")).toBe("Mon 1 Mar");
    expect(weekday("2027-03-07")).toBe("Sun");
    expect(moment("2027-03-01T14:05:00Z", "Europe/Dublin")).toBe("1 Mar, 14:05");
  });

  it("walks back, over leap days too", () => {
    expect(addDays("2028-03-01", -1)).toBe("2028-02-29");
    expect(addDays("2027-03-01", -1)).toBe("2027-02-28");
    expect(mondayOf("2027-01-03")).toBe("2026-12-28");
  });

  it("takes amounts that come as text, and those that are owed", () => {
    expect(money({ amount: "8450", currency: "EUR" })).toContain("84.50");
    expect(money({ amount: -500, currency: "EUR" })).toMatch(/5\.00/);
  });
});

describe("times as the locale writes them", () => {
  const inLocale = (lang: string) => vi.stubGlobal("document", { documentElement: { lang } });
  const plain = (text: string) => text.replaceAll(/\s/g, " ");
  afterEach(() => vi.unstubAllGlobals());

  it("follows a place with 24 hours", () => {
    inLocale("en-IE");
    expect(timeWords("08:15:00")).toBe("08:15");
    expect(["09:00", "09:30", "17:00:00", "00:00"].map(shortTime)).toEqual(["9", "9:30", "17", "0"]);
  });

  it("follows a place with twice twelve", () => {
    inLocale("en-US");
    expect(plain(timeWords("20:15:00"))).toBe("8:15 PM");
    expect(plain(shortTime("09:00"))).toBe("9:00 AM");
    expect(plain(clock("2027-01-15T21:05:00Z", "Europe/Dublin"))).toBe("9:05 PM");
    expect(wallTime("2027-01-15T21:05:00Z", "Europe/Dublin")).toBe("21:05");
  });
});
