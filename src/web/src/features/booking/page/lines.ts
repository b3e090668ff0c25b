import { t } from "@lingui/core/macro";
import type { Booked, Service } from "../../../api/public";
import { unitWords } from "../../../shared/format";
import { byPerson, type Chosen, type ChosenLine } from "./address";

/** A service as it is asked about. */
export type WishLine = { service: Service; practitionerId: string | null; addOnIds: string[]; person: number };

/** A visit as it is asked about. */
export type Wish = {
  locationId: string;
  /** What is wanted, in order; at least one. */
  lines: WishLine[];
  returning: boolean;
  /** The token of a visit just booked that has to come first. */
  after: string | null;
  link: string | null;
  /** The promo code they have named; null for none. */
  promo: string | null;
  /** As which client, who has shown who they are; null for anybody else. */
  as: string | null;
};
export type You = { givenName: string; familyName: string; email: string; phone: string };

/** Who chooses the practitioner of a service at a location. */
export const choiceAt = (service: Service, locationId: string) =>
  service.choices.find((choice) => choice.locationId === locationId)?.choice ?? "clientMay";

/** Whether the client has to say who is to do it. */
export const mustChoose = (service: Service, locationId: string) => choiceAt(service, locationId) === "clientMust";

/** What is asked after a service was chosen: extras of which the owner says something, who does it where that has to be said, when. */
export const stepAfter = (service: Service, locationId: string, who: string | null) =>
  service.addOns.some((addOn) => addOn.words) ? "extras" : mustChoose(service, locationId) && !who ? "who" : "when";

/** Whom somebody came for by a link, as long as they do the service that is chosen now, and clients choose who does it. */
export const cameFor = (who: string | null, service: Service, locationId: string) =>
  who && choiceAt(service, locationId) !== "house" && service.practitioners.some((one) => one.id === who) ? who : null;

/** What a booking makes bookable: the service that was wanted, or all of them where none was. */
export const openedBy = (booked: Booked, wanted: Service | null) => {
  const all = booked.sequel?.services ?? [];
  const asked = all.filter((item) => item.serviceId === wanted?.id);
  return asked.length > 0 ? asked : all;
};

/** How long before a service another has to come, as a sentence. */
export function needsWords(service: string, needs: { atLeastHours: number; atMostDays: number }): string {
  const least = needs.atLeastHours > 0 && unitWords(needs.atLeastHours, "hour");
  const most = needs.atMostDays > 0 && unitWords(needs.atMostDays, "day");
  if (least && most) return t`${service} needs it, at least ${least} before and no more than ${most} before.`;
  if (least) return t`${service} needs it, at least ${least} before.`;
  if (most) return t`${service} needs it, no more than ${most} before.`;
  return t`${service} needs it.`;
}

/** The first service of a visit that needs another first, where nothing that may have come before is known. */
export const needing = (wish: Wish) =>
  wish.after || wish.as ? null : (wish.lines.find((line) => line.service.needs)?.service ?? null);

/** Where all that is wanted is done. */
export const placesOf = (lines: readonly { service: Service }[]) =>
  (lines[0]?.service.locationIds ?? []).filter((id) => lines.every((line) => line.service.locationIds.includes(id)));

/** What is asked next: whom, where that has still to be said of one of the services, otherwise when. */
export const stepNext = (
  lines: readonly { service: Service; who: unknown }[],
  locationId: string,
): Pick<Chosen, "line" | "step"> => {
  const open = lines.findIndex((line) => mustChoose(line.service, locationId) && !line.who);
  return open < 0 ? { line: 0, step: "when" } : { line: open, step: "who" };
};

const noTime = { at: null, day: null };

/** What is chosen with one line in the place of another, or after the last; the time is chosen anew. */
export const withLine = (chosen: Chosen, at: number, line: Omit<ChosenLine, "person">): Partial<Chosen> => {
  const standing = chosen.lines[at];
  const placed = { ...line, person: standing ? standing.person : chosen.add };
  const lines = standing
    ? chosen.lines.map((other) => (other === standing ? placed : other))
    : [...chosen.lines, placed];
  // What is added for somebody follows what they have.
  const before = lines.filter((other) => other !== placed && other.person <= placed.person).length;
  return { ...noTime, add: 0, line: standing ? at : before, lines: byPerson(lines) };
};

/** What is chosen without one of several lines. */
export const withoutLine = (chosen: Chosen, at: number): Partial<Chosen> => ({
  ...noTime,
  line: 0,
  step: "when",
  add: 0,
  lines: byPerson(chosen.lines.filter((_, i) => i !== at)),
});

/** What a wish asks the server for. */
export const linesOf = (wish: Wish) =>
  wish.lines.map((line) => ({
    serviceId: line.service.id,
    practitionerId: line.practitionerId,
    addOns: line.addOnIds.map((addOnId) => ({ addOnId, count: 1 })),
    person: line.person,
  }));

/** Those who come along, as the sentence names them. */
export const alongWords = (person: number) =>
  [t`a second person`, t`a third person`, t`a fourth person`][person - 1] ?? "";
