import { describe, expect, it } from "vitest";
import type { Block, Shift } from "../../api/setup";
import { blockWords } from "./blocks";
import { shiftsPulled, shiftWords } from "./shifts";

const shift = (from: string, until: string): Shift => ({ locationId: "here", from, until, breaks: [] });

describe("shifts as people say them", () => {
  it("leaves out what goes without saying", () => {
    expect(shiftWords(shift("09:00:00", "17:30:00"))).toBe("9–17:30");
    expect(shiftWords(shift("18:05:00", "00:00:00"))).toBe("18:05–24");
  });
});

describe("an edge of a shift that is pulled", () => {
  const morning = shift("09:00:00", "13:00:00");
  const evening = { ...shift("14:00:00", "00:00:00"), breaks: [{ from: "17:00:00", until: "17:30:00", reason: null }] };
  const day = [morning, evening];

  it("moves a beginning, an end, midnight too", () => {
    expect(shiftsPulled(day, "from", "09:00", "08:30:00")).toEqual([{ ...morning, from: "08:30:00" }, evening]);
    expect(shiftsPulled(day, "until", "13:00", "12:15:00")).toEqual([{ ...morning, until: "12:15:00" }, evening]);
    expect(shiftsPulled(day, "until", "00:00", "22:00:00")).toEqual([morning, { ...evening, until: "22:00:00" }]);
    expect(shiftsPulled(day, "from", "14:00", "13:30:00")[1]!.from).toBe("13:30:00");
  });

  it("moves a break, which begins where working time ends", () => {
    const breaks = (shifts: Shift[]) => shifts[1]!.breaks!.map((pause) => [pause.from, pause.until]);
    expect(breaks(shiftsPulled(day, "until", "17:00", "16:45:00"))).toEqual([["16:45:00", "17:30:00"]]);
    expect(breaks(shiftsPulled(day, "from", "17:30", "18:00:00"))).toEqual([["17:00:00", "18:00:00"]]);
  });

  it("leaves all as it is where nothing would be left, or nothing lies there", () => {
    expect(shiftsPulled(day, "until", "13:00", "09:00:00")).toBe(day);
    expect(shiftsPulled(day, "from", "09:00", "13:30:00")).toBe(day);
    expect(shiftsPulled(day, "from", "10:00", "11:00:00")).toBe(day);
  });
});

describe("blocked time as it reads in a list", () => {
  const block = (more: Partial<Block>) => ({ resourceId: "r", kind: "block", reason: "call", ...more }) as Block;

  it("says once and for several days", () => {
    expect(blockWords(block({ start: "2027-03-18T09:00:00", end: "2027-03-18T10:30:00" }))).toBe(
      "Thursday 18 March 09:00–10:30",
    );
    expect(blockWords(block({ start: "2027-03-18T00:00:00", end: "2027-03-20T00:00:00" }))).toContain(
      "Thursday 18 March to Saturday 20 March",
    );
  });

  it("says how it repeats and until when", () => {
    const repeat = {
      first: "2027-03-03",
      rule: "FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,WE;UNTIL=20270630",
      from: "12:00:00",
      until: "12:30:00",
    };
    expect(blockWords(block({ repeat: repeat as Block["repeat"] }))).toBe(
      "12:00–12:30 every 2 weeks on Mon, Wed from Wed 3 Mar to Wed 30 Jun",
    );
  });
});
