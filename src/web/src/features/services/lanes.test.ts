import { describe, expect, it } from "vitest";
import type { Equipment } from "../../api/setup";
import { lanesOf } from "./lanes";
import { freshService } from "./words";

const hood = { id: "hood", name: "Steam hood" } as Equipment;
const peel = {
  ...freshService("skin"),
  phases: [
    { minutes: 20, attendedBy: [0], equipment: [{ poolId: "hood", units: 1 }] },
    { minutes: 25, attendedBy: [], equipment: [] },
    { minutes: 15, attendedBy: [0], equipment: [] },
  ],
  room: { features: ["couch"], units: 1 },
  bufferBeforeMinutes: 5,
  bufferAfterMinutes: 10,
};
const told = (lane: ReturnType<typeof lanesOf>[number]) =>
  lane.pieces.map(({ from, until, look }) => [from, until, look]);

describe("a service as it lies in the book", () => {
  const [practitioner, room, equipment] = lanesOf(peel, [hood], { minutes: 0, phase: 0 });

  it("has whoever does it with the client, away, and in the buffers", () =>
    expect(told(practitioner!)).toEqual([
      [0, 5, "buffer"],
      [5, 25, "there"],
      [25, 50, "away"],
      [50, 65, "there"],
      [65, 75, "buffer"],
    ]));

  it("has the room all the while, without the buffers", () => expect(told(room!)).toEqual([[5, 65, "there"]]));

  it("has equipment only while it is used", () => {
    expect(equipment!.name).toBe("Steam hood");
    expect(told(equipment!)).toEqual([[5, 25, "there"]]);
  });

  it("has the minutes of extras at the end of the phase they make longer, and everything after it later", () => {
    const [with20] = lanesOf(peel, [hood], { minutes: 20, phase: 0 });
    expect(told(with20!)).toEqual([
      [0, 5, "buffer"],
      [5, 25, "there"],
      [25, 45, "extra"],
      [45, 70, "away"],
      [70, 85, "there"],
      [85, 95, "buffer"],
    ]);
    expect(with20!.edges).toEqual([45, 70, 85]);
  });

  it("has no room where it needs none", () =>
    expect(lanesOf({ ...peel, room: null }, [hood], { minutes: 0, phase: 0 }).map((lane) => lane.kind)).toEqual([
      "role",
      "equipment",
    ]));
});
