import { describe, expect, it } from "vitest";
import { isMoveSolved, isSolved, keptOf, movesOf, solveAll, type Occurrence } from "./repeats";

const date = (start: string, more: Partial<Occurrence> = {}) =>
  ({ date: start.slice(0, 10), start, fits: true, reasons: [], nearest: null, other: null, ...more }) as Occurrence;
const dates = [
  date("2027-03-02T10:00:00Z"),
  date("2027-03-09T10:00:00Z", {
    fits: false,
    nearest: "2027-03-09T11:00:00Z",
    other: { id: "tobias", name: "Tobias" },
  }),
  date("2027-03-16T10:00:00Z", { fits: false }),
  date("2027-03-23T10:00:00Z"),
];

describe("a row of visits", () => {
  it("is booked once every date fits, is solved or is left out", () => {
    expect(isSolved(dates, {})).toBe(false);
    const some = { [dates[1]!.start]: { kind: "other" as const } };
    expect(isSolved(dates, some)).toBe(false);
    expect(isSolved(dates, { ...some, [dates[2]!.start]: { kind: "out" } })).toBe(true);
    expect(isSolved([dates[0]!, dates[2]!], { [dates[2]!.start]: { kind: "out" } })).toBe(false);
  });

  it("takes each date as it was solved", () => {
    expect(keptOf(dates, { [dates[1]!.start]: { kind: "other" } })).toEqual([
      { start: dates[0]!.start, practitionerId: null },
      { start: dates[1]!.start, practitionerId: "tobias" },
      { start: dates[3]!.start, practitionerId: null },
    ]);
    expect(keptOf(dates, { [dates[1]!.start]: { kind: "nearest" } })[1]!.start).toBe("2027-03-09T11:00:00Z");
  });

  it("solves all that is open at once, and leaves out what has no such way", () => {
    expect(solveAll(dates, {}, "nearest")).toEqual({
      [dates[1]!.start]: { kind: "nearest" },
      [dates[2]!.start]: { kind: "out" },
    });
    const chosen = { [dates[1]!.start]: { kind: "other" as const } };
    expect(solveAll(dates, chosen, "out")).toEqual({ ...chosen, [dates[2]!.start]: { kind: "out" } });
  });
});

describe("a row of visits that is moved", () => {
  const row = dates.map((there, i) => ({ visitId: `visit ${i}`, version: i + 1, present: there.start, there }));

  it("is moved once every visit fits, is solved or stays where it is", () => {
    expect(isMoveSolved(row, {})).toBe(false);
    expect(isMoveSolved(row, solveAll(dates, {}, "out"))).toBe(true);
    expect(isMoveSolved([row[2]!], { [dates[2]!.start]: { kind: "out" } })).toBe(false);
    expect(isMoveSolved([], {})).toBe(false);
  });

  it("moves each as it was solved, over the version that was looked at", () => {
    expect(movesOf(row, { [dates[1]!.start]: { kind: "other" } }, "ines")).toEqual([
      { visitId: "visit 0", version: 1, start: dates[0]!.start, practitionerId: "ines" },
      { visitId: "visit 1", version: 2, start: dates[1]!.start, practitionerId: "tobias" },
      { visitId: "visit 3", version: 4, start: dates[3]!.start, practitionerId: "ines" },
    ]);
  });
});
