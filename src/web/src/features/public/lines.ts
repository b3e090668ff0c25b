import type { Service } from "../../api/public";
import type { Wish } from "./BookingPage";

/** Who chooses the practitioner of a service at a location. */
export const choiceAt = (service: Service, locationId: string) =>
  service.choices.find((one) => one.locationId === locationId)?.choice ?? "clientMay";

/** What a wish asks the server for. */
export const linesOf = (wish: Wish) => [
  {
    serviceId: wish.service.id,
    practitionerId: wish.practitionerId,
    addOns: wish.addOnIds.map((addOnId) => ({ addOnId, count: 1 })),
  },
];
