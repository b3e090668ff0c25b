import { describe, expect, it } from "vitest";
import type { Day } from "../../api/staff";
import { untilFree } from "./kept";

const day = (...runsOut: string[][]) =>
  ({
    now: "2027-03-01T09:00:00Z",
    lanes: runsOut.map((ends) => ({ kept: ends.map((end) => ({ runsOut: end })) })),
  }) as unknown as Day;

describe("a day in which times are kept", () => {
  it("is asked for again once the first of them has run out", () =>
    expect(untilFree(day(["2027-03-01T09:07:00Z"], [], ["2027-03-01T09:04:00Z"]))).toBe(4 * 60_000 + 500));

  it("is not asked for in a rush where one has run out already", () =>
    expect(untilFree(day(["2027-03-01T08:59:00Z"]))).toBe(1000));

  it("is left alone where nothing is kept", () => {
    expect(untilFree(day([], []))).toBe(false);
    expect(untilFree(undefined)).toBe(false);
  });
});
