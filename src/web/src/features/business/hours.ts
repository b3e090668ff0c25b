import type { Location, Weekday } from "../../api/setup";

/** Opening hours of a weekday. */
export type Hours = NonNullable<Location["opening"]>[number];

/** The hours of a day, in order, with the place of each in the list. */
export const hoursOn = (all: Hours[], weekday: Weekday) =>
  all
    .map((hours, index) => ({ ...hours, index }))
    .filter((hours) => hours.weekday === weekday)
    .sort((a, b) => a.from.localeCompare(b.from));

/** The hours with some days made like another. */
export function hoursLike(all: Hours[], model: Weekday, to: Weekday[]): Hours[] {
  const others = to.filter((day) => day !== model);
  return [
    ...all.filter((hours) => !others.includes(hours.weekday)),
    ...others.flatMap((weekday) => hoursOn(all, model).map(({ from, until }) => ({ weekday, from, until }))),
  ];
}
