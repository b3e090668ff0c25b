import type { Day, Visit } from "../../api/staff";

/** A block in a lane: what one line holds there, units that lie together drawn as one. */
export type Block = {
  key: string;
  visit: Visit;
  line: Visit["lines"][number];
  from: string;
  until: string;
  coreFrom: string;
  coreUntil: string;
  /** Place among the units of the lane, as shares of its height. */
  top: number;
  height: number;
  /** Until where its label may run on. */
  labelUntil: string;
  /** An unattended stretch: an open outline, no label. */
  isOpen: boolean;
  isFirst: boolean;
  /** Knowingly booked over another, or booked over: the two lie side by side in their lane, and both say so. */
  isClash: boolean;
};

/** The blocks of every lane, each with the room its label has. */
export function blocksOf(day: Day): Map<string, Block[]> {
  const units = new Map(day.lanes.map((lane) => [lane.id, lane.units]));
  const lanes = new Map<string, Block[]>();
  const put = (lane: string, block: Block) => lanes.set(lane, [...(lanes.get(lane) ?? []), block]);
  for (const visit of day.visits) {
    const merged = new Map<string, { claim: Visit["claims"][number]; low: number; high: number }>();
    for (const claim of visit.claims) {
      const key = `${claim.line} ${claim.resourceId} ${claim.from}`;
      const item = merged.get(key) ?? { claim, low: claim.unit, high: claim.unit };
      merged.set(key, { claim, low: Math.min(item.low, claim.unit), high: Math.max(item.high, claim.unit) });
    }
    const seen = new Set<string>();
    for (const [key, { claim, low, high }] of merged) {
      const count = units.get(claim.resourceId) ?? 1;
      const first = !seen.has(`${claim.line} ${claim.resourceId}`);
      seen.add(`${claim.line} ${claim.resourceId}`);
      put(claim.resourceId, {
        key: `${visit.id} ${key}`,
        visit,
        line: visit.lines[claim.line]!,
        from: claim.from,
        until: claim.until,
        coreFrom: claim.coreFrom,
        coreUntil: claim.coreUntil,
        top: (low + (claim.overbooked ? 0.5 : 0)) / count,
        height: (high - low + (claim.overbooked ? 0.5 : 1)) / count,
        labelUntil: day.until,
        isOpen: false,
        isFirst: first,
        isClash: claim.overbooked,
      });
    }
    for (const open of visit.unattended)
      put(open.resourceId, {
        key: `${visit.id} open ${open.resourceId} ${open.from}`,
        visit,
        line: visit.lines[open.line]!,
        from: open.from,
        until: open.until,
        coreFrom: open.from,
        coreUntil: open.until,
        top: 0,
        height: 1,
        labelUntil: open.until,
        isOpen: true,
        isFirst: false,
        isClash: false,
      });
  }
  for (const blocks of lanes.values()) standAside(blocks);
  for (const [lane, blocks] of lanes) {
    const shut = day.lanes.find((other) => other.id === lane)?.blocked ?? [];
    blocks.sort((a, b) => a.from.localeCompare(b.from) || a.top - b.top);
    blocks.forEach((block, i) => {
      const next = blocks
        .slice(i + 1)
        .find(
          (other) =>
            !other.isOpen &&
            other.top < block.top + block.height &&
            block.top < other.top + other.height &&
            other.from >= block.coreUntil,
        );
      // Never over another block, nor over a reason written on blocked time.
      const ends = [next?.from, ...shut.map((item) => item.from).filter((from) => from >= block.coreUntil), day.until];
      block.labelUntil = ends.filter((end) => end !== undefined).reduce((a, b) => (a < b ? a : b));
    });
  }
  return lanes;
}

/** What was booked over makes room: it keeps the upper half of the unit that is shared, and is marked too. */
function standAside(blocks: Block[]) {
  for (const over of blocks.filter((block) => block.isClash)) {
    for (const block of blocks) {
      const isUnder =
        !block.isClash &&
        !block.isOpen &&
        block.from < over.until &&
        over.from < block.until &&
        block.top < over.top + over.height &&
        over.top < block.top + block.height;
      if (!isUnder) continue;
      block.height = over.top - block.top;
      block.isClash = true;
    }
  }
}
