import { Temporal } from "temporal-polyfill";
import type { Start } from "../../api/staff";

/** A start as it is chosen; with what was read before, where it fits only over something, and the room whose lane it was. */
export type Chosen = Start & { accept?: string; room?: { id: string; line: number } };

/** The header that says what was read. */
export const acceptHeader = (start: Pick<Chosen, "accept"> | null): Record<string, string> =>
  start?.accept ? { "X-Accept-Over": start.accept } : {};

/** The instant of a wall time, by the rule of the house: forward over a gap, the earlier of two. */
export const instantOf = (date: string, time: string, zone: string) =>
  Temporal.PlainDateTime.from(`${date}T${time}`).toZonedDateTime(zone).toInstant().toString();
