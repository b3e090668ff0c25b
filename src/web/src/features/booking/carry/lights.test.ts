import { describe, expect, it } from "vitest";
import { bandsOf, chosenIn, firstLight, lightAt, type DayLights, type Light } from "./lights";

const light = (first: string, last: string, by = "ines") =>
  ({
    first: `2027-03-02T${first}:00Z`,
    last: `2027-03-02T${last}:00Z`,
    minutes: 60,
    practitionerId: by,
    practitioner: by,
    rooms: ["Elm"],
    price: { amount: 8400, currency: "EUR" },
    claims: [],
  }) as Light;
const day: DayLights = {
  date: "2027-03-02",
  lanes: [
    { resourceId: "ines", ranges: [light("10:00", "11:00"), light("15:00", "15:10")] },
    { resourceId: "tobias", ranges: [light("09:30", "09:40", "tobias")] },
    { resourceId: "elm", ranges: [light("09:00", "16:00", "tobias")] },
  ],
};
const people = new Set(["ines", "tobias"]);

describe("lights", () => {
  it("hold every start from their first to their last", () => {
    expect(lightAt(day.lanes[0]!.ranges, "2027-03-02T11:00:00Z")).toBe(day.lanes[0]!.ranges[0]);
    expect(lightAt(day.lanes[0]!.ranges, "2027-03-02T11:05:00Z")).toBeUndefined();
    expect(lightAt(undefined, "2027-03-02T11:05:00Z")).toBeUndefined();
  });

  it("are chosen with the clock of the place and their end", () => {
    expect(chosenIn(light("10:00", "11:00"), "2027-07-02T10:15:00Z", "Europe/Dublin", "elm")).toMatchObject({
      clock: "11:15",
      end: "2027-07-02T11:15:00Z",
      room: { id: "elm", line: 0 },
    });
  });

  it("are drawn in one where they follow each other", () => {
    const told = bandsOf([light("10:00", "10:25"), light("10:30", "10:30"), light("11:00", "11:10")]).map(
      ({ from, until }) => `${from.slice(11, 16)}-${until.slice(11, 16)}`,
    );
    expect(told).toEqual(["10:00-10:35", "11:00-11:15"]);
  });

  it("are gone through start by start over all people's lanes", () => {
    const next = (after: string | null) =>
      firstLight(day, after && `2027-03-02T${after}:00Z`, people)?.start.slice(11, 16);
    expect(next(null)).toBe("09:30");
    expect(next("09:30")).toBe("09:35");
    expect(next("09:40")).toBe("10:00");
    expect(next("11:00")).toBe("15:00");
    expect(next("15:10")).toBeUndefined();
    expect(firstLight(undefined, null, people)).toBeNull();
  });
});
