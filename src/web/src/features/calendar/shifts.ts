import type { Shift } from "../../api/setup";

/** A time as short as it can be: "9", "9:30". */
const short = (time: string) => time.slice(0, 5).replace(/^0/, "").replace(/:00$/, "");

/** A shift as people say it: "9–17:30". */
export const shiftWords = (shift: Pick<Shift, "from" | "until">) =>
  `${short(shift.from)}–${shift.until.startsWith("00:00") ? "24" : short(shift.until)}`;

export const usualShift = (locationId: string): Shift => ({
  locationId,
  from: "09:00:00",
  until: "17:00:00",
  breaks: [],
});
