import { describe, expect, it } from "vitest";
import { makeScale } from "./scale";

describe("the scale of a day", () => {
  const scale = makeScale("2027-03-01T08:00:00Z", "2027-03-01T18:00:00Z");

  it("puts an instant at its share of the picture", () => {
    expect(scale.at("2027-03-01T13:00:00Z")).toBe(50);
    expect(scale.span("2027-03-01T09:00:00Z", "2027-03-01T10:00:00Z")).toEqual({ left: "10%", width: "10%" });
  });

  it("cuts what lies outside", () => {
    expect(scale.span("2027-03-01T07:00:00Z", "2027-03-01T09:00:00Z")).toEqual({ left: "0%", width: "10%" });
  });

  it("gives the grain before a place pointed at", () => {
    expect(scale.instantAt(0.5)).toBe("2027-03-01T13:00:00.000Z");
    expect(scale.instantAt(0.5083)).toBe("2027-03-01T13:00:00.000Z");
    expect(scale.instantAt(0.5084)).toBe("2027-03-01T13:05:00.000Z");
  });
});
