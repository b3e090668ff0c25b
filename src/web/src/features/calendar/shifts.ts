import { shortTime } from "../../shared/format";
import type { Shift } from "../../api/setup";

/** A shift as people say it: "9–17:30". */
export const shiftWords = (shift: Pick<Shift, "from" | "until">) =>
  `${shortTime(shift.from)}–${shift.until.startsWith("00:00") ? "24" : shortTime(shift.until)}`;

export const usualShift = (locationId: string): Shift => ({
  locationId,
  from: "09:00:00",
  until: "17:00:00",
  breaks: [],
});
