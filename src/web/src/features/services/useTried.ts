import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../api/queries";
import type { Service } from "../../api/setup";
import { useSettled } from "../../shared/settled";
import { useLocations } from "../team/team";

const days = 7;

/** What a service would be like if it were saved as it stands: its starts in the next days, and where the extras fall. */
export function useTried(service: Service) {
  const locations = useLocations();
  const [place, setPlace] = useState("");
  const [addOnIds, setAddOnIds] = useState<string[]>([]);
  const places = (locations.data ?? []).filter(
    (location) => (service.locationIds ?? []).length === 0 || service.locationIds!.includes(location.id!),
  );
  const locationId = places.find((other) => other.id === place)?.id ?? places[0]?.id ?? null;
  const settled = useSettled(service, 250);
  const answer = useQuery({
    ...asks.tried({ service: { ...settled, name: settled.name || "…" }, locationId: locationId ?? "", days, addOnIds }),
    enabled: locationId !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
  return { answer, places, locationId, setPlace, addOnIds, setAddOnIds };
}

export type Tried = ReturnType<typeof useTried>;
