import type { Day } from "../../../api/staff";
import { wallTime } from "../../../shared/format";
import { makeScale, type Scale } from "../scale";

/** Minutes after midnight of a wall time; midnight at the end of a day is its end. */
const minutesOf = (text: string, isEnd: boolean) => {
  const minutes = Number(text.slice(0, 2)) * 60 + Number(text.slice(3, 5));
  return isEnd && minutes === 0 ? 1440 : minutes;
};

/** The hours that several days show together, as minutes after midnight, and the scale of each of them. */
export function sharedHours(days: readonly Day[]): { first: number; last: number; scales: Scale[] } {
  const own = days.map((day) => ({
    from: minutesOf(wallTime(day.from, day.zone), false),
    until: minutesOf(wallTime(day.until, day.zone), true),
  }));
  const first = Math.min(...own.map(({ from }) => from)),
    last = Math.max(...own.map(({ until }) => until));
  const later = (instant: string, minutes: number) => new Date(Date.parse(instant) + minutes * 60_000).toISOString();
  return {
    first,
    last,
    scales: days.map((day, i) =>
      makeScale(later(day.from, first - own[i]!.from), later(day.until, last - own[i]!.until)),
    ),
  };
}
