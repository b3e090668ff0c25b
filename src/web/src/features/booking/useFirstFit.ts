import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { asks } from "../../api/queries";
import { addDays } from "../../shared/format";
import { isSingleKey } from "../../shared/singleKeys";
import { chosenIn, firstLight } from "./carry/lights";
import type { Chosen } from "./fits";
import type { Narrow } from "./NarrowPart";
import type { StartQuestion } from "./StartList";

/** How far "first that fits" looks ahead, in days. */
const ahead = 14;

type Wanted = {
  question: StartQuestion;
  narrow: Narrow;
  date: string;
  zone: string;
  chosen: Chosen | null;
  onChoose: (start: Chosen | null) => void;
  onDay: (date: string) => void;
};

/** Jumps to the first start that fits, and from there to the next, past the day where need be. The key is f. */
export function useFirstFit({ question, narrow, date, zone, chosen, onChoose, onDay }: Wanted) {
  const queries = useQueryClient();
  const [isLooking, setLooking] = useState(false);
  const [found, setFound] = useState<"nothing" | null>(null);
  const awaited = useRef<{ date: string; start: Chosen } | null>(null);
  useEffect(() => {
    if (awaited.current?.date !== date) return;
    onChoose(awaited.current.start);
    awaited.current = null;
  }, [date, onChoose]);
  const next = async () => {
    setLooking(true);
    setFound(null);
    const { locationId, lines, visitId } = question;
    const after = chosen?.start ?? null;
    const ask = (from: string, days: number) =>
      queries.fetchQuery(asks.lights({ locationId, lines, from, days, visitId: visitId ?? null, narrow }));
    try {
      const people = new Set((queries.getQueryData(asks.desk().queryKey)?.practitioners ?? []).map((who) => who.id));
      const days = [...(await ask(date, 1)).days, ...(await ask(addDays(date, 1), ahead)).days];
      for (const day of days) {
        let first = firstLight(day, day.date === date ? after : null, people);
        if (first && question.present && Date.parse(first.start) === Date.parse(question.present))
          first = firstLight(day, first.start, people);
        if (!first) continue;
        const there = chosenIn(first.light, first.start, zone);
        // On another day it is chosen once that day is shown: what is chosen belongs to the day one looks at.
        if (day.date === date) onChoose(there);
        else {
          awaited.current = { date: day.date, start: there };
          onDay(day.date);
        }
        return;
      }
      setFound("nothing");
    } finally {
      setLooking(false);
    }
  };
  const press = useRef(next);
  useEffect(() => {
    press.current = next;
  });
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (event.key !== "f" || !isSingleKey(event)) return;
      event.preventDefault();
      void press.current();
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, []);
  return { next: () => void next(), isLooking, found };
}
