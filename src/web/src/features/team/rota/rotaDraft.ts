import { t } from "@lingui/core/macro";
import type { Rota, Shift, Weekday } from "../../../api/setup";
import { endMinuteOf, minuteOf, timeAt } from "../../../shared/fields/clockText";
import { stretchOf } from "../../../shared/week/stretchOf";
import type { Stretch } from "../../../shared/ribbon/stretch";

/** The shifts of a rota while it is being drawn. */
export type RotaShift = NonNullable<Rota["shifts"]>[number];

/** When a break of a shift is; after midnight for a shift that runs over it. */
export const breakOf = (shift: Shift, rest: { from: string; until: string }): Stretch => {
  const whole = stretchOf(shift);
  const from = minuteOf(rest.from) < whole.from ? minuteOf(rest.from) + 1440 : minuteOf(rest.from);
  return { from, until: from + (endMinuteOf(rest.from, rest.until) - minuteOf(rest.from)) };
};

/** The shift at another time; its breaks go with it as far as they still lie in it. */
export function movedTo(shift: Shift, to: Stretch): Shift {
  const before = stretchOf(shift);
  const isMove = to.until - to.from === before.until - before.from;
  const by = isMove ? to.from - before.from : 0;
  const breaks = (shift.breaks ?? [])
    .map((rest) => ({ rest, at: breakOf(shift, rest) }))
    .map(({ rest, at }) => ({ rest, from: at.from + by, until: at.until + by }))
    .filter(({ from, until }) => from >= to.from && until <= to.until)
    .map(({ rest, from, until }) => ({ ...rest, from: timeAt(from), until: timeAt(until) }));
  return { ...shift, from: timeAt(to.from), until: timeAt(to.until), breaks };
}

/** Minutes worked in a shift, its breaks taken out. */
export const minutesOf = (shift: Shift) => {
  const length = (stretch: Stretch) => stretch.until - stretch.from;
  return length(stretchOf(shift)) - (shift.breaks ?? []).reduce((sum, rest) => sum + length(breakOf(shift, rest)), 0);
};

/** What a day holds, with the place of each in the rota. */
export const dayOf = (shifts: RotaShift[], week: number, weekday: Weekday) =>
  shifts
    .map((item, index) => ({ ...item, index }))
    .filter((item) => item.week === week && item.weekday === weekday)
    .sort((a, b) => a.shift.from.localeCompare(b.shift.from));

/** The rota with a day made like another, for each of some days. */
export function likeDay(shifts: RotaShift[], week: number, model: Weekday, to: Weekday[]): RotaShift[] {
  const own = dayOf(shifts, week, model);
  const others = to.filter((day) => day !== model);
  return [
    ...shifts.filter((item) => item.week !== week || !others.includes(item.weekday)),
    ...others.flatMap((weekday) => own.map(({ shift }) => ({ week, weekday, shift }))),
  ];
}

/** The rota with a week made like another. */
export const likeWeek = (shifts: RotaShift[], week: number, model: number): RotaShift[] => [
  ...shifts.filter((item) => item.week !== week),
  ...shifts.filter((item) => item.week === model).map((item) => ({ ...item, week })),
];

/** The rota over fewer or more weeks; those that come new are like the last. */
export function overWeeks(rota: Rota, weeks: number): Rota {
  let shifts = (rota.shifts ?? []).filter((item) => item.week < weeks);
  for (let week = rota.weeks; week < weeks; week++) shifts = likeWeek(shifts, week, rota.weeks - 1);
  return { ...rota, weeks, shifts };
}

/** A length as people say it: "8 h 30", "8 h", "45 min". */
export const hoursWords = (minutes: number) => {
  const [hours, rest] = [Math.floor(minutes / 60), minutes % 60];
  return hours === 0 ? t`${rest} min` : rest === 0 ? `${hours} h` : `${hours} h ${rest}`;
};
