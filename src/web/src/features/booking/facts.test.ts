import { describe, expect, it } from "vitest";
import type { DeskSetup, Visit } from "../../api/staff";
import { factsOf, factsWritten } from "./facts";
import type { LineRequest } from "./lines/lineDrafts";

const line = (service: string, who: string[], rooms: string[], addOns: string[] = []) => ({
  service,
  practitioners: who.map((name) => ({ id: name.toLowerCase(), name })),
  rooms,
  addOns: addOns.map((name) => ({ name })),
});
const visit = (lines: ReturnType<typeof line>[]) =>
  ({
    date: "2027-03-03",
    start: "2027-03-03T10:00:00Z",
    end: "2027-03-03T11:30:00Z",
    zone: "Europe/Dublin",
    state: "confirmed",
    lines,
  }) as unknown as Visit;

describe("a visit in words, to be compared", () => {
  it("says when, what with its extras, by whom, where and how it stands", () =>
    expect(factsOf(visit([line("Deep tissue 60", ["Ines"], ["Birch"], ["Hot towels"])]))).toEqual({
      when: "Wed 3 Mar, 10:00–11:30",
      what: "Deep tissue 60 + Hot towels",
      who: "Ines",
      where: "Birch",
      state: "confirmed",
    }));

  it("names everybody and every room once", () => {
    const facts = factsOf(
      visit([line("Float 60", ["Bram"], ["Elm"]), line("Facial 50", ["Bram", "Odile"], ["Elm", "Alder"])]),
    );
    expect([facts.what, facts.who, facts.where]).toEqual(["Float 60 and Facial 50", "Bram and Odile", "Elm and Alder"]);
  });

  it("says of what is only written what it says so far", () => {
    const setup = {
      services: [{ id: "deep", name: "Deep tissue 90", addOns: [{ id: "towels", name: "Hot towels" }] }],
      practitioners: [{ id: "ines", name: "Ines Calloway" }],
    } as unknown as DeskSetup;
    const lines = [{ serviceId: "deep", practitionerId: "ines" }] as LineRequest[];
    expect(factsWritten(lines, null, setup, "Europe/Dublin")).toEqual({ what: "Deep tissue 90", who: "Ines Calloway" });
    // In summer the clock of the house is an hour ahead.
    expect(factsWritten(lines, "2027-04-07T15:00:00Z", setup, "Europe/Dublin").when).toBe("Wed 7 Apr, 16:00");
    const more = [{ ...lines[0], addOns: [{ addOnId: "towels", count: 1 }] }] as LineRequest[];
    expect(factsWritten(more, null, setup, "Europe/Dublin").what).toBe("Deep tissue 90 + Hot towels");
    expect(factsWritten([{ serviceId: "deep" }] as LineRequest[], null, setup, "Europe/Dublin").who).toBe("");
  });
});
