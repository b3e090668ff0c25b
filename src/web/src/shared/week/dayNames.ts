import type { Weekday } from "../../api/setup";
import { locale } from "../format";

/** The days of a week, Monday first. */
export const weekdaysInOrder: Weekday[] = [
  "monday",
  "tuesday",
  "wednesday",
  "thursday",
  "friday",
  "saturday",
  "sunday",
];

/** A weekday as the place writes it: "Mon" and "Monday". */
export function dayNames(weekday: Weekday): { short: string; long: string } {
  // 3 January 2000 was a Monday.
  const day = new Date(Date.UTC(2000, 0, 3 + weekdaysInOrder.indexOf(weekday)));
  const write = (width: "short" | "long") =>
    new Intl.DateTimeFormat(locale(), { weekday: width, timeZone: "UTC" }).format(day);
  return { short: write("short"), long: write("long") };
}
