import { shortTime } from "../../shared/format";
import type { Shift } from "../../api/setup";

/** A shift as people say it: "9–17:30". */
export const shiftWords = (shift: Pick<Shift, "from" | "until">) =>
  `${shortTime(shift.from)}–${shift.until.startsWith("00:00") ? "24" : shortTime(shift.until)}`;

/**
 * The shifts of a day after one of their edges was pulled from one time of the wall clock to another: a beginning, an end, or
 * that of a break. The same shifts where no edge lies there, or where nothing would be left between its two ends.
 */
export function shiftsPulled(shifts: Shift[], edge: "from" | "until", was: string, to: string): Shift[] {
  const before = (a: string, b: string) => a < (b.startsWith("00:00") ? "24" : b);
  const pulled = <T extends { from: string; until: string }>(one: T, side: "from" | "until"): T | null => {
    if (one[side].slice(0, 5) !== was.slice(0, 5)) return null;
    const next = { ...one, [side]: to };
    return before(next.from, next.until) ? next : null;
  };
  // Where working time ends a break may begin.
  const other = edge === "from" ? "until" : "from";
  const at = shifts.findIndex((shift) => pulled(shift, edge) ?? shift.breaks?.some((pause) => pulled(pause, other)));
  const shift = shifts[at];
  if (!shift) return shifts;
  const next = pulled(shift, edge) ?? {
    ...shift,
    breaks: (shift.breaks ?? []).map((pause) => pulled(pause, other) ?? pause),
  };
  return shifts.with(at, next);
}

export const usualShift = (locationId: string): Shift => ({
  locationId,
  from: "09:00:00",
  until: "17:00:00",
  breaks: [],
});
