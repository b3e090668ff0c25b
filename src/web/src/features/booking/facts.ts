import type { DeskSetup, Visit } from "../../api/staff";
import { andWords, clock, clockRange, dateIn, shortDate } from "../../shared/format";
import { marks } from "./BlockMark";
import type { LineRequest } from "./lines/lineDrafts";

/** What of a visit is compared, in the order it is read. */
export type Facts = { when: string; what: string; who: string; where: string; state: string };

/** A visit in words. */
export const factsOf = (visit: Visit): Facts => ({
  when: `${shortDate(visit.date)}, ${clockRange(visit.start, visit.end, visit.zone)}`,
  what: andWords(visit.lines.map((line) => [line.service, ...line.addOns.map((addOn) => addOn.name)].join(" + "))),
  who: andWords([...new Set(visit.lines.flatMap((line) => line.practitioners.map((one) => one.name)))]),
  where: andWords([...new Set(visit.lines.flatMap((line) => line.rooms))]),
  state: marks[visit.state].word,
});

/** What somebody has written and not saved, as far as it says. */
export const factsWritten = (lines: LineRequest[], start: string | null, setup: DeskSetup, zone: string) => ({
  ...(start && { when: `${shortDate(dateIn(start, zone))}, ${clock(start, zone)}` }),
  what: andWords(
    lines.map((line) => {
      const service = setup.services.find((other) => other.id === line.serviceId);
      const extras = (line.addOns ?? []).map((added) => service?.addOns.find((one) => one.id === added.addOnId)?.name);
      return [service?.name, ...extras].filter(Boolean).join(" + ");
    }),
  ),
  who: andWords([
    ...new Set(lines.flatMap((line) => setup.practitioners.find((one) => one.id === line.practitionerId)?.name ?? [])),
  ]),
});
