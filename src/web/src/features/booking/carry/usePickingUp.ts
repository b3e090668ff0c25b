import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useCallback, useRef } from "react";
import { asks } from "../../../api/queries";
import type { Visit } from "../../../api/staff";
import { linesOf, requestOf } from "../lines/lineDrafts";
import { useLaying } from "../useLaying";
import { standing, type Carried } from "./carried";
import { least, minutesFrom } from "./drawing";

type Wanted = {
  date: string;
  carry: (carried: Carried | null) => void;
  onDay: (date: string) => void;
  onVisit: (id: string, mode: "move" | "change", more: Record<string, string>) => void;
};

/** The visit as it was answered last: the day that is drawn may still show it as it was a moment ago. */
const latest = (queries: QueryClient, visit: Visit): Visit => {
  const answered = queries.getQueryData<Visit>(asks.visit(visit.id).queryKey);
  return answered && answered.version > visit.version ? answered : visit;
};

/** Takes a visit up as it is dragged: put down where it fits it is moved, elsewhere its sheet says why not. */
export function usePickingUp({ date, carry, onDay, onVisit }: Wanted) {
  const { mutate } = useLaying(
    (visit) => {
      if (visit.date !== date) onDay(visit.date);
    },
    ({ visit, start }) => onVisit(visit.id, "move", { at: start.start, by: start.practitionerId }),
  );
  const queries = useQueryClient();
  const letGo = useCallback(() => carry(null), [carry]);
  const pickUp = useCallback(
    (drawn: Visit) => {
      const visit = latest(queries, drawn);
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
    [carry, mutate, onVisit, queries],
  );
  const stretch = useCallback(
    (drawn: Visit, lineId: string, minutes: number, onDone?: (visit: Visit | null) => void) => {
      const visit = latest(queries, drawn);
      const lines = requestOf(linesOf(visit));
      const start = { start: visit.start, practitionerId: lines[0]!.practitionerId! };
      mutate(
        { visit, start, lines: lines.map((line) => (line.id === lineId ? { ...line, minutes } : line)) },
        // Where it does not fit that long, its sheet says why not and what can be done.
        {
          onSuccess: (next) => onDone?.(next),
          onError: () => {
            onDone?.(null);
            onVisit(visit.id, "change", { length: `${lineId} ${String(minutes)}` });
          },
        },
      );
    },
    [mutate, onVisit, queries],
  );
  // Pressed again while an answer is on its way, the key adds up; all of it goes with the next.
  const pulled = useRef<{ lineId: string; minutes: number } | null>(null);
  const stretchBy = useCallback(
    (drawn: Visit, lineId: string, step: number) => {
      const visit = latest(queries, drawn);
      const line = visit.lines.find((other) => other.id === lineId);
      if (!line) return;
      const add = (minutes: number) => Math.max(least, minutes + step);
      if (pulled.current?.lineId === lineId) {
        pulled.current.minutes = add(pulled.current.minutes);
        return;
      }
      const own = { lineId, minutes: add(minutesFrom(line.start, line.end)) };
      pulled.current = own;
      const send = (from: Visit) => {
        const sent = own.minutes;
        stretch(from, lineId, sent, (next) => {
          if (next && own.minutes !== sent) send(next);
          else if (pulled.current === own) pulled.current = null;
        });
      };
      send(visit);
    },
    [queries, stretch],
  );
  return { pickUp, letGo, stretch, stretchBy };
}
