import { t } from "@lingui/core/macro";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, type RefObject } from "react";
import { asks } from "../../../api/queries";
import type { Day } from "../../../api/staff";
import { clock } from "../../../shared/format";
import type { Scale } from "../scale";
import type { Carried } from "./carried";
import { makeGhost, placesOf } from "./ghost";
import { chosenIn, lightAt, type Light } from "./lights";

/** How long a pointer rests on a dark place before it is told why nothing fits there. */
const rest = 350;

type Wanted = {
  /** The picture of all lanes. */
  picture: RefObject<HTMLElement | null>;
  layer: RefObject<HTMLElement | null>;
  day: Day;
  scale: Scale;
  carried: Carried | null;
  lights: Map<string, Light[]> | null;
};

/** Where the pointer is: a lane, and the start under it. */
export type Spot = { laneId: string; kind: string; start: string };

/** The place of the picture under a pointer, or null. A visit that is dragged is held where it was taken. */
export function spotAt(x: number, y: number, scale: Scale, heldMinutes = 0): Spot | null {
  for (const element of document.elementsFromPoint(x, y)) {
    const track = element.closest<HTMLElement>("[data-track]");
    const lane = track?.closest<HTMLElement>("[data-lane-id]");
    if (!track || !lane) continue;
    const box = track.getBoundingClientRect();
    const at = Date.parse(scale.instantAt((x - box.left) / box.width)) - heldMinutes * 60_000;
    const start = new Date(Math.round(at / 300_000) * 300_000).toISOString().replace(".000Z", "Z");
    return { laneId: lane.dataset["laneId"]!, kind: lane.dataset["kind"]!, start };
  }
  return null;
}

/** While something is carried: under the pointer lies the whole visit, a dark place says why not, a press puts it down. */
export function useCarrying({ picture, layer, day, scale, carried, lights }: Wanted) {
  const queries = useQueryClient();
  const present = useRef({ carried, lights });
  useEffect(() => {
    present.current = { carried, lights };
  }, [carried, lights]);
  const isCarrying = carried !== null;
  useEffect(() => {
    const [root, over] = [picture.current, layer.current];
    if (!isCarrying || !root || !over) return;
    const ghost = makeGhost(over, placesOf(root), (instant) => scale.at(new Date(instant).toISOString()));
    const why = whyNote();
    let frame = 0,
      timer: ReturnType<typeof setTimeout> | undefined;
    const move = (event: PointerEvent) => {
      cancelAnimationFrame(frame);
      frame = requestAnimationFrame(() => {
        clearTimeout(timer);
        why.hide();
        const { carried: now, lights: glow } = present.current;
        const held = Number(root.dataset["held"] ?? 0);
        const spot = spotAt(event.clientX, event.clientY, scale, held);
        const light = spot && lightAt(glow?.get(spot.laneId), spot.start);
        if (light) return ghost.show(light, Date.parse(spot.start), clock(spot.start, day.zone));
        ghost.hide();
        if (!spot || !now || !glow || spot.kind === "equipment") return;
        timer = setTimeout(() => void explain(now, spot, event.clientX, event.clientY), rest);
      });
    };
    const explain = async (now: Carried, spot: Spot, x: number, y: number) => {
      const lines = now.lines.map((line, i) =>
        i > 0
          ? line
          : spot.kind === "room"
            ? { ...line, roomId: spot.laneId }
            : { ...line, practitionerId: spot.laneId },
      );
      const question = { locationId: now.locationId, lines, start: spot.start, visitId: now.visitId, asClient: false };
      const said = await queries.fetchQuery(asks.whyNot(question)).then(
        (answer) => ({ fits: answer.fits, reasons: answer.reasons.map((reason) => reason.text) }),
        (problem: Error) => ({ fits: false, reasons: [problem.message] }),
      );
      const at = clock(spot.start, day.zone);
      // Dark where it would fit: it is looked for more narrowly.
      const first = said.fits ? t`${at} fits, but not as it is narrowed down.` : t`${at} does not fit.`;
      why.show([first, ...said.reasons.slice(0, 3)].join(" "), x, y);
    };
    const leave = () => {
      cancelAnimationFrame(frame);
      clearTimeout(timer);
      ghost.hide();
      why.hide();
    };
    root.addEventListener("pointermove", move);
    root.addEventListener("pointerleave", leave);
    return () => {
      leave();
      why.remove();
      root.removeEventListener("pointermove", move);
      root.removeEventListener("pointerleave", leave);
    };
  }, [day.zone, isCarrying, layer, picture, queries, scale]);
}

/** Puts down what is carried at a place, or asks why it does not fit there. */
export function putDown(carried: Carried, lights: Map<string, Light[]> | null, spot: Spot, zone: string) {
  const light = lightAt(lights?.get(spot.laneId), spot.start);
  if (light) carried.take(chosenIn(light, spot.start, zone, spot.kind === "room" ? spot.laneId : undefined));
  else carried.ask(spot.kind === "practitioner" ? spot.laneId : null, spot.start);
}

/** A note beside the pointer. */
function whyNote() {
  const note = document.createElement("div");
  note.className = "kc-why";
  note.setAttribute("role", "status");
  note.hidden = true;
  document.body.append(note);
  return {
    show(text: string, x: number, y: number) {
      note.textContent = text;
      note.hidden = false;
      note.style.left = `${Math.min(x + 14, window.innerWidth - note.offsetWidth - 8)}px`;
      note.style.top = `${Math.min(y + 16, window.innerHeight - note.offsetHeight - 8)}px`;
    },
    hide() {
      note.hidden = true;
    },
    remove() {
      note.remove();
    },
  };
}
