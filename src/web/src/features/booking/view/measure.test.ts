import { describe, expect, it } from "vitest";
import { heightsOf, leastHeights, mostHeights, scrollKeeping, scrollShowing, trackWidth, zoomed } from "./measure";

const day = 13 * 60;

describe("the scale of the book", () => {
  it("shows so many hours in the room there is", () => {
    expect(trackWidth(1200, 12 * 60, 6)).toBe(2400);
    expect(trackWidth(1200, 12 * 60, 12)).toBe(1200);
  });

  it("never leaves the room half empty", () => expect(trackWidth(1200, 4 * 60, 6)).toBe(1200));

  it("zooms from three hours to the whole day", () => {
    expect(zoomed(6, 0.8, day)).toBeCloseTo(4.8);
    expect(zoomed(6, 0.1, day)).toBe(3);
    expect(zoomed(6, 10, day)).toBe(13);
    expect(zoomed(6, 10, 120)).toBe(3);
  });

  it("keeps the minute under the pointer where it is", () => {
    for (const hours of [3, 6, 9, 13]) {
      const width = trackWidth(1100, day, hours);
      const scrolled = scrollKeeping(300, 100, width, day);
      expect((300 / day) * width - scrolled).toBeCloseTo(Math.min(100, (300 / day) * width));
    }
  });
});

describe("what matters", () => {
  it("stays where it is when it is in sight", () => expect(scrollShowing(500, 600, 300, 700)).toBe(300));

  it.each([
    [100, 200, 300, 700, 76],
    [1200, 1300, 300, 700, 624],
    [10, 60, 300, 700, 0],
  ])("from %i to %i comes into sight of %i + %i", (left, right, scrolled, room, to) => {
    expect(scrollShowing(left, right, scrolled, room)).toBe(to);
    expect(left).toBeGreaterThanOrEqual(to);
    expect(right).toBeLessThanOrEqual(to + room);
  });

  it("shows its beginning when it is longer than the room", () => expect(scrollShowing(900, 2000, 300, 700)).toBe(876));
});

describe("the height of lanes", () => {
  it("is the least there has to be for many", () =>
    expect(heightsOf({ practitioner: 20, room: 14, equipment: 6 }, 600)).toEqual(leastHeights));

  it("is of use and no more for few", () =>
    expect(heightsOf({ practitioner: 2, room: 1, equipment: 0 }, 900)).toEqual(mostHeights));

  it("is shared so that the room is used and never exceeded", () => {
    const counts = { practitioner: 8, room: 8, equipment: 5 };
    for (let height = 700; height < 1100; height += 7) {
      const heights = heightsOf(counts, height);
      const used = 8 * heights.practitioner + 8 * heights.room + 5 * heights.equipment;
      expect(used).toBeLessThanOrEqual(Math.max(height, 638));
      expect(used).toBeGreaterThan(Math.min(height, 1044) - 21);
    }
  });

  it("is nothing to be shared where there is no lane", () =>
    expect(heightsOf({ practitioner: 0, room: 0, equipment: 0 }, 500)).toEqual(leastHeights));
});
