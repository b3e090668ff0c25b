import { t } from "@lingui/core/macro";
import type { components } from "../../../api/generated/schema";
import type { Weekday } from "../../../api/setup";
import { currencyOf } from "../../../shared/fields/named";
import { andWords, decimalsOf, timeWords } from "../../../shared/format";
import { dayNames, weekdaysInOrder } from "../../../shared/week/dayNames";
import type { Hours } from "../hours";

type Schemas = components["schemas"];
export type Trade = Schemas["Trade"];
export type Beginning = Schemas["BeginningAnswer"];
export type Begin = Schemas["BeginRequest"];
export type BeginPerson = NonNullable<Begin["people"]>[number];
export type BeginRoom = NonNullable<Begin["rooms"]>[number];
export type BeginService = NonNullable<Begin["services"]>[number];
export type Begun = Schemas["BegunAnswer"];

/** A business as it is being described; no trade yet is the first question. */
export type BeginDraft = { trade: Trade | null; begin: Begin };

export const trades: [Trade, string, string][] = [
  ["hair", t`Hair`, t`cuts and colour, at chairs`],
  ["nails", t`Nails and feet`, t`manicure, pedicure`],
  ["skin", t`Skin`, t`facials, brows, waxing`],
  ["massage", t`Massage and wellness`, t`treatments on a couch`],
  ["therapy", t`Therapy`, t`physiotherapy and the like`],
  ["clinic", t`Clinic`, t`treatments that need a licence, such as laser`],
];

/** The country this computer is set to. */
export const countryHere = () => new Intl.Locale(globalThis.navigator?.language || "en-IE").region ?? "IE";

/** A business of a trade as it usually is, run by somebody, here. */
export function begun(beginning: Beginning, owner: string, country = countryHere()): Begin {
  const currency = currencyOf(country) ?? "EUR";
  return {
    name: "",
    place: "",
    address: "",
    zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    region: country,
    currency,
    locale: `en-${country}`,
    taxBasisPoints: null,
    opening: beginning.opening,
    qualifications: beginning.qualifications,
    people: [{ name: owner, weekdays: [], holds: beginning.qualifications }],
    rooms: beginning.rooms,
    services: beginning.services.map((service) => ({ ...service, price: service.price * 10 ** decimalsOf(currency) })),
    online: { leadMinutes: 120, newLeadMinutes: 1440, horizonDays: 90, cancelNoticeHours: 24 },
  };
}

/** Runs of days that follow each other: "Tuesday to Friday", "Monday and Tuesday". */
export function daysWords(days: readonly Weekday[]): string {
  const places = days.map((day) => weekdaysInOrder.indexOf(day)).sort((a, b) => a - b);
  const runs: number[][] = [];
  for (const place of places) {
    const last = runs.at(-1);
    if (last?.at(-1) === place - 1) last.push(place);
    else runs.push([place]);
  }
  const name = (place: number) => dayNames(weekdaysInOrder[place]!).long;
  return andWords(
    runs.flatMap((run) => (run.length > 2 ? [t`${name(run[0]!)} to ${name(run.at(-1)!)}`] : run.map(name))),
  );
}

/** Opening hours as they are said: "Tuesday to Friday 10:00 to 19:00 and Saturday 09:00 to 17:00". */
export function hoursWords(hours: readonly Hours[]): string {
  const groups = new Map<string, Weekday[]>();
  for (const day of weekdaysInOrder) {
    const own = hours
      .filter((item) => item.weekday === day)
      .sort((a, b) => a.from.localeCompare(b.from))
      .map(({ from, until }) => t`${timeWords(from)} to ${timeWords(until)}`);
    if (own.length > 0) groups.set(andWords(own), [...(groups.get(andWords(own)) ?? []), day]);
  }
  return groups.size === 0 ? t`never` : andWords([...groups].map(([times, days]) => `${daysWords(days)} ${times}`));
}

/** The services that name something, so that it can be seen what goes with it. */
export const servicesWith = (begin: Begin, part: "feature" | "qualification", name: string) =>
  (begin.services ?? []).filter((service) => service[part] === name);

/** Something's entry in a list changed, added or taken out. */
export const replaced = <T>(all: readonly T[] | null, index: number, item: T | null): T[] =>
  item === null
    ? (all ?? []).filter((_, i) => i !== index)
    : index >= (all ?? []).length
      ? [...(all ?? []), item]
      : all!.map((other, i) => (i === index ? item : other));

/** A qualification under another name, or none: everybody who holds it and all that needs it follow. */
export function withQualification(begin: Begin, before: string, after: string | null): Begin {
  const swap = (names: readonly string[] | null) =>
    (names ?? []).flatMap((name) => (name !== before ? [name] : after === null ? [] : [after]));
  return {
    ...begin,
    qualifications: swap(begin.qualifications),
    people: (begin.people ?? []).map((person) => ({ ...person, holds: swap(person.holds) })),
    services: (begin.services ?? []).map((service) =>
      service.qualification === before ? { ...service, qualification: after } : service,
    ),
  };
}
