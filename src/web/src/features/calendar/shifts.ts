import type { Rota, Shift, Weekday } from "../../api/setup";
import { addDays, mondayOf } from "../../shared/format";

/** A time as short as it can be: "9", "9:30". */
const short = (time: string) => time.slice(0, 5).replace(/^0/, "").replace(/:00$/, "");

/** A shift as people say it: "9–17:30". */
export const shiftWords = (shift: Pick<Shift, "from" | "until">) =>
  `${short(shift.from)}–${shift.until.startsWith("00:00") ? "24" : short(shift.until)}`;

/** What a day of a rota holds, in order. */
export const shiftsOn = (rota: Rota, week: number, weekday: Weekday) =>
  (rota.shifts ?? [])
    .map((shift, index) => ({ ...shift, index }))
    .filter((item) => item.week === week && item.weekday === weekday);

/** The Monday of the week that is the n-th of the cycle and holds now or next. */
export const mondayOfWeek = (rota: Rota, week: number, today: string) => {
  const first = mondayOf(rota.from);
  let monday = mondayOf(today);
  for (let i = 0; i < rota.weeks; i++) {
    const weeks = Math.round((Date.parse(monday) - Date.parse(first)) / 604_800_000);
    if (((weeks % rota.weeks) + rota.weeks) % rota.weeks === week) return monday;
    monday = addDays(monday, 7);
  }
  return monday;
};

export const usualShift = (locationId: string): Shift => ({
  locationId,
  from: "09:00:00",
  until: "17:00:00",
  breaks: [],
});
