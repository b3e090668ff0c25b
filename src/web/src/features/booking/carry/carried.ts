import type { Chosen } from "../fits";
import type { Narrow } from "../NarrowPart";
import type { LineRequest } from "../lines/lineDrafts";

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
