import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { asks } from "../../../api/queries";
import type { Visit } from "../../../api/staff";
import { lightsAsked, standing } from "./carried";

/** Somebody who opens a visit often moves it: where it could go is asked while they read, so that it glows at once. */
export function useLightsAhead(visit: Visit | undefined, date: string, may: boolean) {
  const queries = useQueryClient();
  const wanted = may && visit?.canMove ? visit : undefined;
  useEffect(() => {
    if (!wanted) return;
    const timer = setTimeout(() => void queries.prefetchQuery(asks.lights(lightsAsked(standing(wanted), date))), 150);
    return () => clearTimeout(timer);
  }, [queries, wanted, date]);
}
