import type { Held } from "../../api/setup";
import { addDays } from "../../shared/format";

/** A year of days from today on, on which what people hold is drawn. */
export const yearDays = 365;

const dayNumber = (date: string) => Math.round(Date.parse(`${date}T00:00:00Z`) / 86_400_000);
export const daysFrom = (today: string, date: string) => dayNumber(date) - dayNumber(today);

/** Where a stretch lies in the year from today on, from 0 to 1; null where none of it does. */
export function inYear(
  { from, until }: Pick<Held, "from" | "until">,
  today: string,
): { from: number; until: number } | null {
  const begins = Math.max(0, daysFrom(today, from));
  const ends = until ? daysFrom(today, until) + 1 : yearDays;
  const found = { from: begins / yearDays, until: Math.min(yearDays, ends) / yearDays };
  return found.until > found.from ? found : null;
}

/** The date under a pointer in a cell. */
export const dateAt = (share: number, today: string) =>
  addDays(today, Math.round(Math.min(1, Math.max(0, share)) * yearDays));

/** How somebody stands with a qualification. */
export type Standing = { kind: "open" | "ends" | "soon" | "coming" | "ranOut" | "none"; date: string | null };

/** How somebody stands with a qualification today; soon is within the days of warning, and nothing follows it. */
export function standingOf(held: readonly Held[], today: string, warnDays: number): Standing {
  const now = held.find((other) => other.from <= today && (!other.until || other.until >= today));
  if (now && !now.until) return { kind: "open", date: null };
  if (now?.until) {
    const isFollowed = held.some((other) => other.from > now.from && (!other.until || other.until > now.until!));
    return { kind: !isFollowed && now.until <= addDays(today, warnDays) ? "soon" : "ends", date: now.until };
  }
  const coming = held.filter((other) => other.from > today).sort((a, b) => a.from.localeCompare(b.from))[0];
  if (coming) return { kind: "coming", date: coming.from };
  return { kind: held.length > 0 ? "ranOut" : "none", date: null };
}
