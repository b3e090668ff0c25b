import { describe, expect, it } from "vitest";
import type { DeskSetup, Visit } from "../../../api/staff";
import { blankLine, linesAgain, linesOf, putInto, requestOf } from "./lineDrafts";

const visit = {
  lines: [
    {
      id: "a",
      serviceId: "facial",
      practitioners: [{ id: "suki", name: "Suki" }],
      practitionerAsked: false,
      addOns: [{ addOnId: "mask", count: 2 }],
      roomId: "cedar",
      roomAsked: false,
      setMinutes: 70,
      person: 0,
    },
    {
      id: "b",
      serviceId: "brow",
      practitioners: [],
      practitionerAsked: false,
      addOns: [],
      roomId: "birch",
      roomAsked: true,
      person: 1,
    },
  ],
} as unknown as Visit;

describe("lines of a visit", () => {
  it("are had again as new ones, by whoever is still here, with what is still offered", () => {
    const setup = (hasLeft: boolean, addOns: string[]) =>
      ({
        practitioners: [{ id: "suki", name: "Suki", hasLeft }],
        services: [{ id: "facial", addOns: addOns.map((id) => ({ id })) }],
      }) as unknown as DeskSetup;
    const again = linesAgain(visit, setup(false, ["mask"]));
    expect(again.map((line) => line.id)).toEqual([null, null]);
    expect(again.map((line) => line.practitionerId)).toEqual(["suki", ""]);
    expect(again[0]!.addOnIds).toEqual(["mask", "mask"]);
    const later = linesAgain(visit, setup(true, []));
    expect(later.map((line) => line.practitionerId)).toEqual(["", ""]);
    expect(later[0]!.addOnIds).toEqual([]);
  });

  it("go on as what they are, with those who do them and only what was chosen by hand", () => {
    expect(requestOf(linesOf(visit))).toEqual([
      {
        id: "a",
        serviceId: "facial",
        practitionerId: "suki",
        asked: false,
        addOns: [{ addOnId: "mask", count: 2 }],
        roomId: null,
        minutes: 70,
        person: 0,
      },
      {
        id: "b",
        serviceId: "brow",
        practitionerId: null,
        asked: null,
        addOns: [],
        roomId: "birch",
        minutes: null,
        person: 1,
      },
    ]);
  });

  it("are new ones when the same is wanted again", () => {
    expect(requestOf(linesOf(visit, true)).every((line) => line.id === undefined)).toBe(true);
  });

  it("without a service are not asked about", () => {
    expect(requestOf([blankLine(), blankLine({ serviceId: "facial" })])).toHaveLength(1);
  });

  it("that are put into somebody's lane are theirs without the client having asked for them", () => {
    const [first, second] = putInto(requestOf(linesOf(visit)), { practitionerId: "ines" });
    expect(first).toMatchObject({ practitionerId: "ines", asked: false, roomId: null });
    expect(second).toMatchObject({ practitionerId: null, roomId: "birch" });
    const open = putInto(requestOf([blankLine({ serviceId: "facial" })]), {
      practitionerId: "ines",
      room: { id: "elm", line: 0 },
    });
    expect(open[0]).toMatchObject({ practitionerId: "ines", asked: false, roomId: "elm" });
    // A line that needs no room goes before the one that does.
    const [video, facial] = putInto(requestOf(linesOf(visit)), {
      practitionerId: "ines",
      room: { id: "elm", line: 1 },
    });
    expect([video?.roomId, facial?.roomId]).toEqual([null, "elm"]);
  });
});
