import { describe, expect, it } from "vitest";
import type { Lane } from "../../api/staff";
import type { Block } from "./blocks";
import { edgesOf, freeOf } from "./free";

const at = (clock: string) => `2027-03-02T${clock}:00Z`;
const stretch = (from: string, until: string) => ({ from: at(from), until: at(until), reason: null });
const lane = (open: [string, string][], blocked: [string, string][] = []) =>
  ({
    open: open.map(([a, b]) => stretch(a, b)),
    blocked: blocked.map(([a, b]) => stretch(a, b)),
    kept: [],
  }) as unknown as Lane;
const block = (from: string, until: string, isOpen = false) => ({ from: at(from), until: at(until), isOpen }) as Block;
const told = (free: { from: string; until: string }[]) =>
  free.map(({ from, until }) => `${from.slice(11, 16)}-${until.slice(11, 16)}`);

describe("the edges of working time in a lane", () => {
  it("are where it begins and ends, not where it merely goes on", () => {
    const open = lane([
      ["09:00", "12:00"],
      ["12:00", "13:00"],
      ["14:00", "17:00"],
    ]);
    expect(edgesOf(open).map((edge) => `${edge.side} ${edge.at.slice(11, 16)}`)).toEqual([
      "from 09:00",
      "until 13:00",
      "from 14:00",
      "until 17:00",
    ]);
  });
});

describe("free time in a lane", () => {
  it("is what is open, neither blocked nor held, in order", () => {
    expect(told(freeOf(lane([["09:00", "17:00"]], [["13:00", "13:30"]]), [block("10:00", "11:15")]))).toEqual([
      "09:00-10:00",
      "11:15-13:00",
      "13:30-17:00",
    ]);
  });

  it("is counted once where two visits lie over each other, and goes on through a pause", () => {
    const blocks = [block("10:00", "12:00"), block("11:00", "11:30"), block("14:00", "15:00", true)];
    expect(told(freeOf(lane([["09:00", "16:00"]]), blocks))).toEqual(["09:00-10:00", "12:00-16:00"]);
  });

  it("is none where nobody works or all is held", () => {
    expect(freeOf(lane([]), [])).toEqual([]);
    expect(freeOf(lane([["09:00", "10:00"]]), [block("08:30", "10:30")])).toEqual([]);
  });
});
