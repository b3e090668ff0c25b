import { describe, expect, it } from "vitest";
import { endMinuteOf, minuteOf, readMinutes, readTime, timeAt } from "./clockText";

describe("a time as people type it", () => {
  it.each([
    ["815", "08:15:00"],
    ["8:15", "08:15:00"],
    ["8.15", "08:15:00"],
    [" 8 15 ", "08:15:00"],
    ["8", "08:00:00"],
    ["1015", "10:15:00"],
    ["20h30", "20:30:00"],
    ["20h", "20:00:00"],
    ["8 pm", "20:00:00"],
    ["12 am", "00:00:00"],
    ["12:05pm", "12:05:00"],
    ["24", "00:00:00"],
    ["24:00", "00:00:00"],
    ["0", "00:00:00"],
  ])("%s is %s", (typed, time) => expect(readTime(typed)).toBe(time));

  it.each(["", "25", "8:60", "24:05", "13 pm", "0 am", "noon", "8:1", "123456", "-5", "8:15:00"])(
    "%s is none",
    (typed) => expect(readTime(typed)).toBeNull(),
  );

  it("goes round the clock, and an end at or before its beginning is the next day's", () => {
    expect(timeAt(-5)).toBe("23:55:00");
    expect(timeAt(1445)).toBe("00:05:00");
    expect(minuteOf("23:55:00")).toBe(1435);
    expect(endMinuteOf("22:00:00", "06:00:00")).toBe(1800);
    expect(endMinuteOf("09:00:00", "00:00:00")).toBe(1440);
    expect(endMinuteOf("09:00:00", "17:30:00")).toBe(1050);
  });
});

describe("a length as people type it", () => {
  it.each([
    ["90", 90],
    ["90 min", 90],
    ["1:30", 90],
    ["1 h 30", 90],
    ["1h", 60],
    ["1 h 5 min", 65],
    ["0", 0],
  ])("%s is %i minutes", (typed, minutes) => expect(readMinutes(typed)).toBe(minutes));

  it.each(["", "1:75", "an hour", "-5", "1.5"])("%s is none", (typed) => expect(readMinutes(typed)).toBeNull());
});
