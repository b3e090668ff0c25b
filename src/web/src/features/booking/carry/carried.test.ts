import { describe, expect, it } from "vitest";
import type { Visit } from "../../../api/staff";
import { lightsAsked, standing } from "./carried";

const visit = {
  id: "visit",
  locationId: "mill",
  start: "2027-03-03T10:00:00Z",
  lines: [
    {
      id: "line",
      serviceId: "deep",
      practitioners: [{ id: "ines", name: "Ines" }],
      practitionerAsked: true,
      addOns: [{ addOnId: "towels", count: 2 }],
      roomAsked: false,
      roomId: "birch",
      setMinutes: null,
      person: 0,
    },
  ],
} as unknown as Visit;

describe("what is asked for something carried", () => {
  it("is of a visit that stands its own lines, by whoever does them, in everybody's lanes", () => {
    const asked = lightsAsked(standing(visit), "2027-03-04");
    expect(asked).toMatchObject({ from: "2027-03-04", days: 1, visitId: "visit", locationId: "mill", anyLead: true });
    expect(asked.lines).toEqual([
      {
        id: "line",
        serviceId: "deep",
        practitionerId: "ines",
        asked: true,
        addOns: [{ addOnId: "towels", count: 2 }],
        roomId: null,
        minutes: null,
        person: 0,
      },
    ]);
  });

  it("is of a new visit for whom it is wanted by, and nobody else", () =>
    expect(lightsAsked({ ...standing(visit), visitId: null, present: null }, "2027-03-04").anyLead).toBe(false));

  it("is the same question for the same visit, so that it is asked once", () =>
    expect(JSON.stringify(lightsAsked(standing(visit), "2027-03-04"))).toBe(
      JSON.stringify(lightsAsked(standing(structuredClone(visit)), "2027-03-04")),
    ));
});
