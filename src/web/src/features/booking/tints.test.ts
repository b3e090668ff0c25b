import { describe, expect, it } from "vitest";
import { setTints, tintBy, tintOf } from "./tints";

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

  it("go by what the viewer has chosen", () => {
    setTints(["massage", "skin"], ["ines", "tobias"]);
    const line = { categoryId: "skin", practitioners: [{ id: "tobias" }] };
    expect(tintBy("category", line, "confirmed")).toBe("tint1");
    expect(tintBy("practitioner", { ...line, practitioners: [{ id: "ines" }] }, "confirmed")).toBe("tint0");
    expect(tintBy("practitioner", { ...line, practitioners: [] }, "confirmed")).toBe("tint0");
    expect(tintBy("state", line, "confirmed")).not.toBe(tintBy("state", line, "done"));
  });
});
