import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { asks } from "../../../api/queries";
import type { Day } from "../../../api/staff";
import { isSingleKey } from "../../../shared/singleKeys";
import { lightsAsked, standing, type Carried } from "../carry/carried";
import { bandsOf, chosenIn, lightAt } from "../carry/lights";
import { asWide } from "../NarrowPart";
import { useLaying } from "../useLaying";

const nothing: Pick<Carried, "locationId" | "lines" | "visitId" | "present" | "narrow"> = {
  locationId: "",
  lines: [],
  visitId: null,
  present: null,
  narrow: asWide,
};

/**
 * A visit that is carried over a week, of which the address tells: m picks up the one that has the focus, what fits glows on every
 * day, a press puts it down, Escape leaves it where it is.
 */
export function useWeekCarry(of: string, monday: string, days: readonly Day[], mayKeep: boolean) {
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const id = mayKeep && search.get("do") === "move" ? search.get("visit") : null;
  const visit = useQuery({ ...asks.visit(id ?? ""), enabled: id !== null });
  const carried = id !== null ? visit.data : undefined;
  const asked = carried?.canMove === true;
  const found = useQuery({
    ...asks.lights({ ...lightsAsked(asked ? standing(carried) : nothing, monday), days: 7 }),
    enabled: asked,
  });
  const lay = useLaying(() => setSearch({ of }));
  const lights = useMemo(
    () =>
      new Map(
        asked
          ? found.data?.days.map((day) => [day.date, day.lanes.find((lane) => lane.resourceId === of)?.ranges ?? []])
          : [],
      ),
    [asked, found.data, of],
  );
  const drop = () => setSearch({ of });
  useEffect(() => {
    if (!mayKeep) return;
    const press = (event: KeyboardEvent) => {
      if (event.key === "Escape" && id !== null) return setSearch({ of });
      const reference = (event.target as HTMLElement).closest<HTMLElement>("[data-visit]")?.dataset["visit"];
      if (event.key !== "m" || !reference || !isSingleKey(event)) return;
      const taken = days.flatMap((day) => day.visits).find((other) => other.reference === reference);
      if (!taken?.canMove) return;
      event.preventDefault();
      setSearch({ of, visit: taken.id, do: "move" });
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [days, id, mayKeep, of, setSearch]);
  return {
    carried: asked ? carried : undefined,
    isLooking: asked && found.isPending,
    bandsOn: (date: string) => (asked ? bandsOf(lights.get(date) ?? []) : undefined),
    drop,
    /** Puts it down where it fits; elsewhere its sheet on that day says why not. */
    put: (day: Day, at: string) => {
      if (!carried) return;
      const light = lightAt(lights.get(day.date), at);
      const by = day.lanes[0]?.kind === "practitioner" ? of : null;
      if (light)
        lay.mutate({
          visit: carried,
          lines: standing(carried).lines,
          start: chosenIn(light, at, day.zone, by ? undefined : of),
        });
      else
        void navigate(
          `/day/${day.locationId}/${day.date}?${new URLSearchParams({ visit: carried.id, do: "move", at, ...(by && { by }) }).toString()}`,
        );
    },
  };
}
