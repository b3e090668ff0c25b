import type { components } from "../../../api/generated/schema";

type Schemas = components["schemas"];
export type Occurrence = Schemas["OccurrenceAnswer"];
export type Unit = Schemas["RepeatUnit"];

/** How a visit repeats. */
export type Repeat = { unit: Unit; every: number | null; times: number | null; until: string | null };

/** How a date that does not fit is solved, by its start. */
export type Solutions = Record<string, { kind: "nearest" | "other" | "out" }>;

export const usualRepeat: Repeat = { unit: "week", every: 1, times: 6, until: null };

/** The visits that are booked: those that fit, and those that were solved. */
export const keptOf = (dates: Occurrence[], solutions: Solutions): Schemas["OccurrenceRequest"][] =>
  dates.flatMap((one): Schemas["OccurrenceRequest"][] => {
    if (one.fits) return [{ start: one.start, practitionerId: null }];
    const solution = solutions[one.start]?.kind;
    if (solution === "nearest" && one.nearest) return [{ start: one.nearest, practitionerId: null }];
    if (solution === "other" && one.other) return [{ start: one.start, practitionerId: one.other.id }];
    return [];
  });

/** Whether every date fits, is solved or is left out, and at least two are left. */
export const isSolved = (dates: Occurrence[], solutions: Solutions) =>
  dates.every((one) => one.fits || solutions[one.start]) && keptOf(dates, solutions).length > 1;

/** Solves all dates that do not fit the same way; where that way leads nowhere they are left out. */
export const solveAll = (dates: Occurrence[], solutions: Solutions, kind: "nearest" | "out"): Solutions => ({
  ...solutions,
  ...Object.fromEntries(
    dates
      .filter((one) => !one.fits && !solutions[one.start])
      .map((one) => [one.start, { kind: kind === "nearest" && !one.nearest ? ("out" as const) : kind }]),
  ),
});

/** A visit of a row, and where it would go with the one that is moved. */
export type RowMoveTried = Schemas["RowMoveAnswer"];

/** The visits of a row that are moved: those that fit there and those that were solved; what is left out stays where it is. */
export const movesOf = (
  row: RowMoveTried[],
  solutions: Solutions,
  practitionerId: string | null,
): Schemas["RowMoveOne"][] =>
  row.flatMap(({ visitId, version, there }) =>
    keptOf([there], solutions).map((kept) => ({
      visitId,
      version,
      start: kept.start,
      practitionerId: kept.practitionerId ?? practitionerId,
    })),
  );

/** Whether every visit of a row fits where it goes, is solved or left out, and one at least is moved. */
export const isMoveSolved = (row: RowMoveTried[], solutions: Solutions) =>
  row.every(({ there }) => there.fits || solutions[there.start]) && movesOf(row, solutions, null).length > 0;
