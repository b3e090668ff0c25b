import { describe, expect, it } from "vitest";
import type { Booked, Service } from "../../../api/public";
import { chosenIn, type Chosen } from "./address";
import {
  cameFor,
  choiceAt,
  linesOf,
  needing,
  needsWords,
  openedBy,
  placesOf,
  stepAfter,
  stepNext,
  withLine,
  withoutLine,
  type Wish,
} from "./lines";

const service = (id: string, choices: Service["choices"] = []) => ({ id, name: id, choices }) as unknown as Service;
const booked = (ids: string[] | null) =>
  ({
    sequel: ids && {
      token: "t",
      services: ids.map((serviceId) => ({ serviceId, name: serviceId, from: "2027-03-04T10:15:00Z" })),
    },
  }) as unknown as Booked;

describe("who chooses the practitioner", () => {
  const choices: Service["choices"] = [
    { locationId: "mill", choice: "house" },
    { locationId: "boat", choice: "clientMust" },
  ];

  it("is said location by location", () => {
    expect(choiceAt(service("a", choices), "mill")).toBe("house");
    expect(choiceAt(service("a", choices), "boat")).toBe("clientMust");
  });

  it("is the client's where a location says nothing", () => {
    expect(choiceAt(service("a", choices), "elsewhere")).toBe("clientMay");
  });
});

describe("what is asked after a service was chosen", () => {
  const choices: Service["choices"] = [{ locationId: "boat", choice: "clientMust" }];
  const withAddOn = (words: string) => ({ ...service("a", choices), addOns: [{ words }] }) as unknown as Service;

  it("is the time, or whom first where that has to be said", () => {
    expect(stepAfter(withAddOn(""), "mill", null)).toBe("when");
    expect(stepAfter(withAddOn(""), "boat", null)).toBe("who");
    expect(stepAfter(withAddOn(""), "boat", "ines")).toBe("when");
  });

  it("is extras before either, where the owner says something of one", () => {
    expect(stepAfter(withAddOn("Warmed before you come."), "boat", null)).toBe("extras");
  });
});

describe("what a wish asks the server for", () => {
  const wish: Wish = {
    locationId: "mill",
    lines: [{ service: service("facial"), practitionerId: null, addOnIds: [], person: 0 }],
    returning: false,
    after: null,
    as: null,
    link: null,
    promo: null,
  };

  it("is one line with nobody in particular", () => {
    expect(linesOf(wish)).toEqual([{ serviceId: "facial", practitionerId: null, addOns: [], person: 0 }]);
  });

  it("carries each extra once", () => {
    const massage = { service: service("facial"), practitionerId: "ines", addOnIds: ["oil", "stones"], person: 0 };
    expect(linesOf({ ...wish, lines: [massage] })[0]).toEqual({
      serviceId: "facial",
      practitionerId: "ines",
      addOns: [
        { addOnId: "oil", count: 1 },
        { addOnId: "stones", count: 1 },
      ],
      person: 0,
    });
  });
});

describe("several services in one visit", () => {
  const at = (id: string, ...locationIds: string[]) => ({ ...service(id), locationIds }) as Service;
  const chosen: Chosen = {
    ...chosenIn("?what=massage&extra=oil&who=ines&what=facial"),
    at: "2027-03-04T10:15:00Z",
    day: "2027-03-04",
    from: "2027-03-01",
  };

  it("are asked for in order", () => {
    const lines = ["massage", "facial"].map((id) => ({
      service: service(id),
      practitionerId: null,
      addOnIds: [],
      person: 0,
    }));
    expect(linesOf({ lines } as unknown as Wish).map((line) => line.serviceId)).toEqual(["massage", "facial"]);
  });

  it("are done where all of them are", () => {
    expect(placesOf([{ service: at("a", "mill", "boat") }, { service: at("b", "boat") }])).toEqual(["boat"]);
    expect(placesOf([])).toEqual([]);
  });

  it("take one more at the end, or another in the place of one, and choose the time anew", () => {
    const nails = { what: "nails", extras: [], who: null };
    const more = withLine(chosen, 2, nails);
    expect(more.lines?.map((line) => line.what)).toEqual(["massage", "facial", "nails"]);
    expect(more).toMatchObject({ line: 2, at: null, day: null });
    expect(more).not.toHaveProperty("from");
    expect(withLine(chosen, 0, nails).lines?.map((line) => line.what)).toEqual(["nails", "facial"]);
  });

  it("follow what somebody has already, and count whoever comes without a gap", () => {
    const two = chosenIn("?what=massage&what=facial&for=1");
    expect(withLine(two, 2, { what: "nails", extras: [], who: null })).toMatchObject({
      line: 1,
      lines: [
        { what: "massage", person: 0 },
        { what: "nails", person: 0 },
        { what: "facial", person: 1 },
      ],
    });
    const third = withLine({ ...two, add: 2 }, 2, { what: "nails", extras: [], who: null });
    expect(third).toMatchObject({ line: 2, add: 0 });
    expect(third.lines!.map((line) => line.person)).toEqual([0, 1, 2]);
    expect(withoutLine(two, 0).lines).toMatchObject([{ what: "facial", person: 0 }]);
  });

  it("go on with the times of what is left when one is taken out", () =>
    expect(withoutLine(chosen, 0)).toEqual({
      lines: [{ what: "facial", extras: [], who: null, person: 0 }],
      line: 0,
      add: 0,
      step: "when",
      at: null,
      day: null,
    }));

  it("ask whom of each where that has to be said", () => {
    const must = service("a", [{ locationId: "boat", choice: "clientMust" }]);
    const lines = [
      { service: must, who: { id: "ines" } },
      { service: must, who: null },
    ];
    expect(stepNext(lines, "boat")).toEqual({ line: 1, step: "who" });
    expect(stepNext(lines, "mill")).toEqual({ line: 0, step: "when" });
  });

  it("say which of them needs another first, as long as nothing is known that may have come before", () => {
    const laser = { ...service("laser"), needs: { serviceId: "patch" } } as Service;
    const lines = [service("a"), laser].map((one) => ({ service: one, practitionerId: null, addOnIds: [], person: 0 }));
    const wish = { lines, after: null, as: null } as unknown as Wish;
    expect(needing(wish)).toBe(laser);
    expect(needing({ ...wish, as: "ada" })).toBeNull();
    expect(needing({ ...wish, after: "token" })).toBeNull();
  });
});

describe("what a booking opens", () => {
  it("is only what was wanted, where something was", () => {
    expect(openedBy(booked(["legs", "face"]), service("face")).map((one) => one.serviceId)).toEqual(["face"]);
  });

  it("is everything where nothing was wanted, or something it does not open", () => {
    expect(openedBy(booked(["legs", "face"]), null)).toHaveLength(2);
    expect(openedBy(booked(["legs", "face"]), service("massage"))).toHaveLength(2);
  });

  it("is nothing after a booking like any other", () => {
    expect(openedBy(booked(null), service("face"))).toEqual([]);
  });
});

describe("how long before another visit has to come", () => {
  it("is said in hours, and not at all where any time will do", () => {
    const words = (atLeastHours: number, atMostDays: number) => needsWords("Laser", { atLeastHours, atMostDays });
    expect(words(48, 180)).toBe("Laser needs it, at least 48 hours before and no more than 180 days before.");
    expect(words(1, 0)).toBe("Laser needs it, at least 1 hour before.");
    expect(words(0, 1)).toBe("Laser needs it, no more than 1 day before.");
    expect(words(0, 0)).toBe("Laser needs it.");
  });
});

describe("whom somebody came for", () => {
  const choices = [
    { locationId: "mill", choice: "house" },
    { locationId: "boat", choice: "clientMust" },
  ];
  const offered = { ...service("a", choices as never), practitioners: [{ id: "ines" }] } as Service;

  it("stays chosen where they do it and clients choose who does", () => {
    expect(cameFor("ines", offered, "boat")).toBe("ines");
    expect(cameFor("ines", offered, "elsewhere")).toBe("ines");
    expect(cameFor("ines", offered, "mill")).toBeNull();
    expect(cameFor("tobias", offered, "boat")).toBeNull();
    expect(cameFor(null, offered, "boat")).toBeNull();
  });
});
