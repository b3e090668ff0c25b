import { describe, expect, it } from "vitest";
import { zAddOnDocument, zServiceDocument } from "../api/shapes";
import { changedIn, messagesOf, theirsWhereBoth } from "./draft";
import { limitWords } from "./limitWords";

const addOn = {
  id: null,
  name: "Hot oil",
  minutes: 10,
  price: 900,
  most: 1,
  services: [],
  isArchived: false,
  version: 0,
};

function said(shape: typeof zAddOnDocument, draft: unknown): Record<string, string> {
  const found = shape.safeParse(draft, { error: limitWords }).error?.issues ?? [];
  return Object.fromEntries(found.map((issue) => [issue.path.join("."), issue.message]));
}

describe("what the server takes", () => {
  it("is taken as it is", () => {
    expect(said(zAddOnDocument, addOn)).toEqual({});
  });

  it("is told of a text that is too long, at its field", () => {
    expect(said(zAddOnDocument, { ...addOn, name: "x".repeat(200) })).toEqual({});
    expect(said(zAddOnDocument, { ...addOn, name: "x".repeat(201) })).toEqual({ name: "200 characters at the most." });
  });

  it.each([
    [0, "1 at the least."],
    [21, "20 at the most."],
    [null, "This is needed and is missing."],
    [1.5, "This cannot be taken as it is. Choose or enter it anew."],
  ])("is told of %s, which is not 1 to 20", (most, words) => {
    expect(said(zAddOnDocument, { ...addOn, most })).toEqual({ most: words });
  });

  it("knows the limits of every part of a service", () => {
    expect(zServiceDocument.shape.description.safeParse("x".repeat(10_001)).success).toBe(false);
    expect(zServiceDocument.shape.returnDays.safeParse(1001).success).toBe(false);
    expect(zServiceDocument.shape.returnDays.safeParse(null).success).toBe(true);
  });
});

describe("messages of a form", () => {
  it("stand at the paths the server names", () => {
    const fault = (message: string) => ({ type: "server", message });
    expect(
      messagesOf({
        name: fault("Enter the name."),
        phases: [undefined, { minutes: fault("Too long."), equipment: [{ units: fault("Too many.") }] }],
        online: { leadMinutes: fault("Too far.") },
      } as never),
    ).toEqual({
      name: "Enter the name.",
      "phases[1].minutes": "Too long.",
      "phases[1].equipment[0].units": "Too many.",
      "online.leadMinutes": "Too far.",
    });
  });

  it("hold what is wrong with a whole list beside what is wrong in it", () => {
    const list = Object.assign([{ minutes: { type: "server", message: "Too long." } }], {
      type: "server",
      message: "A service has 1 to 12 phases.",
    });
    expect(messagesOf({ phases: list } as never)).toEqual({
      phases: "A service has 1 to 12 phases.",
      "phases[0].minutes": "Too long.",
    });
  });
});

describe("what two people wrote", () => {
  const base = { ...addOn, version: 3 };
  const theirs = (mine: object, stored: object) =>
    theirsWhereBoth(zAddOnDocument, base, { ...base, ...mine }, { ...base, version: 4, ...stored });

  it("is told apart by field", () => {
    expect(changedIn(base, base)).toEqual({});
    expect(changedIn(base, { ...base, name: "Scalp", minutes: 15 })).toEqual({ name: "Scalp", minutes: 15 });
  });

  it("clashes only where both wrote, and differently", () => {
    expect(theirs({ name: "Scalp" }, { minutes: 20 })).toEqual({ texts: [], more: false });
    expect(theirs({ name: "Scalp" }, { name: "Scalp" })).toEqual({ texts: [], more: false });
    expect(theirs({ name: "Scalp" }, { name: "Warm oil" })).toEqual({ texts: ["Warm oil"], more: false });
  });

  it("is said of texts alone; of a price in cents only that there is more", () =>
    expect(theirs({ name: "Scalp", price: 1000 }, { name: "Warm oil", price: 1200 })).toEqual({
      texts: ["Warm oil"],
      more: true,
    }));
});
