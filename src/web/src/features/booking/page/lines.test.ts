import { describe, expect, it } from "vitest";
import type { Booked, Service } from "../../../api/public";
import { cameFor, choiceAt, linesOf, needsWords, openedBy, stepAfter, type Wish } from "./lines";

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
    service: service("facial"),
    practitionerId: null,
    addOnIds: [],
    returning: false,
    after: null,
    as: null,
    link: null,
    promo: null,
  };

  it("is one line with nobody in particular", () => {
    expect(linesOf(wish)).toEqual([{ serviceId: "facial", practitionerId: null, addOns: [] }]);
  });

  it("carries each extra once", () => {
    expect(linesOf({ ...wish, practitionerId: "ines", addOnIds: ["oil", "stones"] })[0]).toEqual({
      serviceId: "facial",
      practitionerId: "ines",
      addOns: [
        { addOnId: "oil", count: 1 },
        { addOnId: "stones", count: 1 },
      ],
    });
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
