import type { Service } from "../../api/setup";

export const visibilities = {
  everyone: "everyone sees it",
  withLink: "only with the link",
  byPhone: "shown, by phone only",
  hidden: "hidden",
} as const;
export const priceForms = {
  fixed: "fixed",
  from: "from",
  hourly: "by the hour",
  free: "free",
  onRequest: "on request",
} as const;
export const clientKinds = {
  everyone: "all clients",
  newOnly: "new clients only",
  returningOnly: "returning clients only",
} as const;
/** The parts of a service's page. */
export const partNames = [
  ["who", "Who"],
  ["where", "Where and with what"],
  ["price", "Price and extras"],
  ["online", "Online"],
  ["words", "Words and picture"],
  ["rules", "Rules"],
  ["history", "History"],
] as const;
export type PartName = (typeof partNames)[number][0];

export const minutesOf = (service: Service) => (service.phases ?? []).reduce((all, phase) => all + phase.minutes, 0);

/** A service as it begins: an hour, one practitioner, a room, shown to everyone. */
export const freshService = (categoryId: string): Service => ({
  id: null,
  name: "",
  categoryId,
  kind: "oneToOne",
  seats: 1,
  phases: [{ minutes: 60, attendedBy: [0], equipment: [] }],
  roles: [{ name: "Practitioner", qualifications: [], added: [], excluded: [] }],
  room: { features: [], units: 1 },
  bufferBeforeMinutes: 0,
  bufferAfterMinutes: 10,
  bufferAlways: false,
  priceForm: "fixed",
  price: 0,
  taxRateId: null,
  terms: [],
  visibility: "everyone",
  besideOthers: false,
  for: "everyone",
  online: {},
  setTimes: [],
  prerequisite: null,
  weekdays: [],
  season: null,
  locationIds: [],
  description: "",
  onlineName: null,
  onlineMinutes: null,
  pictureId: null,
  returnDays: null,
  isArchived: false,
  link: null,
  version: 0,
});

/** What a part of the editor of a service works on. */
export type Part = { draft: Service; set: (change: Partial<Service>) => void; errors: Record<string, string> };
