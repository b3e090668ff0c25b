import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { asks } from "../../api/queries";
import { addDays } from "../../shared/format";

// A day that was fetched ahead so lately is not fetched ahead once more; shown, it is asked for anew where anything changed.
const freshFor = 60_000;
/** The day that is shown has the machine to itself until it has been painted. In milliseconds. */
const afterwards = 150;

/** Fetches the day before and the day after ahead, once a day is there, so that the next one is drawn as soon as it is wanted. */
export function useNeighbours(locationId: string, date: string, isThere: boolean) {
  const queries = useQueryClient();
  useEffect(() => {
    if (!isThere) return;
    const timer = setTimeout(() => {
      for (const step of [1, -1])
        void queries.prefetchQuery({ ...asks.day(locationId, addDays(date, step)), staleTime: freshFor });
    }, afterwards);
    return () => clearTimeout(timer);
  }, [queries, locationId, date, isThere]);
}
