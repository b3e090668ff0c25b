import { describe, expect, it } from "vitest";
import type { Day } from "../../../api/public";
import { byPart, filtered, freeStretches, inRuns, leftWords, monthsFrom } from "./dayParts";

const day = (date: string, clocks: string[], more: Partial<Day> = {}): Day => ({
  date,
  left: clocks.length === 0 ? "full" : clocks.length < 5 ? "few" : "plenty",
  opens: "09:00",
  closes: "19:00",
  closed: null,
  isWeekend: ["2027-03-06", "2027-03-07"].includes(date),
  starts: clocks.map((clock) => ({
    clock,
    start: `${date}T${clock}:00Z`,
    last: false,
    part: clock < "12" ? "morning" : clock < "17" ? "afternoon" : "evening",
  })),
  ...more,
});
const tuesday = "2027-03-02";

describe("how much of a day is left", () => {
  it.each([
    [day(tuesday, []), "nothing free"],
    [day(tuesday, [], { left: "closed" }), "closed"],
    [day(tuesday, [], { left: "closed", closed: "St Patrick's Day" }), "closed: St Patrick's Day"],
    [day(tuesday, ["10:00"]), "one left, in the morning"],
    [day(tuesday, ["10:00", "18:00"]), "2 left"],
    [day(tuesday, ["12:00", "16:45"]), "2 left, in the afternoon"],
    [day(tuesday, ["09:00", "10:00", "12:00", "14:00", "17:00"]), "plenty"],
  ])("is said in words", (day, words) => expect(leftWords(day, false)).toBe(words));

  it("counts only what is looked for", () => {
    const [found] = filtered([day(tuesday, ["09:00", "10:00", "14:00", "15:00", "18:00"])], {
      part: "evening",
      days: "any",
    });
    expect(leftWords(found!, true)).toBe("one left, in the evening");
    const [none] = filtered([day(tuesday, ["09:00", "10:00"])], { part: "evening", days: "any" });
    expect(leftWords(none!, true)).toBe("nothing then");
  });
});

describe("what is looked for", () => {
  const week = ["2027-03-05", "2027-03-06", "2027-03-07", "2027-03-08"].map((date) => day(date, ["10:00"]));
  it("may be weekends or working days alone", () => {
    const free = (days: "week" | "weekend") =>
      filtered(week, { part: "any", days })
        .filter((day) => day.starts.length > 0)
        .map((day) => day.date);
    expect(free("weekend")).toEqual(["2027-03-06", "2027-03-07"]);
    expect(free("week")).toEqual(["2027-03-05", "2027-03-08"]);
  });
});

describe("the starts of a day", () => {
  it("lie in their part of the day, those kept for last at its end", () => {
    const one = day(tuesday, ["09:00", "11:45", "12:00", "17:00"]);
    one.starts[0]!.last = true;
    expect(byPart(one).map(({ name, starts }) => [name, ...starts.map((start) => start.clock)])).toEqual([
      ["Morning", "11:45", "09:00"],
      ["Afternoon", "12:00"],
      ["Evening", "17:00"],
    ]);
  });

  it("are joined on the ribbon where they follow each other", () => {
    const found = freeStretches(day(tuesday, ["09:00", "09:15", "14:00"]));
    expect(found.map(({ from }) => from)).toEqual([0, 0.5]);
    expect(found.map(({ length }) => Math.round(length * 600))).toEqual([30, 15]);
  });
});

describe("rows and months", () => {
  it("days without a time that follow each other are one row", () => {
    const runs = inRuns([
      day("2027-03-01", []),
      day("2027-03-02", []),
      day("2027-03-03", ["10:00"]),
      day("2027-03-04", []),
    ]);
    expect(runs.map((run) => run.length)).toEqual([2, 1, 1]);
  });

  it("months go on over the turn of the year", () =>
    expect(monthsFrom("2027-11-30", 3)).toEqual(["2027-11-01", "2027-12-01", "2028-01-01"]));
});
