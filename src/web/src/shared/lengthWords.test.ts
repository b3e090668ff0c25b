import { describe, expect, it } from "vitest";
import { daysWordsOf, hoursWordsOf, lengthWords } from "./lengthWords";

describe("lengths as people say them", () => {
  it.each([
    [0, "0 minutes"],
    [1, "1 minute"],
    [45, "45 minutes"],
    [60, "1 hour"],
    [90, "1 hour 30 minutes"],
    [120, "2 hours"],
    [1440, "1 day"],
    [2880, "2 days"],
    [1500, "25 hours"],
  ])("%i minutes", (minutes, words) => expect(lengthWords(minutes)).toBe(words));

  it.each([
    [1, "1 hour"],
    [24, "24 hours"],
    [48, "2 days"],
    [50, "50 hours"],
  ])("%i hours", (hours, words) => expect(hoursWordsOf(hours)).toBe(words));

  it("days", () => expect([daysWordsOf(1), daysWordsOf(90)]).toEqual(["1 day", "90 days"]));
});
