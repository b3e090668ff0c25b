import { t } from "@lingui/core/macro";
import { lengthWords } from "../../shared/lengthWords";
import type { Service } from "../../api/setup";

export const visibilities = {
  everyone: t`everyone sees it`,
  withLink: t`only with the link`,
  byPhone: t`shown, by phone only`,
  hidden: t`hidden`,
} as const;
export const priceForms = {
  fixed: t`fixed`,
  from: t`from`,
  hourly: t`by the hour`,
  free: t`free`,
  onRequest: t`on request`,
} as const;
export const clientKinds = {
  everyone: t`all clients`,
  newOnly: t`new clients only`,
  returningOnly: t`returning clients only`,
} as const;
/** The parts of a service's page. */
export const partNames = [
  ["who", t`Who`],
  ["where", t`Where and with what`],
  ["price", t`Price and extras`],
  ["online", t`Online`],
  ["words", t`Words and picture`],
  ["rules", t`Rules`],
  ["history", t`History`],
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
  roles: [{ name: t`Practitioner`, qualifications: [], added: [], excluded: [] }],
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

const grids = { backToBack: t`back to back`, setTimes: t`at set times` } as const;

/** How often a visit may begin, as rules of online booking say it: "every 20 minutes", "back to back". */
export function gridWords(rules: { grid?: string | null; everyMinutes?: number | string | null }): string {
  if (rules.grid === "backToBack" || rules.grid === "setTimes") return grids[rules.grid];
  const minutes = Number(rules.everyMinutes ?? 15);
  return minutes === 60 ? t`every hour` : t`every ${lengthWords(minutes)}`;
}
