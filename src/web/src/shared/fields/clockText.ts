/** Wall times as the server writes them ("08:15:00") and as people type and read them. */

const minutesOfDay = 24 * 60;

/**
 * Reads a time as people type it: "815", "8:15", "8.15", "8", "20h30", "8 pm"; midnight at the end of a day is "24". Null when
 * it is none.
 */
export function readTime(text: string): string | null {
  const match = /^(\d{1,2})(?:\s?[:.h ]?\s?(\d{2}))?\s*(am|pm|h)?$/i.exec(text.trim());
  if (!match) return null;
  const half = match[3]?.toLowerCase();
  const typed = Number(match[1]);
  const minute = Number(match[2] ?? 0);
  const isHalf = half === "am" || half === "pm";
  if (minute > 59 || (isHalf ? typed < 1 || typed > 12 : typed > 24) || (typed === 24 && minute > 0)) return null;
  const hour = isHalf ? (typed % 12) + (half === "pm" ? 12 : 0) : typed % 24;
  return timeAt(hour * 60 + minute);
}

/** The wall time so many minutes after midnight, around the clock. */
export function timeAt(minutes: number): string {
  const on = ((minutes % minutesOfDay) + minutesOfDay) % minutesOfDay;
  return `${String(Math.floor(on / 60)).padStart(2, "0")}:${String(on % 60).padStart(2, "0")}:00`;
}

/** Minutes after midnight. */
export const minuteOf = (time: string) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3, 5));

/** Minutes after midnight of an end: midnight, and what lies before the beginning, is the next day's. */
export const endMinuteOf = (from: string, until: string) =>
  minuteOf(until) <= minuteOf(from) ? minuteOf(until) + minutesOfDay : minuteOf(until);

/** Reads a length as people type it: "90", "1:30", "1 h 30", "1h", "90 min". Null when it is none. */
export function readMinutes(text: string): number | null {
  const plain = text.trim().toLowerCase();
  const hours = /^(\d{1,3})\s*(?:h|:)\s*(?:(\d{1,2})\s*(?:m|min)?)?$/.exec(plain);
  if (hours) return Number(hours[2] ?? 0) > 59 ? null : Number(hours[1]) * 60 + Number(hours[2] ?? 0);
  const minutes = /^(\d{1,5})\s*(?:m|min|minutes?)?$/.exec(plain);
  return minutes ? Number(minutes[1]) : null;
}
