import type { Chosen } from "../fits";
import { asWide, type Narrow } from "../NarrowPart";
import type { Visit } from "../../../api/staff";
import { linesOf, requestOf, type LineRequest } from "../lines/lineDrafts";

/** What is carried over the book: a visit that is written, or one that stands and is to be put elsewhere. */
export type Carried = {
  locationId: string;
  lines: LineRequest[];
  /** The visit that stands; its own time counts as free. */
  visitId: string | null;
  chosen: Chosen | null;
  /** What narrows down where it is to go. */
  narrow: Narrow;
  /** Where a visit that stands lies now. */
  present: string | null;
  /** Puts it down where it fits. */
  take: (start: Chosen) => void;
  /** Puts it down and is done, where that is more than to choose the place. */
  put?: (start: Chosen) => void;
  /** Points at a place where it does not fit, to be told why and what can be done. */
  ask: (laneId: string | null, start: string) => void;
};

/** What of a visit that stands is carried, before anything is chosen or narrowed down. */
export const standing = (visit: Visit) => ({
  locationId: visit.locationId,
  lines: requestOf(linesOf(visit)),
  visitId: visit.id,
  chosen: null,
  present: visit.start,
  narrow: asWide,
});

/** What is asked to know where something carried would lie; a visit that stands may be taken over by others in their lanes. */
export const lightsAsked = (
  carried: Pick<Carried, "locationId" | "lines" | "visitId" | "present" | "narrow">,
  from: string,
) => ({
  locationId: carried.locationId,
  lines: carried.lines,
  from,
  days: 1,
  visitId: carried.visitId,
  narrow: carried.narrow,
  anyLead: carried.present !== null,
});
