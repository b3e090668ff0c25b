import { describe, expect, it } from "vitest";
import locked from "../../../../../Kingcup.Server/packages.lock.json";
import serverPackages from "./serverLicences.json";

type Lock = { dependencies: Record<string, Record<string, { type: string; resolved: string }>> };

describe("the licences of what the server ships with", () => {
  it("are those of the packages it is built from; node scripts/licences.mjs writes them anew", () => {
    const lock = locked as unknown as Lock;
    const built = Object.values(lock.dependencies)
      .flatMap((all) => Object.entries(all))
      .filter(([, { type }]) => type !== "Project")
      .map(([name, { resolved }]) => `${name} ${resolved}`);
    expect(serverPackages.map(({ name, version }) => `${name} ${version}`).sort()).toEqual([...new Set(built)].sort());
  });

  it("are named for every one of them", () => {
    expect(serverPackages.filter((item) => item.licence === "")).toEqual([]);
  });
});
