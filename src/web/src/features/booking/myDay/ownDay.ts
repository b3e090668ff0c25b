import type { Day, Visit } from "../../../api/staff";

/** Something of a practitioner's day: a visit that comes to them, or time that is blocked. */
export type Entry =
  | { kind: "visit"; from: string; until: string; visit: Visit; services: string[]; rooms: string[] }
  | { kind: "blocked"; from: string; until: string; reason: string };

/** A practitioner's day over all locations, in order. */
export function entriesOf(days: Day[], practitionerId: string): Entry[] {
  const visits = days.flatMap((day) =>
    day.visits.flatMap((visit): Entry[] => {
      const own = visit.claims.filter((claim) => claim.resourceId === practitionerId);
      if (own.length === 0) return [];
      const lines = visit.lines.filter((_, i) => own.some((claim) => claim.line === i));
      return [
        {
          kind: "visit",
          from: own.map((claim) => claim.coreFrom).reduce(earlier),
          until: own.map((claim) => claim.coreUntil).reduce(later),
          visit,
          services: lines.map((line) => line.service),
          rooms: [...new Set(lines.flatMap((line) => line.rooms))],
        },
      ];
    }),
  );
  const blocked = days.flatMap((day) =>
    day.lanes
      .filter((lane) => lane.id === practitionerId)
      .flatMap((lane) => lane.blocked)
      .map((block): Entry => ({ kind: "blocked", from: block.from, until: block.until, reason: block.reason ?? "" })),
  );
  const seen = new Set<string>();
  return [...visits, ...blocked]
    .filter((entry) => {
      // Somebody's own blocked time is told by every location.
      const key = `${entry.kind} ${entry.from} ${entry.kind === "visit" ? entry.visit.id : entry.reason}`;
      return !seen.has(key) && seen.add(key);
    })
    .sort((a, b) => a.from.localeCompare(b.from));
}

/** The visit to see to now: one that is under way, else the first that is neither over nor past. */
export function nextOf(entries: Entry[], now: string): Extract<Entry, { kind: "visit" }> | undefined {
  const visits = entries.filter((entry) => entry.kind === "visit");
  const open = visits.filter((entry) => !["done", "noShow", "cancelled"].includes(entry.visit.state));
  return (
    open.find((entry) => entry.visit.state === "inTreatment") ??
    open.find((entry) => entry.visit.state === "arrived") ??
    open.find((entry) => entry.until > now)
  );
}

const earlier = (a: string, b: string) => (a < b ? a : b);
const later = (a: string, b: string) => (a > b ? a : b);
