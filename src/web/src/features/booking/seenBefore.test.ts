import { describe, expect, it } from "vitest";
import type { Visit } from "../../api/staff";
import { seenBefore } from "./seenBefore";

const at = (version: number) => ({ id: "one", version }) as Visit;

describe("a visit as it was seen by whoever was refused", () => {
  it("is what the sheet begins from, until it was settled", () => {
    expect(seenBefore.of(at(2))).toEqual(at(2));
    seenBefore.keep(at(1));
    expect(seenBefore.of(at(2))).toEqual(at(1));
    seenBefore.forget("one");
    expect(seenBefore.of(at(2))).toEqual(at(2));
  });
});
