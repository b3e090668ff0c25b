import { useCallback } from "react";
import type { Visit } from "../../../api/staff";
import { linesOf, requestOf } from "../lines/lineDrafts";
import { asWide } from "../NarrowPart";
import { useLaying } from "../useLaying";
import type { Carried } from "./carried";

type Wanted = {
  locationId: string;
  date: string;
  carry: (carried: Carried | null) => void;
  onDay: (date: string) => void;
  onVisit: (id: string, mode: "move" | "change", more: Record<string, string>) => void;
};

/** Takes a visit up as it is dragged: put down where it fits it is moved, elsewhere its sheet says why not. */
export function usePickingUp({ locationId, date, carry, onDay, onVisit }: Wanted) {
  const { mutate } = useLaying((visit) => {
    if (visit.date !== date) onDay(visit.date);
  });
  const letGo = useCallback(() => carry(null), [carry]);
  const pickUp = useCallback(
    (visit: Visit) => {
      const lines = requestOf(linesOf(visit));
      // In another lane somebody else takes it: whoever does it now does not stand in the way of looking.
      const open = lines.map((line, i) => (i === 0 ? { ...line, practitionerId: null, asked: null } : line));
      carry({
        locationId,
        lines: open,
        visitId: visit.id,
        chosen: null,
        present: visit.start,
        narrow: asWide,
        take: (start) => {
          carry(null);
          mutate({ visit, lines, start });
        },
        ask: (practitionerId, at) => {
          carry(null);
          onVisit(visit.id, "move", { at, ...(practitionerId && { by: practitionerId }) });
        },
      });
    },
    [carry, locationId, mutate, onVisit],
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
