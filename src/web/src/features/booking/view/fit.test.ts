import { describe, expect, it } from "vitest";
import { fitOf } from "./fit";

describe("the words on a block", () => {
  it("shorten to initials, to a mark, to nothing as their room shrinks", () => {
    expect([200, 63, 62, 39, 38, 16, 15, 0].map(fitOf)).toEqual([
      undefined,
      undefined,
      "initials",
      "initials",
      "mark",
      "mark",
      "none",
      "none",
    ]);
  });
});
