import { describe, expect, it } from "vitest";
import { adding, openedOf } from "./opened";

const all = [{ id: "a" }, { id: "b" }];

describe("the entry of a list that is open", () => {
  it("is the one in the address", () => expect(openedOf(all, "b")).toBe(all[1]));
  it("is the first until one was chosen, and where the named one is gone", () => {
    expect(openedOf(all, null)).toBe(all[0]);
    expect(openedOf(all, "gone")).toBe(all[0]);
  });
  it("is none while something is added, and in an empty list", () => {
    expect(openedOf(all, adding)).toBeUndefined();
    expect(openedOf([], "a")).toBeUndefined();
  });
});
