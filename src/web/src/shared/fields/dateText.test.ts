import { describe, expect, it } from "vitest";
import { readDate } from "./dateText";

// A Tuesday.
const today = "2026-11-24";

describe("a date as people type it", () => {
  it.each([
    ["14.12.", "2026-12-14"],
    ["14/12", "2026-12-14"],
    ["14 12 27", "2027-12-14"],
    ["14/9/2027", "2027-09-14"],
    ["3-2-2028", "2028-02-03"],
    ["14 Dec", "2026-12-14"],
    ["14december", "2026-12-14"],
    ["sept 14 2027", "2027-09-14"],
    ["2027-9-4", "2027-09-04"],
    ["29 Feb 2028", "2028-02-29"],
    // Without a year: ahead, or not long ago.
    ["1/3", "2027-03-01"],
    ["1/10", "2026-10-01"],
    ["31 March", "2027-03-31"],
    // A day alone.
    ["24", "2026-11-24"],
    ["3", "2026-12-03"],
    // As the field itself writes it.
    ["Tue 24 Nov", "2026-11-24"],
    ["Wed, 1 March 2028", "2028-03-01"],
    ["Tue 24", "2026-11-24"],
    // A weekday.
    ["tue", "2026-11-24"],
    ["Mon", "2026-11-30"],
    ["friday", "2026-11-27"],
  ])("%s is %s", (typed, date) => expect(readDate(typed, today, "en-IE")).toBe(date));

  it.each(["", "31/2/2027", "0", "32", "14/13", "Ju 4", "soon", "T", "2027-02-30", "1/1/1000"])("%s is none", (typed) =>
    expect(readDate(typed, today, "en-IE")).toBeNull(),
  );

  it("follows the order and the names of the place", () => {
    expect(readDate("3/14", today, "en-US")).toBe("2027-03-14");
    expect(readDate("14. Mär", today, "de-AT")).toBe("2027-03-14");
    expect(readDate("14 marz", today, "de-DE")).toBe("2027-03-14");
    expect(readDate("Mi", today, "de-DE")).toBe("2026-11-25");
  });
});
