import { describe, expect, it } from "vitest";
import type { ReasonText } from "../../../api/setup";
import { nearestTo, offeredOf, placed, rowsOf, type Start } from "./dayRows";

const reason = (gate: ReasonText["gate"], code: ReasonText["code"], text: string, subjectId: string | null = null) =>
  ({ gate, code, text, subjectId, appointmentId: null, ownerKind: null, ownerId: null }) as ReasonText;
const start = (clock: string, ...reasons: ReasonText[]): Start =>
  ({
    clock,
    start: `2027-03-09T${clock}:00Z`,
    offered: reasons.length === 0,
    gate: reasons[0]?.gate ?? null,
    reasons,
  }) as Start;

const soon = reason("date", "tooSoon", "Too soon.");
const taken = reason("practitioner", "practitionerTaken", "Ana is taken until 10:30.", "ana");
const lunch = reason("practitioner", "onBreak", "Ben has lunch.", "ben");
const one = reason("roomAndEquipment", "roomTaken", "Alder is taken.", "alder");
const other = reason("roomAndEquipment", "roomTaken", "Birch is taken.", "birch");

const strip = [
  start("09:00", soon, taken),
  start("09:15", taken, one),
  start("09:30", taken, other, lunch),
  start("09:45"),
  start("10:00"),
  start("10:15", lunch),
  start("10:30"),
];

describe("what limits a day", () => {
  it("is a row for each gate and each person, in deciding order", () =>
    expect(rowsOf(strip).map((row) => [row.key, row.subjectId])).toEqual([
      ["date", null],
      ["practitioner ana", "ana"],
      ["practitioner ben", "ben"],
      ["roomAndEquipment", null],
    ]));

  it("keeps starts next to each other from being offered as one stretch", () => {
    const rows = rowsOf(strip);
    expect(rows[1]!.dark.map(({ from, until, clock }) => [from, until, clock])).toEqual([[540, 585, "09:00"]]);
    expect(rows[2]!.dark.map(({ from, until }) => [from, until])).toEqual([
      [570, 585],
      [615, 630],
    ]);
    // Which of the rooms is in the way does not part a stretch.
    expect(rows[3]!.dark.map(({ from, until }) => [from, until])).toEqual([[555, 585]]);
  });

  it("leaves stretches of starts that are offered", () =>
    expect(offeredOf(strip)).toEqual([
      { from: 585, until: 615, first: "09:45", last: "10:00" },
      { from: 630, until: 645, first: "10:30", last: "10:30" },
    ]));

  it("is pointed at by the nearest start", () => {
    expect(nearestTo(strip, 592)?.clock).toBe("09:45");
    expect(nearestTo(strip, 593)?.clock).toBe("10:00");
    expect(nearestTo(strip, 0)?.clock).toBe("09:00");
    expect(nearestTo([], 600)).toBeUndefined();
  });

  it("goes on over midnight and over a night on which an hour comes twice", () => {
    const night = [
      { ...start("23:45"), start: "2027-10-30T22:45:00Z" },
      { ...start("00:45"), start: "2027-10-30T23:45:00Z" },
      { ...start("01:45"), start: "2027-10-31T00:45:00Z" },
      { ...start("01:45"), start: "2027-10-31T01:45:00Z" },
    ];
    expect(placed(night).map((item) => item.from)).toEqual([1425, 1485, 1545, 1605]);
  });
});
