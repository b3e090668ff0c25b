import { describe, expect, it } from "vitest";
import { freshService, gridWords, minutesOf, priceForms, visibilities } from "./words";

describe("a service as it begins", () => {
  const fresh = freshService("skin");

  it("can be booked at once: an hour, by one practitioner, in a room, seen by everyone", () => {
    expect(minutesOf(fresh)).toBe(60);
    expect(fresh.roles).toHaveLength(1);
    expect(fresh.room).toEqual({ features: [], units: 1 });
    expect(fresh.visibility).toBe("everyone");
    expect(fresh.categoryId).toBe("skin");
  });

  it("takes the whole of whoever does it, and needs nothing first", () => {
    expect(fresh.besideOthers).toBe(false);
    expect(fresh.prerequisite).toBeNull();
  });

  it("is new each time, so that one draft does not change the next", () => {
    fresh.phases!.push({ minutes: 30, attendedBy: [], equipment: [] });
    expect(minutesOf(fresh)).toBe(90);
    expect(minutesOf(freshService("skin"))).toBe(60);
  });
});

describe("the length of a service", () => {
  it("is that of all its phases, and nothing without any", () => {
    const phase = (minutes: number) => ({ minutes, attendedBy: [0], equipment: [] });
    expect(minutesOf({ ...freshService("a"), phases: [phase(20), phase(25), phase(15)] })).toBe(60);
    expect(minutesOf({ ...freshService("a"), phases: [] })).toBe(0);
    expect(minutesOf({ ...freshService("a"), phases: null })).toBe(0);
  });
});

describe("words of the setup", () => {
  it("say every form and visibility in small letters, as parts of a sentence", () => {
    for (const words of [...Object.values(priceForms), ...Object.values(visibilities)])
      expect(words).toMatch(/^[a-z ,]+$/);
  });
});

describe("how often a visit may begin", () => {
  it.each([
    [{ grid: "everyMinutes", everyMinutes: 20 }, "every 20 minutes"],
    [{ grid: "everyMinutes", everyMinutes: "60" }, "every hour"],
    [{ grid: null, everyMinutes: null }, "every 15 minutes"],
    [{ grid: "backToBack", everyMinutes: 15 }, "back to back"],
    [{ grid: "setTimes", everyMinutes: 15 }, "at set times"],
  ])("%j is %s", (rules, words) => expect(gridWords(rules)).toBe(words));
});
