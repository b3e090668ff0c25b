import { t } from "@lingui/core/macro";
import type { Day } from "../../../api/public";

type Part = Day["starts"][number]["part"];
export type PartOfDay = "any" | Part;
export const partsOfDay: [Part, string][] = [
  ["morning", t`Morning`],
  ["afternoon", t`Afternoon`],
  ["evening", t`Evening`],
];

/** "09:30" as minutes after midnight; "24:00" is the end of the day. */
export const minutes = (text: string) => Number(text.slice(0, 2)) * 60 + Number(text.slice(3, 5));

/** What a client looks for: a part of the day, and days of the week. */
export type Filter = { part: PartOfDay; days: "any" | "week" | "weekend" };

/** The days with only the starts that are looked for. */
export const filtered = (days: readonly Day[], { part, days: which }: Filter): Day[] =>
  days.map((day) => {
    const fits = which === "any" || (which === "weekend") === day.isWeekend;
    return { ...day, starts: fits ? day.starts.filter((start) => part === "any" || start.part === part) : [] };
  });

/** A day's starts by part of the day; those the business would rather keep come last. */
export const byPart = (day: Day) =>
  partsOfDay
    .map(([part, name]) => ({
      name,
      starts: day.starts.filter((start) => start.part === part).sort((a, b) => Number(a.last) - Number(b.last)),
    }))
    .filter(({ starts }) => starts.length > 0);

/** How much of a day is left, in words: where it is one part of the day only, which. */
export function leftWords(day: Day, isFiltered: boolean): string {
  if (day.starts.length === 0)
    return day.left === "closed"
      ? day.closed
        ? t`closed: ${day.closed}`
        : t`closed`
      : isFiltered && day.left !== "full"
        ? t`nothing then`
        : t`nothing free`;
  const parts = byPart(day);
  const where = parts.length === 1 ? t`, in the ${parts[0]!.name.toLowerCase()}` : "";
  if (day.left === "plenty" && !isFiltered) return t`plenty${where}`;
  return t`${day.starts.length === 1 ? "one" : day.starts.length} left${where}`;
}

/** Starts that follow each other without a gap, as pieces of the opening hours from 0 to 1. */
export function freeStretches(day: Day, every = 15): { from: number; length: number }[] {
  const opens = minutes(day.opens ?? "00:00");
  const length = Math.max(1, minutes(day.closes ?? "24:00") - opens);
  const found: { from: number; until: number }[] = [];
  for (const at of day.starts.map((start) => minutes(start.clock)).sort((a, b) => a - b)) {
    const last = found.at(-1);
    if (last && at <= last.until + every) last.until = Math.max(last.until, at + every);
    else found.push({ from: at, until: at + every });
  }
  return found.map(({ from, until }) => ({ from: (from - opens) / length, length: (until - from) / length }));
}

/** Days without a time that follow each other become one row, so that the first free times are seen at once. */
export function inRuns(days: readonly Day[]): Day[][] {
  const runs: Day[][] = [];
  for (const day of days) {
    const before = runs.at(-1);
    if (day.starts.length === 0 && before?.at(-1)?.starts.length === 0) before.push(day);
    else runs.push([day]);
  }
  return runs;
}

/** The first of the months that can be jumped to: this one and those after it, as dates. */
export const monthsFrom = (today: string, count = 6): string[] =>
  Array.from({ length: count }, (_, i) => {
    const month = new Date(`${today.slice(0, 7)}-01T12:00:00Z`);
    month.setUTCMonth(month.getUTCMonth() + i);
    return month.toISOString().slice(0, 10);
  });
