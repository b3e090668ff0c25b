import { later } from "./lights";

/** The least length of anything, and the step lengths go in, in minutes. */
export const least = 5;

export const minutesFrom = (from: string, until: string) => Math.round((Date.parse(until) - Date.parse(from)) / 60_000);

/**
 * The stretch a stroke went over, in either direction and never without length. What is held at its beginning never begins
 * elsewhere.
 */
export function stretchBetween(begun: string, there: string, isHeld: boolean): { from: string; until: string } {
  const minutes = minutesFrom(begun, there);
  if (minutes >= least) return { from: begun, until: there };
  return isHeld || minutes > -least ? { from: begun, until: later(begun, least) } : { from: there, until: begun };
}
