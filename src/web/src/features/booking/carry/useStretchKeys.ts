import { useEffect, useRef } from "react";
import type { Day, Visit } from "../../../api/staff";
import { isSingleKey } from "../../../shared/singleKeys";
import { least } from "./drawing";

type Wanted = {
  day: Day;
  onStretchBy: ((visit: Visit, lineId: string, minutes: number) => void) | undefined;
};

/** The keys l and s make the line whose block has the focus longer, or shorter, by five minutes. */
export function useStretchKeys(wanted: Wanted) {
  const present = useRef(wanted);
  useEffect(() => {
    present.current = wanted;
  });
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const step = { l: least, s: -least }[event.key];
      const block = (event.target as HTMLElement).closest<HTMLElement>("[data-visit][data-line]");
      if (!step || !block || !isSingleKey(event)) return;
      const { day, onStretchBy } = present.current;
      const visit = day.visits.find((other) => other.reference === block.dataset["visit"]);
      const line = visit?.lines.find((other) => other.id === block.dataset["line"]);
      if (!visit?.canChange || !line || !onStretchBy) return;
      event.preventDefault();
      onStretchBy(visit, line.id, step);
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
}
