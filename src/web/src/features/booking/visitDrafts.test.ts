import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Client } from "../../api/staff";
import { blankLine } from "./lines/lineDrafts";
import { clientOf, isBegun, visitDrafts } from "./visitDrafts";

const client = (id: string, givenName: string) => ({ id, givenName, familyName: "Holt" }) as Client;
const here = "mill-street";
const cut = [blankLine({ serviceId: "cut" })];

describe("visits half written", () => {
  beforeEach(() => visitDrafts.forget());

  it("give a client to the one that is open and has none, with what was written there", () => {
    visitDrafts.set("a", here, { lines: cut, note: "asks for the window" });
    expect(visitDrafts.forClient(client("1", "Maren"), "a", here)).toBe("a");
    expect(visitDrafts.find("a")).toMatchObject({ lines: cut, note: "asks for the window", client: { id: "1" } });
  });

  it("never carry what was written for one client over to another", () => {
    visitDrafts.forClient(client("1", "Maren"), "a", here);
    visitDrafts.set("a", here, { note: "allergic to hazel" });
    const other = visitDrafts.forClient(client("2", "Jonas"), "a", here);
    expect(other).not.toBe("a");
    expect(visitDrafts.find(other)).toMatchObject({ note: "", client: { id: "2" } });
    expect(visitDrafts.find("a")).toMatchObject({ note: "allergic to hazel", client: { id: "1" } });
  });

  it("are found again for the same client", () => {
    const first = visitDrafts.forClient(client("1", "Maren"), null, here);
    visitDrafts.set(first, here, { lines: cut });
    expect(visitDrafts.forClient(client("1", "Maren"), null, here)).toBe(first);
    expect(visitDrafts.all()).toHaveLength(1);
  });

  it("are told by their client, and count only once something is written", () => {
    visitDrafts.give("a", here, "ines");
    expect(visitDrafts.find("a")!.lines[0]).toMatchObject({ practitionerId: "ines", asked: false });
    expect(isBegun(visitDrafts.find("a")!)).toBe(false);
    visitDrafts.set("a", here, { fresh: { givenName: "Suki", familyName: "", email: "", phone: "" } });
    expect(isBegun(visitDrafts.find("a")!)).toBe(true);
    expect(clientOf(visitDrafts.find("a")!)).toBe("Suki");
    visitDrafts.drop("a");
    expect(visitDrafts.all()).toEqual([]);
  });

  it("that are dropped can be had back as they were", () => {
    visitDrafts.set("a", here, { lines: cut, note: "asks for the window" });
    visitDrafts.set("b", here, { lines: [blankLine({ serviceId: "nails" })] });
    const dropped = visitDrafts.find("a")!;
    visitDrafts.drop("a");
    expect(visitDrafts.all().map((draft) => draft.id)).toEqual(["b"]);
    visitDrafts.restore(dropped);
    visitDrafts.restore(dropped);
    expect(visitDrafts.all()).toHaveLength(2);
    expect(visitDrafts.find("a")).toEqual(dropped);
  });

  it("are gone when somebody else signs in on the same window, and only then", () => {
    const kept = new Map<string, string>();
    vi.stubGlobal("sessionStorage", {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => kept.set(key, value),
    });
    visitDrafts.belongTo("Hester Marlow, Owner");
    visitDrafts.set("a", here, { lines: cut });
    visitDrafts.belongTo("Hester Marlow, Owner");
    expect(visitDrafts.all()).toHaveLength(1);
    visitDrafts.belongTo("Ines Calloway, Practitioner");
    expect(visitDrafts.all()).toHaveLength(0);
    vi.unstubAllGlobals();
  });
});
