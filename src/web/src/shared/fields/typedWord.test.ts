import { describe, expect, it } from "vitest";
import { withTyped } from "./typedWord";

describe("a word that is typed beside a list", () => {
  it("counts, without the blanks around it", () =>
    expect(withTyped(["wet"], " quiet corner ")).toEqual(["wet", "quiet corner"]));
  it("counts once", () => expect(withTyped(["wet"], "wet")).toEqual(["wet"]));
  it("is nothing where nothing is typed", () => expect(withTyped(["wet"], "  ")).toEqual(["wet"]));
});
