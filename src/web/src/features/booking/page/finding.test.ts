import { describe, expect, it } from "vitest";
import type { Business } from "../../../api/public";
import { doneBy, firstOf, matching } from "./finding";

const categories = [
  {
    name: "Massage",
    services: [
      { name: "Deep tissue 60", description: "" },
      { name: "Hot stones 75", description: "Warm basalt" },
    ],
  },
  { name: "Skin", services: [{ name: "Épilation", description: "" }] },
] as unknown as Business["categories"];

const names = (sought: string) =>
  matching(categories, sought).map((category) => [category.name, ...category.services.map((service) => service.name)]);

describe("looking for a service", () => {
  it("shows all of them without a word", () =>
    expect(names("  ")).toEqual([
      ["Massage", "Deep tissue 60", "Hot stones 75"],
      ["Skin", "Épilation"],
    ]));

  it("finds names, texts and categories, whatever capitals and accents", () => {
    expect(names("DEEP")).toEqual([["Massage", "Deep tissue 60"]]);
    expect(names("basalt")).toEqual([["Massage", "Hot stones 75"]]);
    expect(names("epil")).toEqual([["Skin", "Épilation"]]);
    expect(names("massage")).toEqual([["Massage", "Deep tissue 60", "Hot stones 75"]]);
  });

  it("needs every word", () => {
    expect(names("massage hot")).toEqual([["Massage", "Hot stones 75"]]);
    expect(names("deep stones")).toEqual([]);
  });
});

describe("what a link leads to", () => {
  const ines = { id: "ines", name: "Ines Calloway" };
  const offered = [
    { id: "skin", name: "Skin", services: [{ name: "Peel", practitioners: [] }] },
    {
      id: "massage",
      name: "Massage",
      services: [
        { name: "Deep tissue 60", practitioners: [ines] },
        { name: "Hot stones 75", practitioners: [] },
      ],
    },
  ] as unknown as Business["categories"];

  it("is a category before all others, and all in their order where there is no such category", () => {
    expect(firstOf(offered, "massage").map((category) => category.id)).toEqual(["massage", "skin"]);
    expect(firstOf(offered, "gone").map((category) => category.id)).toEqual(["skin", "massage"]);
    expect(firstOf(offered, null).map((category) => category.id)).toEqual(["skin", "massage"]);
  });

  it("is what somebody does, and everything where they do nothing here", () => {
    const theirs = doneBy(offered, "ines")!;
    expect(theirs.name).toBe("Ines Calloway");
    expect(theirs.categories.map((category) => category.services.map((service) => service.name))).toEqual([
      ["Deep tissue 60"],
    ]);
    expect(doneBy(offered, "nobody")).toBeNull();
    expect(doneBy(offered, null)).toBeNull();
  });
});
