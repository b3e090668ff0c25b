import { plural, t } from "@lingui/core/macro";
import type { Category, Practitioner, Service, WhoDoesWhat } from "../../api/setup";
import { addDays, andWords, longDate } from "../../shared/format";

type Cell = WhoDoesWhat["cells"][number];

/** Services that the same people do, and what is special about it. */
export type Doing = { services: Service[]; name: string; who: string; notes: { text: string; isBad: boolean }[] };

const named = (people: Practitioner[], id: string) =>
  people.find((person) => person.id === id)?.name?.split(" ")[0] ?? "";

/** The same people, in the same way. */
const keyOf = (cells: Cell[]) =>
  cells
    .filter((cell) => cell.may || cell.standing === "excluded")
    .map((cell) => `${cell.role} ${cell.practitionerId} ${cell.standing} ${cell.until ?? ""}`)
    .sort()
    .join();

/** What follows from what people hold, service by service; those of a category that the same people do are told together. */
export function soTheyDo(
  who: WhoDoesWhat,
  services: Service[],
  categories: Category[],
  people: Practitioner[],
): Doing[] {
  const shown = services.filter((service) => !service.isArchived);
  const groups = new Map<string, { category: Category; services: Service[]; cells: Cell[] }>();
  for (const category of categories) {
    for (const service of shown.filter((other) => other.categoryId === category.id)) {
      const cells = who.cells.filter((cell) => cell.serviceId === service.id);
      const key = `${category.id} ${keyOf(cells)}`;
      const group = groups.get(key) ?? { category, services: [], cells };
      group.services.push(service);
      groups.set(key, group);
    }
  }
  const groupsOf = (category: Category) => [...groups.values()].filter((group) => group.category === category).length;
  return [...groups.values()].map(({ category, services: own, cells }) => ({
    services: own,
    name:
      groupsOf(category) === 1 && own.length > 1
        ? `${category.name}, ${plural(own.length, { one: "# service", other: "# services" })}`
        : andWords(own.map((service) => service.name ?? "")),
    who: whoWords(cells, own[0]!, people),
    notes: notesOf(cells, people),
  }));
}

function whoWords(cells: Cell[], service: Service, people: Practitioner[]): string {
  const roles = service.roles ?? [];
  const said = roles.map((_, role) => {
    const may = cells
      .filter((cell) => cell.role === role && cell.may)
      .map((cell) => named(people, cell.practitionerId));
    return may.length === 0 ? t`nobody` : andWords(may);
  });
  return said.join("; with ");
}

function notesOf(cells: Cell[], people: Practitioner[]): Doing["notes"] {
  const notes: Doing["notes"] = [];
  const by = (standing: Cell["standing"]) => [
    ...new Set(cells.filter((cell) => cell.standing === standing).map((cell) => named(people, cell.practitionerId))),
  ];
  if (by("added").length > 0) notes.push({ text: t`${andWords(by("added"))} added by hand`, isBad: false });
  if (by("excluded").length > 0) notes.push({ text: t`${andWords(by("excluded"))} left out by hand`, isBad: false });
  for (const role of new Set(cells.map((cell) => cell.role))) {
    const may = cells.filter((cell) => cell.role === role && cell.may);
    const ends = may.map((cell) => cell.until);
    if (may.length === 0) notes.push({ text: t`nobody does it`, isBad: true });
    else if (ends.every((until) => until))
      notes.push({ text: t`nobody from ${longDate(addDays([...ends].sort().at(-1)!, 1))}`, isBad: true });
    else {
      for (const cell of may.filter((other) => other.until))
        notes.push({ text: t`${named(people, cell.practitionerId)} until ${longDate(cell.until!)}`, isBad: false });
      if (may.length === 1)
        notes.push({ text: t`only one person: when they are off, it cannot be booked`, isBad: false });
    }
  }
  return notes;
}
