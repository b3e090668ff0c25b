import { useCallback } from "react";
import type { Visit } from "../../../api/staff";
import { linesOf, requestOf } from "../lines/lineDrafts";
import { useLaying } from "../useLaying";
import { standing, type Carried } from "./carried";

type Wanted = {
  date: string;
  carry: (carried: Carried | null) => void;
  onDay: (date: string) => void;
  onVisit: (id: string, mode: "move" | "change", more: Record<string, string>) => void;
};

/** Takes a visit up as it is dragged: put down where it fits it is moved, elsewhere its sheet says why not. */
export function usePickingUp({ date, carry, onDay, onVisit }: Wanted) {
  const { mutate } = useLaying(
    (visit) => {
      if (visit.date !== date) onDay(visit.date);
    },
    ({ visit, start }) => onVisit(visit.id, "move", { at: start.start, by: start.practitionerId }),
  );
  const letGo = useCallback(() => carry(null), [carry]);
  const pickUp = useCallback(
    (visit: Visit) => {
      const held = standing(visit);
      carry({
        ...held,
        take: (start) => {
          carry(null);
          mutate({ visit, lines: held.lines, start });
        },
        ask: (practitionerId, at) => {
          carry(null);
          onVisit(visit.id, "move", { at, ...(practitionerId && { by: practitionerId }) });
        },
      });
    },
    [carry, mutate, onVisit],
  );
  const stretch = useCallback(
    (visit: Visit, lineId: string, minutes: number) => {
      const lines = requestOf(linesOf(visit));
      const start = { start: visit.start, practitionerId: lines[0]!.practitionerId! };
      mutate(
        { visit, start, lines: lines.map((line) => (line.id === lineId ? { ...line, minutes } : line)) },
        // Where it does not fit that long, its sheet says why not and what can be done.
        { onError: () => onVisit(visit.id, "change", { length: `${lineId} ${String(minutes)}` }) },
      );
    },
    [mutate, onVisit],
  );
  return { pickUp, letGo, stretch };
}
