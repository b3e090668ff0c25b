import { plural, t } from "@lingui/core/macro";
import type { Message, MessageRule } from "../../api/setup";
import { andWords } from "../../shared/format";

type Trigger = MessageRule["trigger"];

/** What a message arises from, as it stands at the beginning of a line. */
export const triggers = (): Record<Trigger, string> => ({
  booked: t`Booked`,
  requested: t`Asked for`,
  approved: t`Granted`,
  declined: t`Not granted`,
  proposed: t`Other times proposed`,
  lapsed: t`Lapsed without an answer`,
  moved: t`Moved`,
  cancelled: t`Cancelled`,
  fee: t`A fee is due`,
  refund: t`Money has gone back`,
  depositAsked: t`A deposit is asked for`,
  unfinished: t`Booking not finished`,
  code: t`A code to see one's own bookings`,
  beforeStart: t`Before the visit`,
  afterEnd: t`After the visit`,
});

/** Hours or days, whichever says it shorter. */
export function offsetWords(minutes: number): string {
  if (minutes % 1440 === 0) return plural(minutes / 1440, { one: "# day", other: "# days" });
  if (minutes % 60 === 0) return plural(minutes / 60, { one: "# hour", other: "# hours" });
  return plural(minutes, { one: "# minute", other: "# minutes" });
}

/** When a message goes. */
export function whenWords({ trigger, offsetMinutes }: Pick<MessageRule, "trigger" | "offsetMinutes">): string {
  const offset = offsetWords(Number(offsetMinutes ?? 0));
  if (trigger === "beforeStart") return t`${offset} before the visit`;
  if (trigger === "afterEnd") return t`${offset} after the visit`;
  return triggers()[trigger];
}

/** How a message goes, and to whom. */
export function howWords({ channel, recipient }: Pick<MessageRule, "channel" | "recipient">): string {
  if (channel === "text") return recipient === "client" ? t`text to the client` : t`text to the practitioner`;
  if (recipient === "client") return t`e-mail to the client`;
  return recipient === "practitioner" ? t`e-mail to the practitioner` : t`e-mail to people of the team`;
}

/** About whose visits it is; nothing where it is about all. */
export function filterWords(rule: MessageRule, places: ReadonlyMap<string, string>): string {
  const words = [
    rule.locationId ? t`at ${places.get(rule.locationId) ?? ""}` : "",
    (rule.serviceIds ?? []).length > 0
      ? plural((rule.serviceIds ?? []).length, { one: "# service", other: "# services" })
      : "",
    rule.trigger === "afterEnd" && rule.onlyIfNotBack ? t`who has not come back` : "",
    rule.clients === "new" ? t`new clients` : rule.clients === "returning" ? t`returning clients` : "",
    rule.origin === "online" ? t`done online` : rule.origin === "desk" ? t`done at the desk` : "",
  ].filter(Boolean);
  return words.length === 0 ? "" : t`only ${andWords(words)}`;
}

/** Where a message stands. */
export const states = (): Record<Message["state"], string> => ({
  waiting: t`waits`,
  sending: t`is being sent`,
  sent: t`sent`,
  failed: t`did not get through`,
  dropped: t`not sent`,
  leftOut: t`not sent`,
});

/** Why it was not sent, or what was answered. */
export function becauseWords({ because, channel }: Pick<Message, "because" | "channel">): string {
  switch (because) {
    case null:
    case undefined:
      return "";
    case "no-address":
      return channel === "email" ? t`no e-mail address is known` : t`no telephone number is known`;
    case "no-consent":
      return t`they have not agreed to texts`;
    case "too-soon":
      return t`its time had passed when the visit was booked`;
    case "too-late":
      return t`its time had passed for too long`;
    case "changed":
      return t`the visit has changed before it went`;
    case "template":
      return t`its words cannot be filled in`;
    default:
      return because;
  }
}
