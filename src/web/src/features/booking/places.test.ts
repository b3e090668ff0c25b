import { describe, expect, it } from "vitest";
import type { Block } from "./blocks";
import { runsOf } from "./places";

const at = (clock: string) => `2027-03-02T${clock}:00Z`;
const block = (visit: string, from: string, until: string, share = 1 / 6) =>
  ({
    visit: { id: visit },
    line: { id: `${visit}-line` },
    from: at(from),
    until: at(until),
    height: share,
    isOpen: false,
  }) as unknown as Block;
const told = (blocks: Block[]) =>
  runsOf(blocks, 6).map((run) =>
    run.steps.map((step) => `${step.from.slice(11, 16)}-${step.until.slice(11, 16)} ${step.count}`).join(", "),
  );

describe("places taken in a lane for several", () => {
  it("go up and down as people come and go, in one run as long as anybody is there", () => {
    expect(told([block("a", "10:00", "11:00"), block("b", "10:30", "11:30"), block("c", "13:00", "14:00")])).toEqual([
      "10:00-10:30 1, 10:30-11:00 2, 11:00-11:30 1",
      "13:00-14:00 1",
    ]);
  });

  it("count every place a visit holds, and stay where one follows another", () => {
    expect(told([block("a", "10:00", "11:00", 2 / 6), block("b", "11:00", "12:00", 2 / 6)])).toEqual(["10:00-12:00 2"]);
  });

  it("name everybody who is there once", () => {
    const runs = runsOf([block("a", "10:00", "11:00"), block("b", "10:30", "11:30"), block("b", "10:30", "11:30")], 6);
    expect(runs.map((run) => run.visits.map((item) => item.visit.id))).toEqual([["a", "b"]]);
  });
});
