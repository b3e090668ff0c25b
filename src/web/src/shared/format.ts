/** Dates, times and money as people of the business read them; every instant is shown on the location's clock. */

/** The business's locale. */
export const locale = () => globalThis.document?.documentElement.lang || "en-IE";

// Making a formatter takes a hundred times as long as using it, so each is made once.
const kept = new Map<string, unknown>();
const keptOnce = <T>(key: string, make: () => T) => {
  let found = kept.get(key) as T | undefined;
  if (found === undefined) kept.set(key, (found = make()));
  return found;
};

const dates = (language: string, options: Intl.DateTimeFormatOptions) =>
  keptOnce(language + JSON.stringify(options), () => new Intl.DateTimeFormat(language, options));

const currencies = (currency: string) =>
  keptOnce(`${locale()} ${currency}`, () => {
    const format = new Intl.NumberFormat(locale(), { style: "currency", currency });
    return { format, decimals: format.resolvedOptions().maximumFractionDigits ?? 2 };
  });

/** How many digits a currency has behind the point. */
export const decimalsOf = (currency: string) => currencies(currency).decimals;

/** What the clock of a zone shows, as programs write it: "09:15". */
export const wallTime = (instant: string, zone: string) =>
  dates("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: zone }).format(new Date(instant));

/** A time of the wall clock, written "09:15" or "09:15:00" by programs, as people read it: "09:15", "9:15 AM". */
export const timeWords = (time: string) =>
  dates(locale(), { timeStyle: "short", timeZone: "UTC" }).format(
    Date.UTC(2000, 0, 1, Number(time.slice(0, 2)), Number(time.slice(3, 5))),
  );

/** As short as it can be where there is little room: "9", "9:30", "9:30 AM". */
export const shortTime = (time: string) => timeWords(time).replace(/^0?(\d{1,2})(?::00)?(:\d\d)?$/, "$1$2");

/** "10:15" or "10:15 AM": what the clock of a zone shows. */
export const clock = (instant: string, zone: string) =>
  dates(locale(), { timeStyle: "short", timeZone: zone }).format(new Date(instant));

/** "10:15–11:00". */
export const clockRange = (from: string, until: string, zone: string) => `${clock(from, zone)}–${clock(until, zone)}`;

/** "84.00 €" in the way of the locale; whole amounts without decimals are not shortened, so columns line up. */
export const money = (value: { amount: number | string; currency: string }) => {
  const { format, decimals } = currencies(value.currency);
  return format.format(Number(value.amount) / 10 ** decimals);
};

const dayOf = (date: string) => new Date(`${date}T12:00:00Z`);
const dateFormat = (options: Intl.DateTimeFormatOptions) => dates(locale(), { ...options, timeZone: "UTC" });

/** "Tuesday 24 November". */
export const longDate = (date: string) =>
  dateFormat({ weekday: "long", day: "numeric", month: "long" }).format(dayOf(date)).replace(",", "");

/** "Tue 24 Nov". */
export const shortDate = (date: string) =>
  dateFormat({ weekday: "short", day: "numeric", month: "short" }).format(dayOf(date)).replace(",", "");

/** A date among others of its month: "4 Feb". */
export const dayAndMonth = (date: string) => dateFormat({ day: "numeric", month: "short" }).format(dayOf(date));
/** A date in a table: "4 Feb 2027". */
export const plainDate = (date: string) =>
  dateFormat({ day: "numeric", month: "short", year: "numeric" }).format(dayOf(date));
/** "Tue 24 Nov 2027". */
export const shortDateWithYear = (date: string) =>
  dateFormat({ weekday: "short", day: "numeric", month: "short", year: "numeric" })
    .format(dayOf(date))
    .replace(",", "");

/** "November", and of another year "January 2028". */
export const monthName = (date: string) =>
  dateFormat({
    month: "long",
    ...(date.slice(0, 4) === new Date().toISOString().slice(0, 4) ? {} : { year: "numeric" }),
  }).format(dayOf(date));

/** "Tue". */
export const weekday = (date: string) => dateFormat({ weekday: "short" }).format(dayOf(date));

/** "Tue 24", where the month is known. */
export const dayOfMonth = (date: string) =>
  dateFormat({ weekday: "short", day: "numeric" }).format(dayOf(date)).replace(",", "");

/** A date some days later. */
export const addDays = (date: string, days: number) => {
  const day = dayOf(date);
  day.setUTCDate(day.getUTCDate() + days);
  return day.toISOString().slice(0, 10);
};

/** The Monday of a date's week. */
export const mondayOf = (date: string) => addDays(date, -((dayOf(date).getUTCDay() + 6) % 7));

/** "23 Nov, 14:05" on the clock of a zone. */
export const moment = (instant: string, zone: string) =>
  dates(locale(), {
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
    timeZone: zone,
  }).format(new Date(instant));

/** The local date of an instant in a zone. */
export const dateIn = (instant: string, zone: string) =>
  dates("en-CA", { year: "numeric", month: "2-digit", day: "2-digit", timeZone: zone }).format(new Date(instant));

/** "1 hour", "2 hours". */
export const unitWords = (count: number, unit: "minute" | "hour" | "day") =>
  keptOnce(
    `${locale()} ${unit}`,
    () => new Intl.NumberFormat(locale(), { style: "unit", unit, unitDisplay: "long" }),
  ).format(count);

/** "12,500". */
export const number = (value: number) =>
  keptOnce(`${locale()} number`, () => new Intl.NumberFormat(locale())).format(value);

/** "Massage, Skin and Laser". */
export const andWords = (words: readonly string[]) =>
  keptOnce(`${locale()} and`, () => new Intl.ListFormat(locale(), { type: "conjunction" })).format(
    words.filter(Boolean),
  );
