import { describe, expect, it } from "vitest";
import { chosenIn, searchOf } from "./address";

const blank = chosenIn("");

describe("the address of the booking page", () => {
  it("begins with what", () => {
    expect(blank).toMatchObject({ step: "what", lines: [], line: 0, at: null, returning: false });
    expect(searchOf(blank)).toBe("");
  });

  it("says everything chosen, and reads it back", () => {
    const chosen = {
      ...blank,
      link: "k3y",
      promo: "LAKE10",
      where: "mill",
      of: "massage",
      lines: [
        { what: "deep", extras: ["oil", "stones"], who: "ines", person: 0 },
        { what: "facial", extras: [], who: null, person: 0 },
        { what: "deep", extras: [], who: "rafe", person: 1 },
      ],
      line: 1,
      from: "2027-03-01",
      day: "2027-03-04",
      at: "2027-03-04T10:15:00Z",
      step: "you" as const,
      returning: true,
    };
    expect(chosenIn(searchOf(chosen))).toEqual(chosen);
  });

  it("keeps a day that was folded", () => {
    const chosen = { ...chosenIn("?what=deep"), day: "" };
    expect(chosenIn(searchOf(chosen)).day).toBe("");
  });

  it("leads a link that names only the service to its times", () => {
    expect(chosenIn("?what=deep").step).toBe("when");
    expect(chosenIn("?what=deep&at=2027-03-04T10:15:00Z").step).toBe("you");
  });

  it.each([
    ["?step=you&what=deep", "when"],
    ["?step=when", "what"],
    ["?step=nowhere", "what"],
    ["?what=deep&at=soon&step=you", "when"],
  ])("never shows a step whose earlier ones are missing: %s", (search, step) =>
    expect(chosenIn(search).step).toBe(step),
  );

  it("takes whom a link names for the service it names, wherever it says so", () => {
    expect(chosenIn("?who=ines&what=deep")).toMatchObject({ who: null, lines: [{ what: "deep", who: "ines" }] });
    expect(chosenIn("?who=ines")).toMatchObject({ who: "ines", lines: [], step: "what" });
  });

  it("asks for one more service, and for none beyond the next", () => {
    expect(chosenIn("?what=a&line=1&step=what")).toMatchObject({ line: 1, step: "what" });
    expect(chosenIn("?what=a&line=7&step=what").line).toBe(1);
    expect(chosenIn("?what=a&line=-1").line).toBe(0);
  });

  it("counts whoever comes without a gap, and adds for nobody beyond the next", () => {
    expect(chosenIn("?what=a&for=3&what=b&for=1").lines).toMatchObject([
      { what: "b", person: 0 },
      { what: "a", person: 1 },
    ]);
    expect(chosenIn("?what=a&add=1&line=1&step=what").add).toBe(1);
    expect(chosenIn("?what=a&add=7").add).toBe(1);
    expect(chosenIn("?what=a&add=x").add).toBe(0);
  });

  it("takes no day that is none", () =>
    expect(chosenIn("?what=deep&day=monday&from=x")).toMatchObject({ day: null, from: null }));
});
