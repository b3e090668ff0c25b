import { describe, expect, it } from "vitest";
import type { Issue } from "../../api/setup";
import { mendPath } from "./mend";

const issue = (more: Partial<Issue>) =>
  ({ stops: true, text: "", reasons: [], mend: "service", mendId: null, serviceId: null, ...more }) as unknown as Issue;

describe("where an issue is mended", () => {
  it("leads to the very page", () => {
    expect(mendPath(issue({ mend: "hours" }))).toBe("/setup/locations");
    expect(mendPath(issue({ mend: "rota", mendId: "p" }))).toBe("/team/p/rota");
    expect(mendPath(issue({ mend: "qualifications" }))).toBe("/team/qualifications");
    expect(mendPath(issue({ serviceId: "s" }))).toBe("/services/s");
  });

  it("leads to the page of the practitioner that has to do with it", () => {
    const because = (...codes: string[]) =>
      mendPath(
        issue({ mend: "practitioner", mendId: "p", reasons: codes.map((code) => ({ code })) as Issue["reasons"] }),
      );
    expect(because("practitionerAway", "offShift")).toBe("/team/p/rota");
    expect(because("practitionerBlocked")).toBe("/team/p/calendar");
    expect(because("practitionerNotOnline")).toBe("/team/p/");
  });
});
