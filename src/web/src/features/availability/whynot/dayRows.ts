import type { DayReasons, ReasonText } from "../../../api/setup";
import { minuteOf } from "../../../shared/fields/clockText";
import type { Stretch } from "../../../shared/ribbon/stretch";

export type Start = DayReasons["strip"][number];
export type Gate = ReasonText["gate"];

/** What is asked first, second, and so on. */
export const gatesInOrder: Gate[] = [
  "client",
  "service",
  "date",
  "openingHours",
  "startGrid",
  "practitioner",
  "roomAndEquipment",
  "gap",
];

/** A stretch of starts which the same thing keeps from being offered. */
export type Dark = Stretch & { code: ReasonText["code"]; text: string; clock: string };

/** One thing that limits the day: a gate, or one of several people. */
export type Row = { key: string; gate: Gate; subjectId: string | null; dark: Dark[] };

/** The starts of a day with their minute after its first midnight, which goes on over the next one. */
export function placed(strip: Start[]): (Start & Stretch)[] {
  const [first] = strip;
  if (!first) return [];
  const minutes = strip.map(
    (start) => minuteOf(`${first.clock}:00`) + (Date.parse(start.start) - Date.parse(first.start)) / 60_000,
  );
  const usual = Math.min(60, ...minutes.slice(1).map((minute, i) => minute - minutes[i]!));
  return strip.map((start, i) => ({
    ...start,
    from: minutes[i]!,
    until: Math.min(minutes[i + 1] ?? Infinity, minutes[i]! + usual),
  }));
}

// Each person is a row of their own; of rooms and equipment only whether one is left matters.
const rowOf = (reason: ReasonText) =>
  reason.gate === "practitioner" && reason.subjectId ? `practitioner ${reason.subjectId}` : reason.gate;

// One visit or break after another are told apart; of everything else only where it begins and ends matters.
const toldApart = new Set<ReasonText["code"]>(["practitionerTaken", "onBreak", "practitionerBlocked", "ownVisit"]);
const isSame = (dark: Dark, reason: ReasonText) =>
  dark.code === reason.code && (dark.text === reason.text || !toldApart.has(reason.code));

/** What limits the day, in deciding order, and where each keeps starts from being offered. */
export function rowsOf(strip: Start[]): Row[] {
  const rows = new Map<string, Row>();
  for (const start of placed(strip)) {
    const told = new Map<string, ReasonText>();
    for (const reason of start.reasons) if (!told.has(rowOf(reason))) told.set(rowOf(reason), reason);
    for (const [key, reason] of told) {
      let row = rows.get(key);
      if (!row)
        rows.set(
          key,
          (row = {
            key,
            gate: reason.gate,
            subjectId: key === reason.gate ? null : (reason.subjectId ?? null),
            dark: [],
          }),
        );
      const last = row.dark.at(-1);
      if (last && last.until === start.from && isSame(last, reason)) last.until = start.until;
      else
        row.dark.push({
          from: start.from,
          until: start.until,
          code: reason.code,
          text: reason.text,
          clock: start.clock,
        });
    }
  }
  return [...rows.values()].sort((a, b) => gatesInOrder.indexOf(a.gate) - gatesInOrder.indexOf(b.gate));
}

/** The offered starts, those next to each other as one stretch with its first and last. */
export function offeredOf(strip: Start[]): (Stretch & { first: string; last: string })[] {
  const found: (Stretch & { first: string; last: string })[] = [];
  for (const start of placed(strip).filter((other) => other.offered)) {
    const last = found.at(-1);
    if (last && last.until === start.from) {
      last.until = start.until;
      last.last = start.clock;
    } else found.push({ from: start.from, until: start.until, first: start.clock, last: start.clock });
  }
  return found;
}

/** The start nearest to a minute. */
export function nearestTo(strip: Start[], minute: number): Start | undefined {
  const all = placed(strip);
  return all.reduce<(Start & Stretch) | undefined>(
    (best, start) => (!best || Math.abs(start.from - minute) < Math.abs(best.from - minute) ? start : best),
    undefined,
  );
}
