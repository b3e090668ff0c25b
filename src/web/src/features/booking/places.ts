import type { Block } from "./blocks";

/** A stretch in which the same number of places is taken. */
export type Taken = { from: string; until: string; count: number };

/** A stretch in which at least one place of a lane is taken, with how many as it goes on, and who is there. */
export type Run = { from: string; until: string; steps: Taken[]; visits: Block[] };

/** How many places of a room for several, or of a pool, are taken as the day goes on. */
export function runsOf(blocks: Block[], units: number): Run[] {
  const held = blocks.filter((block) => !block.isOpen);
  const turns = [...new Set(held.flatMap((block) => [block.from, block.until]))].sort();
  const runs: Run[] = [];
  turns.slice(0, -1).forEach((from, i) => {
    const until = turns[i + 1]!;
    const here = held.filter((block) => block.from <= from && until <= block.until);
    if (here.length === 0) return;
    const count = here.reduce((sum, block) => sum + Math.max(1, Math.round(block.height * units)), 0);
    let run = runs.at(-1);
    if (!run || run.until !== from) {
      run = { from, until, steps: [], visits: [] };
      runs.push(run);
    }
    run.until = until;
    const last = run.steps.at(-1);
    if (last?.count === count) last.until = until;
    else run.steps.push({ from, until, count });
    for (const block of here) {
      if (!run.visits.some((other) => other.visit.id === block.visit.id && other.line.id === block.line.id))
        run.visits.push(block);
    }
  });
  return runs;
}
