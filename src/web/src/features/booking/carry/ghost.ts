import type { Light } from "./lights";

/** A lane as it lies in the picture, in pixels from its top. */
type Place = { top: number; height: number; units: number };

/** Draws the whole visit as it would lie, in all its lanes. It is moved without React while the pointer moves. */
export function makeGhost(layer: HTMLElement, places: Map<string, Place>, percentAt: (instant: number) => number) {
  let drawn: Light | null = null;
  const pieces: { element: HTMLElement; from: number; until: number }[] = [];
  const draw = (light: Light, words: string) => {
    layer.replaceChildren();
    pieces.length = 0;
    drawn = light;
    for (const claim of light.claims) {
      const place = places.get(claim.resourceId);
      if (!place) continue;
      const share = place.height / place.units;
      const add = (from: number, until: number, isEdge: boolean) => {
        if (until <= from) return;
        const element = document.createElement("div");
        element.className = "kc-ghost";
        if (isEdge) element.dataset["edge"] = "";
        else if (claim.unit === 0 && claim.coreFrom === 0) element.textContent = words;
        element.style.top = `${place.top + claim.unit * share + 1}px`;
        element.style.height = `${share - 2}px`;
        layer.append(element);
        pieces.push({ element, from, until });
      };
      add(claim.from, claim.coreFrom, true);
      add(claim.coreFrom, claim.coreUntil, false);
      add(claim.coreUntil, claim.until, true);
    }
  };
  return {
    show(light: Light, start: number, words: string) {
      if (drawn !== light) draw(light, words);
      for (const { element, from, until } of pieces) {
        const left = percentAt(start + from * 60_000);
        element.style.left = `${left}%`;
        element.style.width = `${percentAt(start + until * 60_000) - left}%`;
        if (element.textContent) element.textContent = words;
      }
    },
    hide() {
      layer.replaceChildren();
      pieces.length = 0;
      drawn = null;
    },
  };
}

/** Where each lane of a picture lies. */
export function placesOf(picture: HTMLElement): Map<string, Place> {
  const top = picture.getBoundingClientRect().top;
  return new Map(
    [...picture.querySelectorAll<HTMLElement>("[data-lane-id]")].map((lane) => {
      const box = lane.getBoundingClientRect();
      return [
        lane.dataset["laneId"]!,
        { top: box.top - top, height: box.height, units: Number(lane.dataset["units"] ?? 1) },
      ];
    }),
  );
}
