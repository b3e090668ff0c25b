import { useEffect, type RefObject } from "react";
import { headPixels } from "../../../theme/book";

/** Two fingers, or the wheel with Ctrl held, zoom; what lies under them stays there. */
export function usePinch(scroller: RefObject<HTMLElement | null>, zoom: (factor: number, place: number) => void) {
  useEffect(() => {
    const box = scroller.current;
    if (!box) return;
    const fingers = new Map<number, number>();
    const placeOf = (clientX: number) => clientX - box.getBoundingClientRect().left - headPixels;
    const wheel = (event: WheelEvent) => {
      if (!event.ctrlKey) return;
      event.preventDefault();
      zoom(Math.exp(event.deltaY / 300), placeOf(event.clientX));
    };
    const spread = () => {
      const [one, other] = [...fingers.values()];
      return Math.max(20, Math.abs((one ?? 0) - (other ?? 0)));
    };
    const down = (event: PointerEvent) => {
      if (event.pointerType === "touch") fingers.set(event.pointerId, event.clientX);
    };
    const move = (event: PointerEvent) => {
      if (!fingers.has(event.pointerId)) return;
      const before = spread();
      fingers.set(event.pointerId, event.clientX);
      if (fingers.size !== 2) return;
      const places = [...fingers.values()];
      zoom(before / spread(), placeOf((places[0]! + places[1]!) / 2));
    };
    const up = (event: PointerEvent) => fingers.delete(event.pointerId);
    box.addEventListener("wheel", wheel, { passive: false });
    box.addEventListener("pointerdown", down);
    box.addEventListener("pointermove", move);
    for (const end of ["pointerup", "pointercancel", "pointerleave"] as const) box.addEventListener(end, up);
    return () => {
      box.removeEventListener("wheel", wheel);
      box.removeEventListener("pointerdown", down);
      box.removeEventListener("pointermove", move);
      for (const end of ["pointerup", "pointercancel", "pointerleave"] as const) box.removeEventListener(end, up);
    };
  }, [scroller, zoom]);
}
