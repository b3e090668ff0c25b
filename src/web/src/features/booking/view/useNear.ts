import { useEffect, useMemo, useState, type RefObject } from "react";

/** How far out of sight lanes are drawn already, in pixels. */
const margin = 160;
/** What a lane takes of a screen before anything was measured, in pixels. */
const usualLane = 36;

/**
 * Which lanes are in sight, or nearly. Only their visits are drawn: of forty lanes a screen shows a third, and a day that comes
 * is there so much sooner. Until the first look, those that a screen can hold.
 */
export function useNear(
  scroller: RefObject<HTMLElement | null>,
  picture: RefObject<HTMLElement | null>,
  lanes: readonly string[],
): (lane: string) => boolean {
  const [near, setNear] = useState<ReadonlySet<string> | null>(null);
  const all = lanes.join(" ");
  useEffect(() => {
    const root = picture.current;
    if (!root) return;
    const seen = new IntersectionObserver(
      (entries) =>
        setNear((before) => {
          const next = new Set(before ?? []);
          for (const { target, isIntersecting } of entries) {
            const lane = (target as HTMLElement).dataset["laneId"]!;
            if (isIntersecting) next.add(lane);
            // Whoever stands in a lane with the keyboard stays there, wherever the wheel goes.
            else if (!target.contains(document.activeElement)) next.delete(lane);
          }
          return next.size === before?.size && [...next].every((lane) => before.has(lane)) ? before : next;
        }),
      { root: scroller.current, rootMargin: `${margin}px 0px` },
    );
    for (const lane of root.querySelectorAll("[data-lane-id]")) seen.observe(lane);
    return () => seen.disconnect();
  }, [scroller, picture, all]);
  return useMemo(() => {
    const first = new Set(lanes.slice(0, Math.ceil(window.innerHeight / usualLane)));
    return (lane) => (near ?? first).has(lane);
  }, [near, lanes]);
}
