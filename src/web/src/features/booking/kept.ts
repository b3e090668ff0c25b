import type { Day } from "../../api/staff";

/**
 * How many milliseconds after a day was answered the first time that is kept in it is free again, and worth asking for: nobody tells of
 * what merely runs out. False where nothing is kept.
 */
export function untilFree(day: Day | undefined): number | false {
  const ends = (day?.lanes ?? []).flatMap((lane) => lane.kept.map((kept) => Date.parse(kept.runsOut)));
  return day && ends.length > 0 ? Math.max(1000, Math.min(...ends) - Date.parse(day.now) + 500) : false;
}
