/** Dates as the server writes them ("2027-09-14") and as people type and read them. */

const iso = (year: number, month: number, day: number): string | null => {
  const date = new Date(Date.UTC(year, month - 1, day));
  const isReal = date.getUTCMonth() === month - 1 && date.getUTCDate() === day && year >= 1900 && year <= 2200;
  return isReal ? date.toISOString().slice(0, 10) : null;
};

const plain = (word: string) =>
  word
    .toLocaleLowerCase()
    .normalize("NFD")
    .replace(/[\u0300-\u036f.]/g, "");

const namesOf = (locale: string, count: number, options: Intl.DateTimeFormatOptions, at: (i: number) => Date) => {
  const format = new Intl.DateTimeFormat(locale, { ...options, timeZone: "UTC" });
  return Array.from({ length: count }, (_, i) => plain(format.format(at(i))));
};

/** The place of the name that a word begins; -1 for none or more than one. */
const placeOf = (names: string[], word: string) => {
  const found = names.flatMap((name, i) => (name.startsWith(plain(word)) ? [i] : []));
  return word.length >= 2 && found.length === 1 ? found[0]! : -1;
};

/** Whether the locale writes the month before the day. */
const monthFirst = (locale: string) => {
  const parts = new Intl.DateTimeFormat(locale, { day: "numeric", month: "numeric" }).formatToParts(new Date(0));
  return parts.findIndex((part) => part.type === "month") < parts.findIndex((part) => part.type === "day");
};

/** Without a year it is the one in which the date lies nearest ahead, or not long ago. */
const nearest = (month: number, day: number, today: string): string | null => {
  const year = Number(today.slice(0, 4));
  const halfYearAgo = new Date(Date.parse(today) - 182 * 86_400_000).toISOString().slice(0, 10);
  const here = iso(year, month, day);
  return here !== null && here >= halfYearAgo ? here : (iso(year + 1, month, day) ?? here);
};

/**
 * Reads a date as people type it: "14.9.", "14/9/27", "14 Sep", "Sep 14 2027", "Tue", "14", "2027-09-14". Null when it is none.
 * A weekday is the next one from today on; a day alone is that of this month, or of the next when it has passed.
 */
export function readDate(text: string, today: string, locale: string): string | null {
  const typed = text.trim();
  const whole = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(typed);
  if (whole) return iso(Number(whole[1]), Number(whole[2]), Number(whole[3]));
  const yearOf = (year: string) => (year.length === 2 ? 2000 + Number(year) : Number(year));
  const numbers = /^(\d{1,2})[./\s-]+(\d{1,2})(?:[./\s-]+(\d{2}|\d{4}))?[.]?$/.exec(typed);
  if (numbers) {
    const [first, second] = [Number(numbers[1]), Number(numbers[2])];
    const [day, month] = monthFirst(locale) ? [second, first] : [first, second];
    return numbers[3] ? iso(yearOf(numbers[3]), month, day) : nearest(month, day, today);
  }
  const [year, month] = [Number(today.slice(0, 4)), Number(today.slice(5, 7))];
  if (/^\d{1,2}[.]?$/.test(typed)) {
    const day = parseInt(typed, 10);
    const here = iso(year, month, day);
    return here !== null && here >= today ? here : iso(month === 12 ? year + 1 : year, (month % 12) + 1, day);
  }
  // 3 January 2000 was a Monday.
  const days = namesOf(locale, 7, { weekday: "long" }, (i) => new Date(Date.UTC(2000, 0, 3 + i)));
  const months = namesOf(locale, 12, { month: "long" }, (i) => new Date(Date.UTC(2000, i, 1)));
  // "Tue 24 Nov": the weekday says nothing that the date does not.
  const weekday = /^(\p{L}+)[.,\s]+(?=\d)(.+)$/u.exec(typed);
  if (weekday && placeOf(days, weekday[1]!) >= 0 && placeOf(months, weekday[1]!) < 0)
    return readDate(weekday[2]!, today, locale);
  const named = /^(?:(\d{1,2})[.\s]*(\p{L}+)|(\p{L}+)[.\s]*(\d{1,2}))[.,\s]*(\d{4})?$/u.exec(typed);
  if (named) {
    const place = placeOf(months, named[2] ?? named[3] ?? "");
    const day = Number(named[1] ?? named[4]);
    if (place < 0) return null;
    return named[5] ? iso(Number(named[5]), place + 1, day) : nearest(place + 1, day, today);
  }
  const place = /^\p{L}+$/u.test(typed) ? placeOf(days, typed) : -1;
  if (place < 0) return null;
  const from = new Date(`${today}T12:00:00Z`);
  from.setUTCDate(from.getUTCDate() + ((place - ((from.getUTCDay() + 6) % 7) + 7) % 7));
  return from.toISOString().slice(0, 10);
}
