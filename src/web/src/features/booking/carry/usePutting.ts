import { useEffect, useRef } from "react";
import { wallTime } from "../../../shared/format";
import { isSingleKey } from "../../../shared/singleKeys";
import { instantOf } from "../fits";
import type { Carried } from "./carried";
import { chosenIn, lightAt, type Light } from "./lights";
import { putDown, type Spot } from "./useCarrying";

type Wanted = { date: string; zone: string; carried: Carried | null; lights: Map<string, Light[]> | null };

/**
 * The key v puts down what is carried: in the free time that has the focus, else on the day that is shown at the time it has now, by
 * whoever does it now.
 */
export function usePutting(wanted: Wanted) {
  const present = useRef(wanted);
  useEffect(() => {
    present.current = wanted;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const { carried, lights, date, zone } = present.current;
      if (event.key !== "v" || !isSingleKey(event) || !carried || !lights) return;
      const at = carried.present && instantOf(date, wallTime(carried.present, zone), zone);
      const spot = spotOf(event.target as HTMLElement) ?? (at ? { laneId: null, start: at } : null);
      if (!spot) return;
      event.preventDefault();
      if (spot.laneId !== null) return putDown(carried, lights, spot, zone);
      const own = carried.lines[0]?.practitionerId;
      const lanes = own ? [own] : [...lights.keys()];
      const light = lanes.map((lane) => lightAt(lights.get(lane), spot.start)).find((found) => found !== undefined);
      if (light) (carried.put ?? carried.take)(chosenIn(light, spot.start, zone));
      else carried.ask(own ?? null, spot.start);
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
}

/** The free time that has the focus. */
function spotOf(target: HTMLElement): Spot | null {
  const free = target.closest<HTMLElement>("[data-at]");
  const lane = free?.closest<HTMLElement>("[data-lane-id]");
  if (!free || !lane) return null;
  return { laneId: lane.dataset["laneId"]!, kind: lane.dataset["kind"]!, start: free.dataset["at"]! };
}
