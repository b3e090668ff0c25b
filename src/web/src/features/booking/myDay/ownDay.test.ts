import { describe, expect, it } from "vitest";
import type { Day, Visit } from "../../../api/staff";
import { entriesOf, nextOf } from "./ownDay";

const at = (clock: string) => `2027-03-02T${clock}:00Z`;
const visit = (id: string, from: string, until: string, state: Visit["state"], by = "ines") =>
  ({
    id,
    state,
    lines: [{ service: "Facial", rooms: ["Elm"] }],
    claims: [
      { line: 0, resourceId: by, coreFrom: at(from), coreUntil: at(until) },
      { line: 0, resourceId: "elm", coreFrom: at(from), coreUntil: at(until) },
    ],
  }) as unknown as Visit;
const day = (visits: Visit[], blocked: [string, string, string][] = []) =>
  ({
    visits,
    lanes: [
      {
        id: "ines",
        blocked: blocked.map(([from, until, reason]) => ({ from: at(from), until: at(until), reason })),
      },
    ],
  }) as unknown as Day;

describe("somebody's own day", () => {
  it("has their visits and their breaks in order, and nobody else's", () => {
    const entries = entriesOf(
      [
        day(
          [visit("b", "12:00", "13:00", "confirmed"), visit("x", "09:00", "10:00", "confirmed", "tobias")],
          [["13:00", "13:30", "Lunch"]],
        ),
        // What is blocked is told by every location where they work.
        day([visit("a", "09:00", "10:00", "done")], [["13:00", "13:30", "Lunch"]]),
      ],
      "ines",
    );
    expect(entries.map((entry) => (entry.kind === "visit" ? entry.visit.id : entry.reason))).toEqual([
      "a",
      "b",
      "Lunch",
    ]);
    expect(entries[0]).toMatchObject({ services: ["Facial"], rooms: ["Elm"] });
  });

  it("says whom to see to now: who is treated, then who waits, then who comes next", () => {
    const next = (states: Visit["state"][], now: string) =>
      nextOf(
        entriesOf([day(states.map((state, i) => visit(String(i), `1${i}:00`, `1${i}:50`, state)))], "ines"),
        at(now),
      )?.visit.id;
    expect(next(["done", "confirmed", "confirmed"], "10:55")).toBe("1");
    expect(next(["done", "confirmed", "arrived"], "10:55")).toBe("2");
    expect(next(["inTreatment", "arrived", "confirmed"], "10:55")).toBe("0");
    expect(next(["noShow", "done", "confirmed"], "12:55")).toBeUndefined();
  });
});
