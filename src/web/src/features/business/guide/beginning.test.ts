import { describe, expect, it } from "vitest";
import { begun, daysWords, hoursWords, replaced, servicesWith, withQualification, type Beginning } from "./beginning";

const beginning: Beginning = {
  trade: "massage",
  opening: [
    { weekday: "tuesday", from: "10:00:00", until: "19:00:00" },
    { weekday: "wednesday", from: "10:00:00", until: "19:00:00" },
    { weekday: "thursday", from: "10:00:00", until: "19:00:00" },
    { weekday: "saturday", from: "09:00:00", until: "17:00:00" },
  ],
  qualifications: ["Massage"],
  rooms: [{ name: "Room 1", features: ["couch"] }],
  services: [
    {
      name: "Massage 60",
      category: "Massage",
      minutes: 60,
      bufferMinutes: 10,
      price: 75,
      feature: "couch",
      qualification: "Massage",
    },
    {
      name: "Body wrap",
      category: "Body",
      minutes: 75,
      bufferMinutes: 15,
      price: 90,
      feature: "shower",
      qualification: null,
    },
  ],
};

describe("a business as it usually begins", () => {
  it("is run by its owner, who holds what is needed", () => {
    const begin = begun(beginning, "Orla Quist", "IE");
    expect(begin.people).toEqual([{ name: "Orla Quist", weekdays: [], holds: ["Massage"] }]);
    expect([begin.currency, begin.locale]).toEqual(["EUR", "en-IE"]);
  });

  it("has its prices in the smallest coin of the country", () => {
    expect(begun(beginning, "", "IE").services![0]!.price).toBe(7500);
    expect(begun(beginning, "", "JP").services![0]!.price).toBe(75);
  });
});

describe("hours as they are said", () => {
  it("join days that are alike and follow each other", () =>
    expect(hoursWords(beginning.opening)).toBe("Tuesday to Thursday 10:00 to 19:00 and Saturday 09:00 to 17:00"));

  it("name two days rather than a run, and say a lunch break", () =>
    expect(
      hoursWords([
        { weekday: "monday", from: "13:00:00", until: "17:00:00" },
        { weekday: "monday", from: "09:00:00", until: "12:00:00" },
        { weekday: "tuesday", from: "09:00:00", until: "12:00:00" },
        { weekday: "tuesday", from: "13:00:00", until: "17:00:00" },
      ]),
    ).toBe("Monday and Tuesday 09:00 to 12:00 and 13:00 to 17:00"));

  it("say never where there are none", () => expect(hoursWords([])).toBe("never"));
  it("put days in the order of the week", () =>
    expect(daysWords(["sunday", "friday", "saturday"])).toBe("Friday to Sunday"));
});

describe("what is described", () => {
  const begin = begun(beginning, "Orla", "IE");
  it("follows a qualification to its new name", () => {
    const renamed = withQualification(begin, "Massage", "Deep massage");
    expect(renamed.qualifications).toEqual(["Deep massage"]);
    expect(renamed.people![0]!.holds).toEqual(["Deep massage"]);
    expect(servicesWith(renamed, "qualification", "Deep massage").map((service) => service.name)).toEqual([
      "Massage 60",
    ]);
  });

  it("needs nothing any more where a qualification is taken out", () => {
    const without = withQualification(begin, "Massage", null);
    expect(without.qualifications).toEqual([]);
    expect(without.services!.map((service) => service.qualification)).toEqual([null, null]);
  });

  it("changes, adds and takes out", () => {
    expect(replaced(["a", "b"], 1, "c")).toEqual(["a", "c"]);
    expect(replaced(["a"], 1, "b")).toEqual(["a", "b"]);
    expect(replaced(["a", "b"], 0, null)).toEqual(["b"]);
    expect(replaced(null, 0, "a")).toEqual(["a"]);
  });
});
