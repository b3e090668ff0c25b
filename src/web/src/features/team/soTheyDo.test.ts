import { describe, expect, it } from "vitest";
import type { Category, Practitioner, Service, WhoDoesWhat } from "../../api/setup";
import { soTheyDo } from "./soTheyDo";

const people = ["Ines Roth", "Tobias Lund", "Suki Amara"].map(
  (name) => ({ id: name.split(" ")[0], name }) as Practitioner,
);
const categories = ["Massage", "Laser"].map((name) => ({ id: name, name }) as Category);
const service = (id: string, categoryId: string, roles = 1) =>
  ({
    id,
    name: id,
    categoryId,
    isArchived: false,
    roles: Array.from({ length: roles }, () => ({})),
  }) as unknown as Service;
type Cell = WhoDoesWhat["cells"][number];
const cell = (serviceId: string, practitionerId: string, more: Partial<Cell> = {}): Cell => ({
  serviceId,
  role: 0,
  practitionerId,
  may: true,
  standing: "holds",
  text: "",
  until: null,
  ...more,
});
const told = (cells: Cell[], services: Service[]) =>
  soTheyDo({ date: "2027-03-01", cells }, services, categories, people).map(({ name, who, notes }) => ({
    name,
    who,
    notes: notes.map((note) => note.text),
  }));

describe("what follows from what people hold", () => {
  it("tells the services of a category together that the same people do", () =>
    expect(
      told(
        ["a", "b"].flatMap((id) => [cell(id, "Ines"), cell(id, "Tobias")]),
        [service("a", "Massage"), service("b", "Massage")],
      ),
    ).toEqual([{ name: "Massage, 2 services", who: "Ines and Tobias", notes: [] }]));

  it("tells them apart where they differ, and what was decided by hand", () =>
    expect(
      told(
        [
          cell("a", "Ines"),
          cell("a", "Tobias"),
          cell("b", "Ines"),
          cell("b", "Tobias", { may: false, standing: "excluded" }),
          cell("b", "Suki", { standing: "added" }),
        ],
        [service("a", "Massage"), service("b", "Massage")],
      ),
    ).toEqual([
      { name: "a", who: "Ines and Tobias", notes: [] },
      { name: "b", who: "Ines and Suki", notes: ["Suki added by hand", "Tobias left out by hand"] },
    ]));

  it("warns of a single person, of an end, and of a service that stops", () => {
    expect(told([cell("a", "Suki")], [service("a", "Laser")])[0]!.notes).toEqual([
      "only one person: when they are off, it cannot be booked",
    ]);
    expect(
      told([cell("a", "Suki", { until: "2027-06-30" }), cell("a", "Ines")], [service("a", "Laser")])[0]!.notes,
    ).toEqual(["Suki until Wednesday 30 June"]);
    expect(told([cell("a", "Suki", { until: "2027-12-30" })], [service("a", "Laser")])[0]!.notes).toEqual([
      "nobody from Friday 31 December",
    ]);
    expect(told([], [service("a", "Laser")])[0]!.who).toBe("nobody");
  });

  it("tells who is beside whom", () =>
    expect(told([cell("a", "Ines"), cell("a", "Suki", { role: 1 })], [service("a", "Laser", 2)])[0]!.who).toBe(
      "Ines; with Suki",
    ));
});
