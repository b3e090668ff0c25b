import { t } from "@lingui/core/macro";
import type { DeskSetup } from "../../api/staff";
import { clock, dateIn, shortDate } from "../../shared/format";
import { marks } from "./BlockMark";

/** How a visit stood, as the history keeps it. */
export type Standing = {
  state?: string;
  start?: string;
  reason?: string;
  over?: string[];
  lines?: { practitioners?: string[] }[];
};

/** What was done to a visit, in words. */
export const done: Record<string, string> = {
  Booked: t`Booked`,
  Moved: t`Moved`,
  Changed: t`Changed`,
  State: t`Changed`,
  Cancelled: t`Cancelled`,
  Undone: t`Undone`,
  Unit: t`Another unit`,
  Deleted: t`Taken out`,
  "No clash any more": t`No clash any more`,
};

export const standingOf = (text: string | null): Standing => (text ? JSON.parse(text) : {});

/** How a visit stood, in a few words. */
export function saidOf(text: string | null, setup: DeskSetup, zone: string): string {
  const standing = standingOf(text);
  const first = standing.lines?.[0]?.practitioners?.[0];
  const who = setup.practitioners.find((practitioner) => practitioner.id === first)?.name;
  const state = standing.state
    ? ((standing.state[0]!.toLowerCase() + standing.state.slice(1)) as keyof typeof marks)
    : undefined;
  if (standing.start)
    return [`${shortDate(dateIn(standing.start, zone))}, ${clock(standing.start, zone)}`, who && t`with ${who}`]
      .filter(Boolean)
      .join(" ");
  return [state && marks[state]?.word, standing.reason].filter(Boolean).join(": ");
}
