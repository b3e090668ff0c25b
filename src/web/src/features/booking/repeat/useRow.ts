import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../../api/queries";
import type { Chosen } from "../fits";
import { putInto } from "../lines/lineDrafts";
import type { StartQuestion } from "../StartList";
import { isSolved, keptOf, usualRepeat, type Repeat, type Solutions } from "./repeats";

type Wanted = {
  locationId: string;
  /** What was asked and pointed at, as one text. */
  here: string;
  start: Chosen | null;
  question: StartQuestion | null;
  clientId: string | null;
};

/** The row of visits a new one may be the first of: how it repeats, what every date meets, how that is solved. */
export function useRow({ locationId, here, start, question, clientId }: Wanted) {
  const [repeat, setRepeat] = useState<Repeat | null>(null);
  // How a date is solved belongs to the row it was asked of.
  const [solved, setSolved] = useState<{ of: string; by: Solutions }>({ of: "", by: {} });
  const keyOf = (next: Repeat | null) => `${here} ${start?.start ?? ""} ${JSON.stringify(next)}`;
  const solutions = solved.of === keyOf(repeat) ? solved.by : {};
  const asked = useQuery({
    ...asks.repeatTried({
      locationId,
      start: start?.start ?? "",
      lines: start && question ? putInto(question.lines, start) : [],
      // A field that is empty for the moment is asked about too: the answer says beside it what is missing.
      repeat: { ...(repeat ?? usualRepeat), every: repeat?.every ?? (repeat ? 0 : 1) },
      clientId,
    }),
    enabled: repeat !== null && start !== null && question !== null,
    retry: false,
  });
  const dates = repeat && start && !asked.error ? (asked.data ?? []) : [];
  return {
    repeat,
    solutions,
    dates,
    error: asked.error,
    kept: keptOf(dates, solutions),
    isReady: repeat === null || isSolved(dates, solutions),
    set: (next: Repeat | null, by: Solutions) => {
      setRepeat(next);
      setSolved({ of: keyOf(next), by });
    },
  };
}

export type Row = ReturnType<typeof useRow>;
