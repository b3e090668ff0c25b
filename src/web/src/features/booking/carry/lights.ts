import type { components } from "../../../api/generated/schema";
import { wallTime } from "../../../shared/format";
import type { Chosen } from "../fits";

type Schemas = components["schemas"];
export type Light = Schemas["LightRangeAnswer"];
export type DayLights = Schemas["DayLights"];

const minute = 60_000;

/** The lights of each lane of a day. */
export const lightsByLane = (day: DayLights | undefined): Map<string, Light[]> =>
  new Map((day?.lanes ?? []).map((lane) => [lane.resourceId, lane.ranges]));

/** The stretches in which something may begin, whatever way it lies there: what is drawn in one. */
export function bandsOf(ranges: Light[]): { from: string; until: string }[] {
  const bands: { from: string; until: string }[] = [];
  for (const range of ranges) {
    const last = bands.at(-1);
    const until = later(range.last, 5);
    if (last && Date.parse(last.until) === Date.parse(range.first)) last.until = until;
    else bands.push({ from: range.first, until });
  }
  return bands;
}

/** The range of a lane a start lies in. */
export const lightAt = (ranges: Light[] | undefined, start: string): Light | undefined => {
  const at = Date.parse(start);
  return ranges?.find((range) => Date.parse(range.first) <= at && at <= Date.parse(range.last));
};

/** A start within a light, as it is chosen. */
export const chosenIn = (light: Light, start: string, zone: string, roomId?: string): Chosen => ({
  start,
  end: later(start, light.minutes),
  clock: wallTime(start, zone),
  practitionerId: light.practitionerId,
  practitioner: light.practitioner,
  rooms: light.rooms,
  price: light.price,
  onGrid: true,
  outsideOpening: false,
  // A room's lane is that of the first line that needs a room, whichever that is.
  ...(roomId && { room: { id: roomId, line: light.claims.find((claim) => claim.resourceId === roomId)?.line ?? 0 } }),
});

export const later = (instant: string, minutes: number) =>
  new Date(Date.parse(instant) + minutes * minute).toISOString().replace(".000Z", "Z");

/** The first start of all lights of a day after an instant, or the first of all; lanes in their order. */
export function firstLight(day: DayLights | undefined, after: string | null, lanes: ReadonlySet<string>) {
  let best: { light: Light; start: string } | null = null;
  for (const lane of day?.lanes ?? []) {
    if (!lanes.has(lane.resourceId)) continue;
    for (const light of lane.ranges) {
      const start = startAfter(light, after);
      if (start && (best === null || start < best.start)) best = { light, start };
    }
  }
  return best;
}

function startAfter(light: Light, after: string | null): string | null {
  const [first, last] = [Date.parse(light.first), Date.parse(light.last)];
  const at = after === null ? first : Math.max(first, Date.parse(after) + 5 * minute);
  return at > last ? null : new Date(at).toISOString().replace(".000Z", "Z");
}
