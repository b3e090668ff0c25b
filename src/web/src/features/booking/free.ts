import type { Lane } from "../../api/staff";
import type { Block } from "./blocks";

/** Where working time begins and ends in a lane; not where it merely goes on. */
export const edgesOf = ({ open }: Lane): { side: "from" | "until"; at: string }[] =>
  open.flatMap((stretch) => [
    ...(open.some((other) => other.until === stretch.from) ? [] : [{ side: "from" as const, at: stretch.from }]),
    ...(open.some((other) => other.from === stretch.until) ? [] : [{ side: "until" as const, at: stretch.until }]),
  ]);

/** The free stretches of a lane: open, neither blocked, nor held, nor kept for somebody. */
export function freeOf(lane: Lane, blocks: Block[]): { from: string; until: string }[] {
  const taken = [...lane.blocked, ...lane.kept, ...blocks.filter((block) => !block.isOpen)].sort((a, b) =>
    a.from.localeCompare(b.from),
  );
  const free: { from: string; until: string }[] = [];
  for (const open of lane.open) {
    let from = open.from;
    for (const item of taken) {
      if (item.until <= from || item.from >= open.until) continue;
      if (item.from > from) free.push({ from, until: item.from });
      if (item.until > from) from = item.until;
    }
    if (from < open.until) free.push({ from, until: open.until });
  }
  return free;
}
