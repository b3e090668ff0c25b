import type { Wish } from "./BookingPage";

/** What a wish asks the server for. */
export const linesOf = (wish: Wish) => [
  {
    serviceId: wish.service.id,
    practitionerId: wish.practitionerId,
    addOns: wish.addOnIds.map((addOnId) => ({ addOnId, count: 1 })),
  },
];
