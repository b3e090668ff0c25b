/** Stretches of time on a ribbon, in minutes after midnight; what runs past midnight goes on above 1440. */
export type Stretch = { from: number; until: number };

/** How fine a stretch is drawn and moved. */
export const quarter = 15;

/** The nearest step. */
export const snap = (minutes: number, step = quarter) => Math.round(minutes / step) * step;

const within = (minutes: number, least: number, most: number) => Math.min(most, Math.max(least, minutes));

/** The stretch with its beginning or end moved; it keeps at least a step, and stays on the scale. */
export function withEdge(stretch: Stretch, edge: keyof Stretch, at: number, scale: Stretch, step = quarter): Stretch {
  return edge === "from"
    ? { ...stretch, from: within(at, scale.from, stretch.until - step) }
    : { ...stretch, until: within(at, stretch.from + step, scale.until) };
}

/** The stretch somewhere else, as long as it was, and on the scale. */
export function movedBy<T extends Stretch>(stretch: T, by: number, scale: Stretch): T {
  const way = within(by, scale.from - stretch.from, scale.until - stretch.until);
  return { ...stretch, from: stretch.from + way, until: stretch.until + way };
}

/** The stretch drawn from one point to another, snapped outwards so that what was drawn over lies in it. */
export function drawn(one: number, other: number, scale: Stretch, step = quarter): Stretch {
  const [from, until] = one <= other ? [one, other] : [other, one];
  const start = within(Math.floor(from / step) * step, scale.from, scale.until - step);
  return { from: start, until: within(Math.ceil(until / step) * step, start + step, scale.until) };
}

/** Cuts a stretch to what the others leave free around a point of it; null where that point is taken. */
export function room(at: number, others: Stretch[], scale: Stretch): Stretch | null {
  if (others.some((other) => other.from <= at && at < other.until)) return null;
  return {
    from: Math.max(scale.from, ...others.filter((other) => other.until <= at).map((other) => other.until)),
    until: Math.min(scale.until, ...others.filter((other) => other.from > at).map((other) => other.from)),
  };
}

/** The scale that shows all of some stretches in whole hours, with at least what is usual in it. */
export function scaleOf(stretches: Stretch[], usual: Stretch = { from: 8 * 60, until: 20 * 60 }): Stretch {
  return {
    from: Math.floor(Math.min(usual.from, ...stretches.map((stretch) => stretch.from)) / 60) * 60,
    until: Math.ceil(Math.max(usual.until, ...stretches.map((stretch) => stretch.until)) / 60) * 60,
  };
}

/** The scale on which stretches are drawn: there is an hour to go on either side of them. */
export function scaleToDraw(stretches: Stretch[]): Stretch {
  const around = stretches.map(({ from, until }) => ({ from: Math.max(0, from - 60), until: until + 60 }));
  return scaleOf(around, { from: 7 * 60, until: 21 * 60 });
}

/** The hours written over a scale: no more than there is room for. */
export function hoursOf(scale: Stretch, most = 9): number[] {
  const hours = (scale.until - scale.from) / 60;
  const every = [1, 2, 3, 4, 6, 8, 12, 24].find((step) => hours / step + 1 <= most) ?? 24;
  const found: number[] = [];
  for (let hour = Math.ceil(scale.from / 60 / every) * every; hour * 60 <= scale.until; hour += every)
    found.push(hour * 60);
  return found;
}
