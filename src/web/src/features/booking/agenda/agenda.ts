import type { AgendaAsked } from "../../../api/queries";
import type { components } from "../../../api/generated/schema";
import type { VisitState } from "../../../api/staff";

export type AgendaRow = components["schemas"]["AgendaRow"];
export type Grouping = "time" | "practitioner";

const lists = ["resourceId", "categoryId", "state"] as const;

/** What an agenda holds, as it stands in the address: so Back, reload and a link keep it. */
export type AgendaFilter = {
  until: string;
  resourceId: string[];
  categoryId: string[];
  state: VisitState[];
  source: string | null;
  grouping: Grouping;
};

export function filterOf(date: string, search: URLSearchParams): AgendaFilter {
  const until = search.get("until");
  const source = search.get("source");
  return {
    until: until && /^\d{4}-\d{2}-\d{2}$/.test(until) && until >= date ? until : date,
    resourceId: search.getAll("resourceId"),
    categoryId: search.getAll("categoryId"),
    state: search.getAll("state") as VisitState[],
    source: source === "Desk" || source === "Online" ? source : null,
    grouping: search.get("by") === "practitioner" ? "practitioner" : "time",
  };
}

/** The address of a filter, with nothing in it that goes without saying. */
export function addressOf(date: string, filter: AgendaFilter): URLSearchParams {
  const address = new URLSearchParams();
  if (filter.until !== date) address.set("until", filter.until);
  for (const name of lists) for (const value of filter[name]) address.append(name, value);
  if (filter.source) address.set("source", filter.source);
  if (filter.grouping !== "time") address.set("by", filter.grouping);
  return address;
}

/** What the server is asked for. */
export const askedOf = (locationId: string, date: string, filter: AgendaFilter): AgendaAsked => ({
  from: date,
  until: filter.until,
  locationId,
  resourceId: filter.resourceId,
  categoryId: filter.categoryId,
  state: filter.state,
  ...(filter.source && { source: filter.source }),
});

/** A group of the agenda: a day, or somebody's visits. */
export type Group = { key: string; rows: AgendaRow[] };

/** By day, or by who treats first; in order of time within. */
export function groupsOf(rows: readonly AgendaRow[], grouping: Grouping): Group[] {
  const groups = new Map<string, AgendaRow[]>();
  for (const row of rows) {
    const key = grouping === "time" ? row.date : (row.practitioners[0]?.name ?? "");
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  const all = [...groups].map(([key, list]) => ({ key, rows: list }));
  return grouping === "time" ? all : all.sort((a, b) => a.key.localeCompare(b.key));
}

/** The states that at least one of several visits may be given by now. */
export const nextOf = (rows: readonly AgendaRow[]): VisitState[] =>
  [...new Set(rows.flatMap((row) => row.next))].filter((state) => state !== "cancelled");

/** What lies on the sheet of each who treats: whoever shares a visit has it on theirs too. */
export function sheetsOf(rows: readonly AgendaRow[]): { id: string; name: string; rows: AgendaRow[] }[] {
  const people = new Map(rows.flatMap((row) => row.practitioners).map(({ id, name }) => [id, name]));
  return [...people]
    .map(([id, name]) => ({ id, name, rows: rows.filter((row) => row.practitioners.some((who) => who.id === id)) }))
    .sort((a, b) => a.name.localeCompare(b.name));
}
