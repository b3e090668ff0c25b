import type { GuaranteeTry, Policy } from "../../api/setup";

/** A made-up client and visit. */
export type Sample = {
  locationId: string;
  serviceId: string;
  date: string;
  /** Wall clock, "14:00:00". */
  time: string;
  /** "new", "returning", or "missed" with how often. */
  who: string;
};

/** How the server is asked about it, with the policy as it stands on the screen. */
export const questionOf = (sample: Sample, policy: Policy | undefined): GuaranteeTry => ({
  locationId: sample.locationId,
  lines: [{ serviceId: sample.serviceId }],
  start: `${sample.date}T${sample.time.slice(0, 5)}:00`,
  isNew: sample.who === "new",
  noShows: sample.who.startsWith("missed") ? Number(sample.who.slice("missed".length)) : 0,
  policy: policy ?? null,
});
