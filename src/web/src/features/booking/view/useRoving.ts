import { useEffect, type KeyboardEvent, type RefObject } from "react";

/** A block or a free stretch of a lane. */
const cells = "[data-cell]";

/**
 * One stop for the Tab key in all lanes: arrows go from block to block and over free time, up and down to what lies nearest in
 * time in the lane beside, Home and End to the ends of a lane.
 */
export function useRoving(picture: RefObject<HTMLElement | null>) {
  // Whatever is drawn anew, one cell can be reached.
  useEffect(() => {
    const root = picture.current;
    if (!root || root.querySelector(`${cells}[tabindex='0']`)) return;
    (root.querySelector(`.kc-block${cells}`) ?? root.querySelector(cells))?.setAttribute("tabindex", "0");
  });
  return (event: KeyboardEvent<HTMLElement>) => {
    const from = (event.target as HTMLElement).closest<HTMLElement>(cells);
    const root = picture.current;
    if (!from || !root || event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) return;
    const next = nextCell(root, from, event.key);
    if (next === undefined) return;
    // At the end of a lane an arrow goes nowhere, least of all to another day.
    event.preventDefault();
    event.stopPropagation();
    if (!next) return;
    from.setAttribute("tabindex", "-1");
    next.setAttribute("tabindex", "0");
    next.focus();
  };
}

/** The cell a key leads to; null where it leads nowhere, undefined where it is not a key of the lanes. */
function nextCell(root: HTMLElement, from: HTMLElement, key: string): HTMLElement | null | undefined {
  const inLane = (lane: Element | undefined) =>
    [...(lane?.querySelectorAll<HTMLElement>(cells) ?? [])].sort((a, b) => timeOf(a) - timeOf(b));
  const own = from.closest("[data-lane-id]") ?? undefined;
  const cellsHere = inLane(own);
  const place = cellsHere.indexOf(from);
  const [head, first] = cellsHere;
  // The head of a lane, which lies before all time, is reached from the first of its cells, and from nowhere else.
  const begin = head && timeOf(head) === 0 ? first : head;
  if (key === "ArrowRight") return cellsHere[place + 1] ?? null;
  if (key === "ArrowLeft") return cellsHere[place - 1] ?? null;
  if (key === "Home") return begin ?? null;
  if (key === "End") return cellsHere.at(-1) ?? null;
  if (key !== "ArrowDown" && key !== "ArrowUp") return undefined;
  const lanes = [...root.querySelectorAll("[data-lane-id]")];
  const step = key === "ArrowDown" ? 1 : -1;
  for (let i = lanes.indexOf(own!) + step; i >= 0 && i < lanes.length; i += step) {
    const [nearest, ...others] = inLane(lanes[i]).filter((cell) => timeOf(cell) > 0);
    if (nearest)
      return others.reduce((near, cell) => (distance(cell, from) < distance(near, from) ? cell : near), nearest);
  }
  return null;
}

const timeOf = (cell: HTMLElement) => Number(cell.dataset["cell"]);
const distance = (a: HTMLElement, b: HTMLElement) => Math.abs(timeOf(a) - timeOf(b));
