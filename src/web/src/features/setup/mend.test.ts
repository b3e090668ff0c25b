import { describe, expect, it } from "vitest";
import type { Issue } from "../../api/setup";
import { counted } from "./imports";
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
});

describe("counts of an import", () => {
  it("knows one from many", () => {
    expect(counted(1, "clients")).toBe("1 client");
    expect(counted(0, "services")).toBe("0 services");
    expect(counted(2, "practitioners")).toBe("2 practitioners");
  });
});
