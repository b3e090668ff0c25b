import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { SelectField } from "../../../shared/Field";
import { DateField } from "../../../shared/fields/DateField";
import { NumberField } from "../../../shared/inputs";
import { Box, Row, Stack } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { Problem } from "../../../shared/problem";
import { Dates } from "./Dates";
import type { Repeat, Unit } from "./repeats";
import type { Row as RowOfVisits } from "./useRow";

type Props = { zone: string; row: RowOfVisits; repeat: Repeat };

/** How a visit repeats, and every date with what it meets: solved one by one, or all at once. */
export function RepeatPart({ zone, row, repeat }: Props) {
  const { dates, solutions, kept, set: onChange } = row;
  const set = (change: Partial<Repeat>) => onChange({ ...repeat, ...change }, {});
  const errors = row.error instanceof Problem ? row.error.errors : {};
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
      <Dates
        dates={dates}
        zone={zone}
        solutions={solutions}
        kept={plural(kept.length, { one: "# visit will be booked.", other: "# visits will be booked." })}
        out={t`left out`}
        onSolve={(next) => onChange(repeat, next)}
      />
      <Press size="small" look="quiet" justifySelf="start" onClick={() => onChange(null, {})}>
        <Trans>Once only</Trans>
      </Press>
    </Stack>
  );
}
