import { describe, expect, it } from "vitest";
import type { Issue } from "../../api/setup";
import { causesOf, remedyOf } from "./causes";

const issue = (serviceId: string, cause: string, more: Partial<Issue> = {}) =>
  ({
    serviceId,
    cause,
    text: "",
    stops: false,
    from: null,
    mend: "qualifications",
    mendId: "suki",
    reasons: [],
    ...more,
  }) as unknown as Issue;

describe("what stops services", () => {
  const laser = "Suki's laser safety ends on 30 December, and nobody else who works then holds it.";

  it("is told once for all that stop for the same cause, from the first day on which one does", () => {
    const [only, ...rest] = causesOf([
      issue("small", laser, { from: "2027-12-31" }),
      issue("large", laser, { from: "2027-12-29" }),
    ]);
    expect(rest).toEqual([]);
    expect(only).toMatchObject({ text: laser, from: "2027-12-29" });
    expect(only!.issues.map((other) => other.serviceId)).toEqual(["small", "large"]);
  });

  it("is told apart where it is mended elsewhere, what stops already first", () => {
    const causes = causesOf([
      issue("a", "Nobody is on shift."),
      issue("b", "Nobody is on shift.", { mendId: "ines" }),
      issue("c", "There is no room.", { stops: true, mend: "room" }),
    ]);
    expect(causes.map(({ text, issues }) => [text, issues.length])).toEqual([
      ["There is no room.", 1],
      ["Nobody is on shift.", 1],
      ["Nobody is on shift.", 1],
    ]);
    expect(remedyOf(causes[0]!.issues[0]!)).toBe("Look at the rooms");
  });
});
