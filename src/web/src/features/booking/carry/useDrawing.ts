import { useEffect, useRef, type RefObject } from "react";
import type { Day, Visit } from "../../../api/staff";
import { clockRange } from "../../../shared/format";
import type { Scale } from "../scale";
import { placesOf } from "./ghost";
import { least, minutesFrom, stretchBetween } from "./drawing";
import { later } from "./lights";
import { spotAt, type Spot } from "./useCarrying";

/** How far a pointer goes before a press is a stroke. */
const slack = 6;
/** How near its end a block is pulled longer or shorter instead of being picked up, in pixels. */
const near = 7;

/** What a stroke in a lane gave. */
export type Drawn = { laneId: string; kind: string; from: string; until: string };

type Wanted = {
  picture: RefObject<HTMLElement | null>;
  layer: RefObject<HTMLElement | null>;
  day: Day;
  scale: Scale;
  /** Takes a stretch that was drawn over free time; missing where this person may not. */
  onDraw: ((drawn: Drawn) => void) | undefined;
  /** Takes the new length of a line whose end was pulled; missing where this person may not. */
  onStretch: ((visit: Visit, lineId: string, minutes: number) => void) | undefined;
  /** Takes an edge of working time that was pulled to another instant; missing where this person may not. */
  onEdge: ((laneId: string, side: "from" | "until", was: string, to: string) => void) | undefined;
};

type Stroke = {
  id: number;
  x: number;
  spot: Spot;
  pulled: { visit: Visit; line: Visit["lines"][number] } | null;
  edge: { side: "from" | "until"; at: string } | null;
};

/** The edge of working time under a pointer, or null. */
function edgeUnder(event: PointerEvent): Stroke["edge"] {
  const data = (event.target as HTMLElement).closest<HTMLElement>("[data-shift-end]")?.dataset;
  return data ? { side: data["shiftEnd"] as "from" | "until", at: data["endsAt"]! } : null;
}

/** The line whose end lies under a pointer, or null. */
export function endUnder(event: PointerEvent): { reference: string; lineId: string } | null {
  const block = (event.target as HTMLElement).closest<HTMLElement>("[data-visit][data-ends]");
  if (!block || block.getBoundingClientRect().right - event.clientX > near) return null;
  return { reference: block.dataset["visit"]!, lineId: block.dataset["line"]! };
}

/**
 * A stroke over free time says from when until when; the end of a block that is pulled says how long,
 * an edge of working time that is pulled from when or until when somebody works. Escape leaves all as it was.
 */
export function useDrawing({ picture, layer, day, scale, onDraw, onStretch, onEdge }: Wanted) {
  const present = useRef({ day, scale, onDraw, onStretch, onEdge });
  useEffect(() => {
    present.current = { day, scale, onDraw, onStretch, onEdge };
  });
  useEffect(() => {
    const [root, over] = [picture.current, layer.current];
    if (!root || !over) return;
    let stroke: Stroke | null = null;
    let mark: HTMLElement | null = null;
    const end = () => {
      mark?.remove();
      stroke = mark = null;
    };
    const down = (event: PointerEvent) => {
      if (event.button !== 0 || event.pointerType === "touch" || root.dataset["carrying"] !== undefined) return;
      const now = present.current;
      const spot = spotAt(event.clientX, event.clientY, now.scale);
      if (!spot) return;
      const under = endUnder(event);
      const visit = under && now.day.visits.find((other) => other.reference === under.reference);
      const line = visit?.lines.find((other) => other.id === under?.lineId);
      const edge = edgeUnder(event);
      const begun = { id: event.pointerId, x: event.clientX, spot, pulled: null, edge: null };
      if (visit && line && visit.canChange && now.onStretch) stroke = { ...begun, pulled: { visit, line } };
      else if (edge && now.onEdge) stroke = { ...begun, edge };
      else if (now.onDraw && spot.kind !== "equipment" && !(event.target as HTMLElement).closest("button"))
        stroke = begun;
    };
    const stretchAt = (event: PointerEvent) => {
      const { day: shown, scale: measure } = present.current;
      const { x, spot, pulled, edge } = stroke!;
      if (edge) {
        const to = spotAt(event.clientX, event.clientY, measure)?.start ?? edge.at;
        return minutesFrom(edge.at, to) < 0 ? { from: to, until: edge.at } : { from: edge.at, until: to };
      }
      if (!pulled) {
        const there = spotAt(event.clientX, event.clientY, measure)?.start ?? spot.start;
        return stretchBetween(spot.start, there, false);
      }
      // Its end goes as far as the pointer has gone, wherever near it that took hold.
      const hour = (measure.at(later(shown.from, 60)) - measure.at(shown.from)) / 100;
      const minutes =
        ((event.clientX - x) / (root.querySelector<HTMLElement>("[data-track]")!.offsetWidth * hour)) * 60;
      return stretchBetween(pulled.line.start, later(pulled.line.end, Math.round(minutes / least) * least), true);
    };
    const move = (event: PointerEvent) => {
      if (!stroke || event.pointerId !== stroke.id) return;
      const { scale: measure, day: shown } = present.current;
      if (!mark) {
        if (Math.abs(event.clientX - stroke.x) < slack) return;
        root.setPointerCapture(stroke.id);
        mark = document.createElement("div");
        mark.className = "kc-ghost";
        const place = placesOf(root).get(stroke.spot.laneId)!;
        mark.style.top = `${place.top + 1}px`;
        mark.style.height = `${place.height - 2}px`;
        over.append(mark);
      }
      const { from, until } = stretchAt(event);
      const { left, width } = measure.span(from, until);
      Object.assign(mark.style, { left, width });
      mark.textContent = clockRange(from, until, shown.zone);
    };
    const up = (event: PointerEvent) => {
      if (!stroke || !mark) return end();
      const { from, until } = stretchAt(event);
      const { pulled, spot, edge } = stroke;
      end();
      root.dataset["dropped"] = String(performance.now());
      if (pulled) present.current.onStretch?.(pulled.visit, pulled.line.id, minutesFrom(from, until));
      else if (edge) {
        const to = from === edge.at ? until : from;
        if (to !== edge.at) present.current.onEdge?.(spot.laneId, edge.side, edge.at, to);
      } else present.current.onDraw?.({ laneId: spot.laneId, kind: spot.kind, from, until });
    };
    // The press that ends a stroke opens nothing.
    const click = (event: MouseEvent) => {
      if (performance.now() - Number(root.dataset["dropped"] ?? -Infinity) < 100) event.stopPropagation();
    };
    const cancel = (event: KeyboardEvent) => {
      if (event.key !== "Escape" || !mark) return;
      event.stopPropagation();
      end();
    };
    root.addEventListener("pointerdown", down);
    root.addEventListener("pointermove", move);
    root.addEventListener("pointerup", up);
    root.addEventListener("pointercancel", end);
    root.addEventListener("click", click, true);
    window.addEventListener("keydown", cancel, true);
    return () => {
      end();
      root.removeEventListener("pointerdown", down);
      root.removeEventListener("pointermove", move);
      root.removeEventListener("pointerup", up);
      root.removeEventListener("pointercancel", end);
      root.removeEventListener("click", click, true);
      window.removeEventListener("keydown", cancel, true);
    };
  }, [picture, layer]);
}
