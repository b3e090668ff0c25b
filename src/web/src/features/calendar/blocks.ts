import { t } from "@lingui/core/macro";
import { type Block } from "../../api/setup";
import { longDate, shortDate, timeWords } from "../../shared/format";

export const ruleDay = {
  monday: "MO",
  tuesday: "TU",
  wednesday: "WE",
  thursday: "TH",
  friday: "FR",
  saturday: "SA",
  sunday: "SU",
} as const;
export type Day = keyof typeof ruleDay;
export const daysOf = (rule: string) =>
  (/BYDAY=([A-Z,]+)/.exec(rule)?.[1] ?? "")
    .split(",")
    .flatMap((code) => (Object.keys(ruleDay) as Day[]).filter((day) => ruleDay[day] === code));

/** How a block reads in a list. */
export function blockWords(block: Block) {
  if (block.repeat) {
    const { rule, first, from, until } = block.repeat;
    const interval = Number(/INTERVAL=(\d+)/.exec(rule ?? "")?.[1] ?? 1);
    const ends = /UNTIL=(\d{4})(\d{2})(\d{2})/.exec(rule ?? "");
    const days = daysOf(rule ?? "").map((day) => day[0]!.toUpperCase() + day.slice(1, 3));
    const often = rule?.startsWith("FREQ=DAILY")
      ? t`every day`
      : interval > 1
        ? t`every ${interval} weeks`
        : t`every week`;
    const when = `${timeWords(from)}–${timeWords(until)}`;
    const on = days.length > 0 ? t`${often} on ${days.join(", ")}` : often;
    return ends
      ? t`${when} ${on} from ${shortDate(first)} to ${shortDate(`${ends[1]}-${ends[2]}-${ends[3]}`)}`
      : t`${when} ${on} from ${shortDate(first)}`;
  }
  const [fromDay, fromTime] = (block.start ?? "").split("T"),
    [untilDay, untilTime] = (block.end ?? "").split("T");
  if (!fromDay || !fromTime || !untilDay || !untilTime) return "";
  if (fromDay === untilDay) return `${longDate(fromDay)} ${timeWords(fromTime)}–${timeWords(untilTime)}`;
  const begins = fromTime.startsWith("00:00") ? longDate(fromDay) : `${longDate(fromDay)} ${timeWords(fromTime)}`;
  return t`${begins} to ${longDate(untilDay)} ${timeWords(untilTime)}`;
}

export type Draft = {
  id: string | null;
  version?: number | string;
  kind: "once" | "weekly" | "daily";
  date: string;
  from: string;
  until: string;
  days: Day[];
  interval: number;
  ends: string;
  reason: string;
  changed: NonNullable<NonNullable<Block["repeat"]>["changed"]>;
  /** Whether only clients are kept from booking over it. */
  isOnlineOnly: boolean;
};
