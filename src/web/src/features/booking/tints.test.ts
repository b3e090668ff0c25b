import { describe, expect, it } from "vitest";
import { setTints, tintOf } from "./tints";

describe("tints of categories", () => {
  it("follow the house order", () => {
    setTints(["massage", "skin", "laser"]);
    expect(["massage", "skin", "laser"].map(tintOf)).toEqual(["tint0", "tint1", "tint2"]);
  });

  it("begin again after seven", () => {
    setTints(["a", "b", "c", "d", "e", "f", "g", "h"]);
    expect(tintOf("h")).toBe(tintOf("a"));
    expect(new Set(["a", "b", "c", "d", "e", "f", "g"].map(tintOf)).size).toBe(7);
  });

  it("is the first for a category that is not known yet", () => {
    setTints(["a"]);
    expect(tintOf("new")).toBe("tint0");
  });
});
