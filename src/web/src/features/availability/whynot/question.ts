import { asks } from "../../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";

import { useDeskSetup } from "../../../shared/today";

/** Most services of one visit, as the booking page takes them. */
export const mostLines = 4;
/** How many days are counted. */
const daysCounted = 14;

/** What is asked, as the address says it. */
export function useQuestion() {
  const setup = useDeskSetup();
  const [search, setSearch] = useSearchParams();
  const asked = search.getAll("service").filter((id) => setup.services.some((other) => other.id === id));
  const serviceIds = asked.length > 0 ? asked : setup.services.slice(0, 1).map((other) => other.id);
  const service = setup.services.find((other) => other.id === serviceIds[0]);
  const places = setup.locations.filter((other) => !service || service.locationIds.includes(other.id));
  const location =
    setup.locations.find((other) => other.id === search.get("location")) ?? places[0] ?? setup.locations[0];
  const change = (values: Record<string, string | string[] | null>) => {
    const next = new URLSearchParams(search);
    for (const [key, value] of Object.entries({ at: null, ...values })) {
      next.delete(key);
      for (const single of Array.isArray(value) ? value : value ? [value] : []) next.append(key, single);
    }
    setSearch(next, { replace: Object.keys(values).join() === "at" });
  };
  return {
    setup,
    serviceIds,
    service,
    location,
    date: search.get("date") ?? location?.today ?? "",
    practitionerId: search.get("by"),
    who: search.get("as") ?? "new",
    at: search.get("at"),
    change,
  };
}

export type Question = ReturnType<typeof useQuestion>;

/** The reasons of a day, and how many starts the days from it on have. */
export function useReasons({ serviceIds, practitionerId, location, date, who }: Question) {
  const ask = (from: string, days: number) =>
    asks.dayReasons({
      locationId: location?.id ?? "",
      lines: serviceIds.map((id, i) => ({ serviceId: id, practitionerId: i === 0 ? practitionerId : null })),
      from,
      days,
      asClient: who !== "desk",
      newClient: who === "new",
    });
  const enabled = Boolean(location && serviceIds[0]);
  const day = useQuery({ ...ask(date, 1), enabled });
  const from = location && date >= location.today ? runFrom(date, location.today) : date;
  const run = useQuery({
    ...ask(from, daysCounted),
    enabled,
    placeholderData: (before) => before,
  });
  return { day, run };
}

/** The first of the days counted around a date: fortnights from today on, so that the days stay where they are when another is pressed. */
function runFrom(date: string, today: string) {
  const apart = Math.round((Date.parse(date) - Date.parse(today)) / 86_400_000);
  return new Date(Date.parse(today) + Math.floor(apart / daysCounted) * daysCounted * 86_400_000)
    .toISOString()
    .slice(0, 10);
}
