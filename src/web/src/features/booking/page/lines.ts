import { t } from "@lingui/core/macro";
import type { Booked, Service } from "../../../api/public";

/** A visit as it is asked about. */
export type Wish = {
  locationId: string;
  service: Service;
  practitionerId: string | null;
  addOnIds: string[];
  returning: boolean;
  /** The token of a visit just booked that has to come first. */
  after: string | null;
  link: string | null;
};
export type You = { givenName: string; familyName: string; email: string; phone: string };

/** Who chooses the practitioner of a service at a location. */
export const choiceAt = (service: Service, locationId: string) =>
  service.choices.find((choice) => choice.locationId === locationId)?.choice ?? "clientMay";

/** What a booking makes bookable: the service that was wanted, or all of them where none was. */
export const openedBy = (booked: Booked, wanted: Service | null) => {
  const all = booked.sequel?.services ?? [];
  const asked = all.filter((item) => item.serviceId === wanted?.id);
  return asked.length > 0 ? asked : all;
};

/** How long before a visit another has to come, in words. */
export const noticeOf = (hours: number) =>
  hours === 0 ? "" : hours === 1 ? t`at least an hour before` : t`at least ${hours} hours before`;

/** What a wish asks the server for. */
export const linesOf = (wish: Wish) => [
  {
    serviceId: wish.service.id,
    practitionerId: wish.practitionerId,
    addOns: wish.addOnIds.map((addOnId) => ({ addOnId, count: 1 })),
  },
];
