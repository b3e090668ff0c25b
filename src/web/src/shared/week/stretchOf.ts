import { endMinuteOf, minuteOf } from "../fields/clockText";
import type { Stretch } from "../ribbon/stretch";

/** When something with a beginning and an end is, in minutes after midnight of its day; over midnight it goes on above 1440. */
export const stretchOf = (times: { from: string; until: string }): Stretch => ({
  from: minuteOf(times.from),
  until: endMinuteOf(times.from, times.until),
});
