import { useSyncExternalStore } from "react";
import type { Client } from "../../api/staff";
import { blankLine, type LineDraft } from "./lines/lineDrafts";

export type NewClient = { givenName: string; familyName: string; email: string; phone: string };

/** A visit that is being written at the desk. */
export type VisitDraft = {
  id: string;
  locationId: string;
  client: Client | null;
  fresh: NewClient | null;
  /** What is wanted, in order; at least one line, that may still be without a service. */
  lines: LineDraft[];
  /** Who comes besides the client: person 1 of the lines, 2 and so on. */
  people: string[];
  note: string;
};

const key = "kingcup-half-written-lines",
  personKey = "kingcup-half-written-by";
const listeners = new Set<() => void>();
let all: VisitDraft[] = stored();

function stored(): VisitDraft[] {
  try {
    return JSON.parse(globalThis.sessionStorage?.getItem(key) ?? "[]") as VisitDraft[];
  } catch {
    return [];
  }
}

function keep(next: VisitDraft[]) {
  all = next;
  globalThis.sessionStorage?.setItem(key, JSON.stringify(all.filter(isBegun)));
  for (const listener of listeners) listener();
}

export const blankDraft = (id: string, locationId: string): VisitDraft => ({
  id,
  locationId,
  client: null,
  fresh: null,
  lines: [blankLine({ key: "first" })],
  people: [],
  note: "",
});

/** Whether anything would be lost with it. */
export const isBegun = (draft: VisitDraft) =>
  draft.client !== null ||
  draft.fresh !== null ||
  draft.lines.some((line) => line.serviceId !== "") ||
  draft.note !== "";

/** Who it is for, and what, as far as that is known. */
export const clientOf = (draft: VisitDraft) =>
  draft.client
    ? `${draft.client.givenName} ${draft.client.familyName}`
    : [draft.fresh?.givenName, draft.fresh?.familyName].filter(Boolean).join(" ") || null;

/**
 * Visits half written in this window. They outlive their sheet and a reload, and are gone when they are booked, dropped, or
 * somebody signs out.
 */
export const visitDrafts = {
  find: (id: string) => all.find((draft) => draft.id === id),
  all: () => all,
  set: (id: string, locationId: string, change: Partial<VisitDraft>) => {
    const before = visitDrafts.find(id) ?? blankDraft(id, locationId);
    keep([...all.filter((draft) => draft.id !== id), { ...before, ...change }]);
  },
  /** Somebody's lane was pointed at: they take the first line. */
  give: (id: string, locationId: string, practitionerId: string) => {
    const [first, ...others] = (visitDrafts.find(id) ?? blankDraft(id, locationId)).lines;
    visitDrafts.set(id, locationId, { lines: [{ ...first!, practitionerId, asked: false }, ...others] });
  },
  drop: (id: string) => keep(all.filter((draft) => draft.id !== id)),
  forget: () => keep([]),
  /** A draft that was dropped, as it was. */
  restore: (draft: VisitDraft) => keep([...all.filter((one) => one.id !== draft.id), draft]),
  /** Whoever signs in after somebody else on this window finds nothing of theirs. */
  belongTo: (person: string) => {
    const before = globalThis.sessionStorage?.getItem(personKey);
    globalThis.sessionStorage?.setItem(personKey, person);
    if (before && before !== person) keep([]);
  },
  /** The draft a client's visit is written in: the one that is open while it has no client, their own, or a new one. */
  forClient: (client: Client, open: string | null, locationId: string): string => {
    const opened = open ? visitDrafts.find(open) : undefined;
    const own = all.find((draft) => draft.client?.id === client.id);
    const id =
      open && (!opened || (!opened.client && !opened.fresh)) ? open : (own?.id ?? globalThis.crypto.randomUUID());
    visitDrafts.set(id, locationId, { client });
    return id;
  },
};

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => listeners.delete(listener);
};

/** All that is half written. */
export const useVisitDrafts = () => useSyncExternalStore(subscribe, visitDrafts.all);
