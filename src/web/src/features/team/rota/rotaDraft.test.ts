import { stretchOf } from "../../../shared/week/stretchOf";
import { describe, expect, it } from "vitest";
import type { Rota, Shift } from "../../../api/setup";
import {
  breakOf,
  dayOf,
  hoursWords,
  likeDay,
  likeWeek,
  minutesOf,
  movedTo,
  overWeeks,
  type RotaShift,
} from "./rotaDraft";

const shift = (from: string, until: string, ...breaks: [string, string][]): Shift => ({
  locationId: "here",
  from: `${from}:00`,
  until: `${until}:00`,
  breaks: breaks.map(([start, end]) => ({ from: `${start}:00`, until: `${end}:00`, reason: "Lunch" })),
});
const on = (week: number, weekday: RotaShift["weekday"], own: Shift): RotaShift => ({ week, weekday, shift: own });

describe("a shift", () => {
  it("over midnight goes on above the end of its day, and so do its breaks", () => {
    const night = shift("22:00", "06:00", ["01:00", "01:30"]);
    expect(stretchOf(night)).toEqual({ from: 1320, until: 1800 });
    expect(breakOf(night, night.breaks![0]!)).toEqual({ from: 1500, until: 1530 });
    expect(minutesOf(night)).toBe(450);
    expect(stretchOf(shift("09:00", "00:00"))).toEqual({ from: 540, until: 1440 });
  });

  it("takes its breaks along when it is moved, and loses those that no longer lie in it when an edge is", () => {
    const day = shift("10:00", "19:00", ["13:45", "14:15"]);
    expect(movedTo(day, { from: 570, until: 1110 })).toEqual(shift("09:30", "18:30", ["13:15", "13:45"]));
    expect(movedTo(day, { from: 600, until: 960 })).toEqual(shift("10:00", "16:00", ["13:45", "14:15"]));
    expect(movedTo(day, { from: 600, until: 840 })).toEqual(shift("10:00", "14:00"));
    expect(movedTo(day, { from: 1020, until: 1560 })).toEqual(shift("17:00", "02:00", ["20:45", "21:15"]));
  });
});

describe("a rota", () => {
  const shifts = [
    on(0, "monday", shift("13:00", "18:00")),
    on(0, "monday", shift("08:00", "12:00")),
    on(0, "friday", shift("09:00", "17:00")),
    on(1, "monday", shift("10:00", "14:00")),
  ];

  it("gives a day in order, and knows where each shift stands", () =>
    expect(dayOf(shifts, 0, "monday").map((item) => [item.shift.from, item.index])).toEqual([
      ["08:00:00", 1],
      ["13:00:00", 0],
    ]));

  it("makes days like another, in that week only, and leaves that one as it is", () => {
    const copied = likeDay(shifts, 0, "monday", ["monday", "tuesday", "friday"]);
    expect(dayOf(copied, 0, "monday")).toHaveLength(2);
    expect(dayOf(copied, 0, "tuesday").map((item) => item.shift.from)).toEqual(["08:00:00", "13:00:00"]);
    expect(dayOf(copied, 0, "friday").map((item) => item.shift.until)).toEqual(["12:00:00", "18:00:00"]);
    expect(dayOf(copied, 1, "monday")).toHaveLength(1);
    expect(dayOf(copied, 1, "tuesday")).toHaveLength(0);
    // A day off is copied as one.
    expect(dayOf(likeDay(shifts, 0, "sunday", ["friday"]), 0, "friday")).toHaveLength(0);
  });

  it("makes a week like another", () => {
    const copied = likeWeek(shifts, 1, 0);
    expect(copied.filter((item) => item.week === 1)).toHaveLength(3);
    expect(copied.filter((item) => item.week === 0)).toHaveLength(3);
  });

  it("over more weeks has the new ones like the last, over fewer loses what lies behind", () => {
    const rota = { from: "2027-03-01", weeks: 2, shifts, version: 1 } as Rota;
    const longer = overWeeks(rota, 4);
    expect([longer.weeks, longer.shifts!.filter((item) => item.week === 3).length]).toEqual([4, 1]);
    expect(overWeeks(rota, 1).shifts).toHaveLength(3);
  });
});

it("a length is said in hours and minutes", () => {
  expect([510, 480, 45, 4320].map(hoursWords)).toEqual(["8 h 30", "8 h", "45 min", "72 h"]);
});
