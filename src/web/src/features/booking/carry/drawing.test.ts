import { describe, expect, it } from "vitest";
import { minutesFrom, stretchBetween } from "./drawing";

describe("a stroke over a lane", () => {
  const ten = "2027-03-02T10:00:00Z";

  it("goes from where it began to where it ended, in either direction", () => {
    const until = "2027-03-02T11:15:00Z";
    expect(stretchBetween(ten, until, false)).toEqual({ from: ten, until });
    expect(stretchBetween(until, ten, false)).toEqual({ from: ten, until });
    expect(minutesFrom(ten, until)).toBe(75);
  });

  it("is five minutes at the least", () => {
    expect(stretchBetween(ten, ten, false)).toEqual({ from: ten, until: "2027-03-02T10:05:00Z" });
  });

  it("never moves the beginning of what is held there", () => {
    expect(stretchBetween(ten, "2027-03-02T09:00:00Z", true)).toEqual({ from: ten, until: "2027-03-02T10:05:00Z" });
  });
});
