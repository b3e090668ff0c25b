import { describe, expect, it } from "vitest";
import type { Day, Visit } from "../../api/staff";
import { blocksOf } from "./blocks";

const at = (clock: string) => `2027-03-01T${clock}:00Z`;
type Claim = Visit["claims"][number];

const claim = (resourceId: string, from: string, until: string, more: Partial<Claim> = {}): Claim => ({
  line: 0,
  resourceId,
  unit: 0,
  from: at(from),
  until: at(until),
  coreFrom: at(from),
  coreUntil: at(until),
  overbooked: false,
  ...more,
});

const visit = (id: string, claims: Claim[], unattended: Visit["unattended"] = []) =>
  ({ id, claims, unattended, lines: [{ id: `${id}-line` }] }) as unknown as Visit;

const day = (visits: Visit[], lanes: { id: string; units: number; blocked?: { from: string; until: string }[] }[]) =>
  ({
    from: at("08:00"),
    until: at("20:00"),
    visits,
    lanes: lanes.map((lane) => ({ blocked: [], ...lane })),
  }) as unknown as Day;

describe("the blocks of a lane", () => {
  it("let a label run on to the next block, to a reason on blocked time, or to the end of the day", () => {
    const blocks = blocksOf(
      day(
        [visit("a", [claim("ines", "09:00", "10:00")]), visit("b", [claim("ines", "11:00", "12:00")])],
        [{ id: "ines", units: 1, blocked: [{ from: at("14:00"), until: at("14:30") }] }],
      ),
    ).get("ines")!;
    expect(blocks.map((block) => block.labelUntil)).toEqual([at("11:00"), at("14:00")]);
    const alone = blocksOf(day([visit("a", [claim("ines", "09:00", "10:00")])], [{ id: "ines", units: 1 }]));
    expect(alone.get("ines")![0]!.labelUntil).toBe(at("20:00"));
  });

  it("draw units of one line that lie together as one, each unit at its share of the lane", () => {
    const [duo, single] = blocksOf(
      day(
        [
          visit("duo", [claim("fern", "09:00", "10:00"), claim("fern", "09:00", "10:00", { unit: 1 })]),
          visit("single", [claim("fern", "10:00", "11:00", { unit: 1 })]),
        ],
        [{ id: "fern", units: 2 }],
      ),
    ).get("fern")!;
    expect([duo!.top, duo!.height]).toEqual([0, 1]);
    expect([single!.top, single!.height]).toEqual([0.5, 0.5]);
    // Another unit is no neighbour: the label of the first may not run over the second all the same.
    expect(duo!.labelUntil).toBe(at("10:00"));
  });

  it("let two that clash stand side by side and say so of both", () => {
    const [first, over, later] = blocksOf(
      day(
        [
          visit("first", [claim("ines", "09:00", "10:00")]),
          visit("over", [claim("ines", "09:30", "10:30", { overbooked: true })]),
          visit("later", [claim("ines", "11:00", "12:00")]),
        ],
        [{ id: "ines", units: 1 }],
      ),
    ).get("ines")!;
    expect([first!.isClash, first!.top, first!.height]).toEqual([true, 0, 0.5]);
    expect([over!.isClash, over!.top, over!.height]).toEqual([true, 0.5, 0.5]);
    expect([later!.isClash, later!.top, later!.height]).toEqual([false, 0, 1]);
  });

  it("name a line once in a lane and leave stretches without the practitioner open", () => {
    const blocks = blocksOf(
      day(
        [
          visit(
            "peel",
            [claim("suki", "10:00", "10:20"), claim("suki", "10:45", "11:05")],
            [{ line: 0, resourceId: "suki", from: at("10:20"), until: at("10:45") }],
          ),
        ],
        [{ id: "suki", units: 1 }],
      ),
    ).get("suki")!;
    expect(blocks.map((block) => [block.isOpen, block.isFirst])).toEqual([
      [false, true],
      [true, false],
      [false, false],
    ]);
  });
});
