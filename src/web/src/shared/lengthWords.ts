import { unitWords as unit } from "./format";

/** Minutes as people say them: "45 minutes", "2 hours", "1 hour 30 minutes", "1 day". */
export function lengthWords(minutes: number): string {
  if (minutes > 0 && minutes % 1440 === 0) return unit(minutes / 1440, "day");
  if (minutes < 60) return unit(minutes, "minute");
  const rest = minutes % 60;
  return rest === 0 ? unit(minutes / 60, "hour") : `${unit((minutes - rest) / 60, "hour")} ${unit(rest, "minute")}`;
}

/** Hours as people say them, whole days as days from two on: "24 hours", "2 days". */
export const hoursWordsOf = (hours: number) =>
  hours >= 48 && hours % 24 === 0 ? unit(hours / 24, "day") : unit(hours, "hour");

/** "90 days". */
export const daysWordsOf = (days: number) => unit(days, "day");
