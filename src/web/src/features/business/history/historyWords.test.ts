import { describe, expect, it } from "vitest";
import { differences, kindWords, nameOf, pathOf } from "./historyWords";

const row = (subjectKind: string, before: unknown, after: unknown) => ({
  subjectKind,
  subjectId: "x1",
  before: before === null ? null : JSON.stringify(before),
  after: after === null ? null : JSON.stringify(after),
});
const nobody = new Map<string, string>();

describe("what was changed", () => {
  it("is named as it is called after the change, before it, or now", () => {
    expect(nameOf(row("room", { Name: "Cedar" }, { name: "Birch" }), nobody)).toBe("Birch");
    expect(nameOf(row("room", { Name: "Cedar" }, null), nobody)).toBe("Cedar");
    expect(nameOf(row("practitioner", null, { from: "2027-03-01" }), new Map([["x1", "Ines"]]))).toBe("Ines");
    expect(nameOf(row("business", null, [1, 2]), nobody)).toBeUndefined();
  });

  it("leads to the very thing", () => {
    expect(pathOf(row("room", null, {}))).toBe("/rooms?open=x1");
    expect(pathOf(row("service", null, {}))).toBe("/services/x1");
    expect(pathOf(row("block", null, {}))).toBeNull();
    expect(kindWords("add-on")).toBe("Add-on");
  });
});

describe("what differs", () => {
  it("is told field by field, in words, without identities and versions", () =>
    expect(
      differences(
        row(
          "service",
          { Name: "Peel", BufferAfterMinutes: 10, Features: ["couch"], CategoryId: "a", Version: 1 },
          { name: "Peel", bufferAfterMinutes: 15, features: [], categoryId: "b", version: 2, bookableOnline: true },
        ),
      ),
    ).toEqual([
      { field: "buffer after minutes", was: "10", is: "15" },
      { field: "features", was: "couch", is: "nothing" },
      { field: "bookable online", was: "nothing", is: "yes" },
    ]));

  it("is nothing where nothing was kept", () => expect(differences(row("room", null, null))).toEqual([]));
  it("survives what is no record", () =>
    expect(differences({ subjectKind: "room", subjectId: "x", before: "no json", after: "[1]" })).toEqual([]));
});
