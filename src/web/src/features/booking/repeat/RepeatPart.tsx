import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { SelectField } from "../../../shared/Field";
import { DateField } from "../../../shared/fields/DateField";
import { clock, shortDateWithYear } from "../../../shared/format";
import { NumberField } from "../../../shared/inputs";
import { Box, Row, Stack } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { Problem } from "../../../shared/problem";
import { solveAll, type Occurrence, type Repeat, type Solutions, type Unit } from "./repeats";
import type { Row as RowOfVisits } from "./useRow";

type Props = { zone: string; row: RowOfVisits; repeat: Repeat };

/** How a visit repeats, and every date with what it meets: solved one by one, or all at once. */
export function RepeatPart({ zone, row, repeat }: Props) {
  const { dates, solutions, kept, set: onChange } = row;
  const set = (change: Partial<Repeat>) => onChange({ ...repeat, ...change }, {});
  const errors = row.error instanceof Problem ? row.error.errors : {};
  const open = dates.filter((one) => !one.fits && !solutions[one.start]);
  return (
    <Stack as="section" gap="2" aria-label={t`Repeat`} bg="paper" borderRadius="card" p="2.5">
      <Row alignItems="end" flexWrap="nowrap" gap="2">
        <Box w="18" flexShrink={0}>
          <NumberField
            label={t`Every`}
            min={1}
            value={repeat.every}
            error={errors["repeat.every"]}
            onChange={(every) => set({ every })}
          />
        </Box>
        <Box flex="1">
          <SelectField label={t`What`} value={repeat.unit} onChange={(e) => set({ unit: e.target.value as Unit })}>
            <option value="day">{plural(repeat.every ?? 1, { one: "day", other: "days" })}</option>
            <option value="week">{plural(repeat.every ?? 1, { one: "week", other: "weeks" })}</option>
            <option value="month">{plural(repeat.every ?? 1, { one: "month", other: "months" })}</option>
          </SelectField>
        </Box>
      </Row>
      <Row alignItems="end" flexWrap="nowrap" gap="2">
        <Box w="18" flexShrink={0}>
          <NumberField
            label={t`Times`}
            min={2}
            value={repeat.times}
            error={errors["repeat.times"]}
            onChange={(times) => set({ times, until: times === null ? (repeat.until ?? null) : null })}
          />
        </Box>
        <Box flex="1">
          <DateField
            label={t`or until`}
            value={repeat.until}
            error={errors["repeat.until"]}
            onChange={(until) => set({ until, times: until === null ? 6 : null })}
          />
        </Box>
      </Row>
      {row.error && Object.keys(errors).length === 0 && <Box role="alert">{row.error.message}</Box>}
      {dates.length > 0 && (
        <Box role="status" fontWeight="600">
          {open.length === 0
            ? plural(kept.length, { one: "# visit will be booked.", other: "# visits will be booked." })
            : plural(open.length, { one: "# of them does not fit.", other: "# of them do not fit." })}
        </Box>
      )}
      {open.length > 1 && (
        <Row gap="1">
          <Press size="small" onClick={() => onChange(repeat, solveAll(dates, solutions, "nearest"))}>
            <Trans>All to the nearest time</Trans>
          </Press>
          <Press size="small" onClick={() => onChange(repeat, solveAll(dates, solutions, "out"))}>
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
            onSolve={(solution) => onChange(repeat, { ...solutions, [one.start]: solution })}
          />
        ))}
      </Box>
      <Press size="small" look="quiet" justifySelf="start" onClick={() => onChange(null, {})}>
        <Trans>Once only</Trans>
      </Press>
    </Stack>
  );
}

type RowProps = {
  one: Occurrence;
  zone: string;
  solution: Solutions[string] | undefined;
  onSolve: (solution: Solutions[string]) => void;
};

function DateRow({ one, zone, solution, onSolve }: RowProps) {
  const isOut = solution?.kind === "out";
  return (
    <Box as="li" borderTopWidth="line" borderColor="line" pt="1">
      <Row justifyContent="space-between" gap="1">
        <Box fontWeight="600" textDecoration={isOut ? "line-through" : undefined}>
          {shortDateWithYear(one.date)}, {clock(solution?.kind === "nearest" ? one.nearest! : one.start, zone)}
        </Box>
        <Box fontSize="small" color={one.fits || solution ? "quiet" : "clay"}>
          {isOut
            ? t`left out`
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
