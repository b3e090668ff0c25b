/** Turns instants into places on the picture of a day, and back. */
export type Scale = {
  /** Percent from the left. */
  at: (instant: string) => number;
  /** Left and width of a stretch, cut to the picture. */
  span: (from: string, until: string) => { left: string; width: string };
  /** The instant at a share of the width, on the grain before it. */
  instantAt: (share: number) => string;
};

const grain = 5 * 60_000;

export function makeScale(from: string, until: string): Scale {
  const first = Date.parse(from);
  const length = Date.parse(until) - first;
  const at = (instant: string) => Math.min(100, Math.max(0, ((Date.parse(instant) - first) / length) * 100));
  return {
    at,
    span: (a, b) => ({ left: `${at(a)}%`, width: `${at(b) - at(a)}%` }),
    instantAt: (share) => new Date(Math.floor((first + share * length) / grain) * grain).toISOString(),
  };
}
