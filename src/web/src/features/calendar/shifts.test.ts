import { describe, expect, it } from "vitest";
import type { Block, Shift } from "../../api/setup";
import { blockWords } from "./blocks";
import { shiftWords } from "./shifts";

const shift = (from: string, until: string): Shift => ({ locationId: "here", from, until, breaks: [] });

describe("shifts as people say them", () => {
  it("leaves out what goes without saying", () => {
    expect(shiftWords(shift("09:00:00", "17:30:00"))).toBe("9–17:30");
    expect(shiftWords(shift("18:05:00", "00:00:00"))).toBe("18:05–24");
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
