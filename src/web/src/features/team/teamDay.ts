import { asks } from "../../api/queries";
import { useQueries } from "@tanstack/react-query";
import { type Day } from "../../api/staff";
import { minuteOf } from "../../shared/fields/clockText";
import { wallTime } from "../../shared/format";
import type { Stretch } from "../../shared/ribbon/stretch";

/** Where and when somebody is on a day, and what is taken out of it. */
export type Presence = { place: string; fullness: number | null; open: Stretch[]; blocked: Stretch[] };

const stretchIn = (zone: string, { from, until }: { from: string; until: string }): Stretch => {
  const begins = minuteOf(`${wallTime(from, zone)}:00`);
  return { from: begins, until: begins + (Date.parse(until) - Date.parse(from)) / 60_000 };
};

/** Where each practitioner is on a day, by their identity, from the book of every location; whoever is nowhere is not in it. */
export function presencesOf(days: { day: Day; place: string }[]): Map<string, Presence[]> {
  const found = new Map<string, Presence[]>();
  for (const { day, place } of days) {
    for (const lane of day.lanes) {
      const open = lane.open.map((stretch) => stretchIn(day.zone, stretch));
      if (lane.kind !== "practitioner" || open.length === 0) continue;
      const blocked = lane.blocked
        .map((stretch) => stretchIn(day.zone, stretch))
        .filter((stretch) => open.some((at) => at.from < stretch.until && stretch.from < at.until));
      const fullness = lane.fullness == null ? null : Number(lane.fullness);
      found.set(lane.id, [...(found.get(lane.id) ?? []), { place, fullness, open, blocked }]);
    }
  }
  return found;
}

/** Who works on a date, at all locations. */
export function useTeamDay(locations: { id: string; name: string }[], date: string) {
  const days = useQueries({
    queries: locations.map(({ id }) => asks.day(id, date)),
  });
  const isKnown = days.every((day) => day.data);
  const presences = presencesOf(days.flatMap(({ data }, i) => (data ? { day: data, place: locations[i]!.name } : [])));
  return { isKnown, presences };
}
