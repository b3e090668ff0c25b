import { describe, expect, it } from "vitest";
import type { Business } from "../../../api/public";
import { matching } from "./finding";

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
