import { describe, expect, it } from "vitest";
import { addressOf, filterOf } from "./filter";

describe("the filter of a list of clients", () => {
  it("comes back from its address as it was", () => {
    const filter = {
      search: "haas",
      tag: "garden",
      hasAhead: false,
      mayBookOnline: true,
      notSince: "2027-01-01",
      bornIn: 7,
    };
    expect(filterOf(addressOf(filter))).toEqual(filter);
  });
  it("leaves out what cannot be", () => {
    expect(filterOf(new URLSearchParams("bornIn=13&hasAhead=perhaps&tag="))).toEqual({});
  });
  it("leaves no trace of what does not matter", () => {
    expect(addressOf({ search: "", hasAhead: true }).toString()).toBe("hasAhead=true");
  });
});
