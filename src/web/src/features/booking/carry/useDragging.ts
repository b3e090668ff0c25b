import { useEffect, useRef, type RefObject } from "react";
import type { Day, Visit } from "../../../api/staff";
import type { Scale } from "../scale";
import type { Carried } from "./carried";
import type { Light } from "./lights";
import { putDown, spotAt } from "./useCarrying";
import { endUnder } from "./useDrawing";

/** How far a pointer goes before a press is a drag. */
const slack = 6;

type Wanted = {
  picture: RefObject<HTMLElement | null>;
  day: Day;
  scale: Scale;
  carried: Carried | null;
  lights: Map<string, Light[]> | null;
  /** Picks up a visit; null where this person may not. */
  pickUp: ((visit: Visit) => void) | null;
  /** Lets it go where it was. */
  letGo: () => void;
};

/** A visit is taken up by dragging its block, and put down where the pointer is let go; Escape leaves it where it was. */
export function useDragging({ picture, day, scale, carried, lights, pickUp, letGo }: Wanted) {
  const present = useRef({ day, carried, lights, pickUp, letGo, scale });
  useEffect(() => {
    present.current = { day, carried, lights, pickUp, letGo, scale };
  });
  useEffect(() => {
    const root = picture.current;
    if (!root) return;
    let begun: { x: number; y: number; visit: Visit; id: number; held: number } | null = null;
    let isDragging = false;
    let ended = -Infinity;
    // The press that ends a drag opens nothing.
    const click = (event: MouseEvent) => {
      if (performance.now() - ended < 100) event.stopPropagation();
    };
    const end = () => {
      if (isDragging) delete root.dataset["held"];
      begun = null;
      isDragging = false;
    };
    const down = (event: PointerEvent) => {
      const { day: now, pickUp: may, scale: measure } = present.current;
      const block = (event.target as HTMLElement).closest<HTMLElement>("[data-visit]");
      if (!block || !may || event.button !== 0 || event.pointerType === "touch" || endUnder(event)) return;
      const visit = now.visits.find((other) => other.reference === block.dataset["visit"]);
      const spot = spotAt(event.clientX, event.clientY, measure);
      if (!visit?.canMove || !spot) return;
      const held = Math.max(0, (Date.parse(spot.start) - Date.parse(visit.start)) / 60_000);
      begun = { x: event.clientX, y: event.clientY, visit, id: event.pointerId, held };
    };
    const move = (event: PointerEvent) => {
      if (!begun || isDragging || event.pointerId !== begun.id) return;
      if (Math.hypot(event.clientX - begun.x, event.clientY - begun.y) < slack) return;
      isDragging = true;
      root.dataset["held"] = String(begun.held);
      root.setPointerCapture(begun.id);
      present.current.pickUp?.(begun.visit);
    };
    const up = (event: PointerEvent) => {
      if (!begun || !isDragging) return end();
      const { carried: now, lights: glow, day: shown, scale: measure } = present.current;
      const spot = spotAt(event.clientX, event.clientY, measure, begun.held);
      ended = performance.now();
      root.dataset["dropped"] = String(ended);
      end();
      if (now && spot && spot.kind !== "equipment") putDown(now, glow, spot, shown.zone);
      else present.current.letGo();
    };
    const cancel = (event: KeyboardEvent) => {
      if (event.key !== "Escape" || !isDragging) return;
      event.stopPropagation();
      end();
      present.current.letGo();
    };
    root.addEventListener("pointerdown", down);
    root.addEventListener("pointermove", move);
    root.addEventListener("pointerup", up);
    root.addEventListener("pointercancel", end);
    root.addEventListener("click", click, true);
    window.addEventListener("keydown", cancel, true);
    return () => {
      root.removeEventListener("pointerdown", down);
      root.removeEventListener("pointermove", move);
      root.removeEventListener("pointerup", up);
      root.removeEventListener("pointercancel", end);
      root.removeEventListener("click", click, true);
      window.removeEventListener("keydown", cancel, true);
    };
  }, [picture]);
}
