import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { clock, shortDateWithYear } from "../../../shared/format";
import { Box, Row } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { solveAll, type Occurrence, type Solutions } from "./repeats";

type Props = {
  dates: Occurrence[];
  zone: string;
  solutions: Solutions;
  /** What is said once all of them fit, are solved or left out. */
  kept: string;
  /** What is said of one that is left out. */
  out: string;
  onSolve: (solutions: Solutions) => void;
};

/** Every date of a row with what it meets: solved one by one, or all at once. */
export function Dates({ dates, zone, solutions, kept, out, onSolve }: Props) {
  const open = dates.filter((one) => !one.fits && !solutions[one.start]);
  return (
    <>
      {dates.length > 0 && (
        <Box role="status" fontWeight="600">
          {open.length === 0
            ? kept
            : plural(open.length, { one: "# of them does not fit.", other: "# of them do not fit." })}
        </Box>
      )}
      {open.length > 1 && (
        <Row gap="1">
          <Press size="small" onClick={() => onSolve(solveAll(dates, solutions, "nearest"))}>
            <Trans>All to the nearest time</Trans>
          </Press>
          <Press size="small" onClick={() => onSolve(solveAll(dates, solutions, "out"))}>
            <Trans>Leave all of them out</Trans>
          </Press>
        </Row>
      )}
      <Box as="ol" display="grid" gap="1" maxH="60" overflowY="auto" tabIndex={0} aria-label={t`Dates`}>
        {dates.map((one) => (
          <DateRow
            key={one.start}
            one={one}
            zone={zone}
            solution={solutions[one.start]}
            out={out}
            onSolve={(solution) => onSolve({ ...solutions, [one.start]: solution })}
          />
        ))}
      </Box>
    </>
  );
}

type RowProps = {
  one: Occurrence;
  zone: string;
  solution: Solutions[string] | undefined;
  out: string;
  onSolve: (solution: Solutions[string]) => void;
};

function DateRow({ one, zone, solution, out, onSolve }: RowProps) {
  const isOut = solution?.kind === "out";
  return (
    <Box as="li" borderTopWidth="line" borderColor="line" pt="1">
      <Row justifyContent="space-between" gap="1">
        <Box fontWeight="600" textDecoration={isOut ? "line-through" : undefined}>
          {shortDateWithYear(one.date)}, {clock(solution?.kind === "nearest" ? one.nearest! : one.start, zone)}
        </Box>
        <Box fontSize="small" color={one.fits || solution ? "quiet" : "clay"}>
          {isOut
            ? out
            : solution?.kind === "other"
              ? t`with ${one.other!.name}`
              : solution
                ? t`nearest time`
                : one.fits
                  ? t`fits`
                  : t`does not fit`}
        </Box>
      </Row>
      {one.reasons.length > 0 && !solution && (
        <Box fontSize="small" color="quiet">
          {one.reasons[0]!.text}
        </Box>
      )}
      {!one.fits && (
        <Row gap="1" mt="0.5">
          {one.nearest && (
            <Press
              size="small"
              aria-pressed={solution?.kind === "nearest"}
              onClick={() => onSolve({ kind: "nearest" })}
            >
              {clock(one.nearest, zone)}
            </Press>
          )}
          {one.other && (
            <Press size="small" aria-pressed={solution?.kind === "other"} onClick={() => onSolve({ kind: "other" })}>
              <Trans>With {one.other.name}</Trans>
            </Press>
          )}
          <Press size="small" look="quiet" aria-pressed={isOut} onClick={() => onSolve({ kind: "out" })}>
            <Trans>Leave out</Trans>
          </Press>
        </Row>
      )}
    </Box>
  );
}
