/** How many hours a screen of the book may show at least; at most it shows the whole day. */
export const leastHours = 3;

/** How many it shows until somebody chooses. */
export const usualHours = 6;

/** Pixels that all of a day takes where a room of so many pixels shows so many hours; never less than the room. */
export const trackWidth = (room: number, dayMinutes: number, hours: number) =>
  Math.max(room, Math.round((room * dayMinutes) / (60 * hours)));

/** Hours in view after zooming by a factor, within what a day has. */
export const zoomed = (hours: number, factor: number, dayMinutes: number) =>
  Math.min(Math.max(hours * factor, leastHours), Math.max(leastHours, dayMinutes / 60));

/** Where to scroll so that the minute that lay at a place of the room lies there again. */
export const scrollKeeping = (minute: number, place: number, width: number, dayMinutes: number) =>
  Math.max(0, (minute / dayMinutes) * width - place);

/**
 * Where to scroll so that a stretch is in sight, beside what is covered at the right; as little as it takes, and not at all
 * when it is in sight already. A stretch that is longer than the room shows its beginning.
 */
export function scrollShowing(left: number, right: number, scrolled: number, room: number): number {
  const margin = Math.min(24, room / 8);
  if (left - margin < scrolled || right - left > room - 2 * margin) {
    return left >= scrolled && right <= scrolled + room ? scrolled : Math.max(0, left - margin);
  }
  return right + margin > scrolled + room ? right + margin - room : scrolled;
}

/** Heights of lanes, in pixels. */
export type Heights = { practitioner: number; room: number; equipment: number };

/** The least there has to be: two lines of text, and one. */
export const leastHeights: Heights = { practitioner: 40, room: 26, equipment: 22 };

/** What is of use: three lines of text, and two. */
export const mostHeights: Heights = { practitioner: 64, room: 44, equipment: 36 };

/** Shares a height among lanes: many keep their least height, few grow until it is used or more is of no use. */
export function heightsOf(counts: Heights, height: number): Heights {
  const kinds = Object.keys(leastHeights) as (keyof Heights)[];
  const least = kinds.reduce((sum, kind) => sum + counts[kind] * leastHeights[kind], 0);
  const growth = kinds.reduce((sum, kind) => sum + counts[kind] * (mostHeights[kind] - leastHeights[kind]), 0);
  const share = growth === 0 ? 0 : Math.min(1, Math.max(0, (height - least) / growth));
  const grown = (kind: keyof Heights) =>
    Math.floor(leastHeights[kind] + share * (mostHeights[kind] - leastHeights[kind]));
  return { practitioner: grown("practitioner"), room: grown("room"), equipment: grown("equipment") };
}
