import { describe, expect, it } from "vitest";
import { drawn, hoursOf, movedBy, room, scaleOf, scaleToDraw, snap, withEdge } from "./stretch";

const scale = { from: 480, until: 1200 };

describe("a stretch on a ribbon", () => {
  it("is drawn in quarters of an hour that hold what was drawn over, in either direction", () => {
    expect(drawn(602, 733, scale)).toEqual({ from: 600, until: 735 });
    expect(drawn(733, 602, scale)).toEqual({ from: 600, until: 735 });
    expect(drawn(600, 600, scale)).toEqual({ from: 600, until: 615 });
    expect(drawn(1300, 1400, scale)).toEqual({ from: 1185, until: 1200 });
  });

  it("keeps at least a quarter of an hour when an edge is moved, and stays on its scale", () => {
    const stretch = { from: 600, until: 660 };
    expect(withEdge(stretch, "from", 700, scale)).toEqual({ from: 645, until: 660 });
    expect(withEdge(stretch, "from", 0, scale)).toEqual({ from: 480, until: 660 });
    expect(withEdge(stretch, "until", 610, scale)).toEqual({ from: 600, until: 615 });
    expect(withEdge(stretch, "until", 2000, scale)).toEqual({ from: 600, until: 1200 });
  });

  it("is as long as before where it is moved", () => {
    expect(movedBy({ from: 600, until: 660 }, 45, scale)).toEqual({ from: 645, until: 705 });
    expect(movedBy({ from: 600, until: 660 }, -500, scale)).toEqual({ from: 480, until: 540 });
    expect(movedBy({ from: 600, until: 660 }, 5000, scale)).toEqual({ from: 1140, until: 1200 });
  });

  it("has the room the others leave", () => {
    const others = [
      { from: 540, until: 600 },
      { from: 720, until: 780 },
    ];
    expect(room(650, others, scale)).toEqual({ from: 600, until: 720 });
    expect(room(500, others, scale)).toEqual({ from: 480, until: 540 });
    expect(room(800, others, scale)).toEqual({ from: 780, until: 1200 });
    expect(room(545, others, scale)).toBeNull();
  });
});

describe("a scale", () => {
  it("shows whole hours with all that lies on it, and the usual day at least", () => {
    expect(scaleOf([])).toEqual({ from: 480, until: 1200 });
    expect(scaleOf([{ from: 425, until: 1210 }])).toEqual({ from: 420, until: 1260 });
    expect(scaleOf([{ from: 1320, until: 1800 }])).toEqual({ from: 480, until: 1800 });
  });

  it("for drawing leaves an hour to go on either side, and none before midnight", () => {
    expect(scaleToDraw([{ from: 480, until: 1200 }])).toEqual({ from: 420, until: 1260 });
    expect(scaleToDraw([{ from: 390, until: 1290 }])).toEqual({ from: 300, until: 1380 });
    expect(scaleToDraw([{ from: 15, until: 1440 }])).toEqual({ from: 0, until: 1500 });
  });

  it("writes no more hours than there is room for", () => {
    expect(hoursOf(scale)).toEqual([480, 600, 720, 840, 960, 1080, 1200]);
    expect(hoursOf({ from: 540, until: 780 })).toEqual([540, 600, 660, 720, 780]);
    expect(hoursOf({ from: 0, until: 1440 }, 5)).toEqual([0, 360, 720, 1080, 1440]);
  });

  it("snaps to the nearest quarter", () => {
    expect(snap(607)).toBe(600);
    expect(snap(608)).toBe(615);
    expect(snap(607, 5)).toBe(605);
  });
});
