import { t } from "@lingui/core/macro";
import type { ExtraShifts, Shift, Weekday } from "../../../api/setup";
import type { DeskSetup } from "../../../api/staff";
import { addDays, andWords, mondayOf, shortDateWithYear } from "../../../shared/format";
import { stretchWords } from "../../../shared/ribbon/scale";
import { dayNames, weekdaysInOrder } from "../../../shared/week/dayNames";
import { stretchOf } from "../../../shared/week/stretchOf";

/** Extra shifts as they are being written. */
export type ExtraDraft = ExtraShifts & { weekdays: Weekday[]; shift: Shift; practitionerIds: string[] };

const workdays = weekdaysInOrder.slice(0, 5);

/** What is proposed: the workdays of next week, nine to five, nobody yet. */
export const freshExtra = (today: string, locationId: string): ExtraDraft => {
  const monday = addDays(mondayOf(today), 7);
  return {
    from: monday,
    until: addDays(monday, 4),
    weekdays: [],
    shift: { locationId, from: "09:00:00", until: "17:00:00", breaks: [], serviceIds: [], categoryIds: [] },
    practitionerIds: [],
    instead: false,
    reason: null,
  };
};

/** "every day", "Monday to Friday", "Mon and Wed". */
export const weekdaysWords = (weekdays: readonly Weekday[]) => {
  const inOrder = weekdaysInOrder.filter((day) => weekdays.includes(day));
  if (inOrder.length === 0 || inOrder.length === 7) return t`every day`;
  if (inOrder.join() === workdays.join()) return t`${dayNames("monday").long} to ${dayNames("friday").long}`;
  return andWords(inOrder.map((day) => (inOrder.length === 1 ? dayNames(day).long : dayNames(day).short)));
};

/** "22 Mar to 26 Mar 2027". */
export const datesWords = (from: string, until: string) =>
  from === until ? shortDateWithYear(from) : t`${shortDateWithYear(from)} to ${shortDateWithYear(until)}`;

/** Names of people, as they stand in the house. */
export const peopleWords = (ids: readonly string[], { practitioners }: Pick<DeskSetup, "practitioners">) =>
  andWords(practitioners.filter((person) => ids.includes(person.id)).map((person) => person.name));

/** What was asked, as one line: "Mon 22 Mar to Fri 26 Mar 2027, every day, 09:00–15:00". */
export const extraWords = (extra: ExtraShifts) =>
  [
    datesWords(extra.from, extra.until),
    weekdaysWords(extra.weekdays ?? []),
    extra.shift ? stretchWords(stretchOf(extra.shift)) : "",
  ].join(", ");
