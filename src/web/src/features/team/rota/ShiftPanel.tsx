import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { stretchOf } from "../../../shared/week/stretchOf";
import { type Shift, type Weekday } from "../../../api/setup";
import { SelectField, TextField } from "../../../shared/Field";
import { TimeField } from "../../../shared/fields/TimeField";
import { timeAt } from "../../../shared/fields/clockText";
import { Box, Row, Stack } from "../../../shared/layout";
import { Plain } from "../../../shared/Plain";
import { Press } from "../../../shared/Press";
import { LikeDays } from "../../../shared/week/LikeDays";
import { snap } from "../../../shared/ribbon/stretch";
import { useDeskSetup } from "../../../shared/today";
import { KeptFor } from "./KeptFor";
import { timeWords } from "../../../shared/format";

type Props = {
  shift: Shift;
  /** Which day of a week it is on, with how other days are made like it. */
  weekday?: Weekday;
  errors: Record<string, string>;
  /** Path of the shift in what is sent, for its errors. */
  path: string;
  onChange: (shift: Shift) => void;
  onRemove: () => void;
  onCopy?: (to: Weekday[]) => void;
};

/** One shift in figures: when, where, its breaks, what it is kept for, and which other days are like it. */
export function ShiftPanel({ shift, weekday, errors, path, onChange, onRemove, onCopy }: Props) {
  const { locations } = useDeskSetup();
  const breaks = shift.breaks ?? [];
  const setBreak = (i: number, change: object) =>
    onChange({ ...shift, breaks: breaks.map((rest, j) => (j === i ? { ...rest, ...change } : rest)) });
  const addBreak = () => {
    const { from, until } = stretchOf(shift);
    const start = snap((from + until) / 2 - 15);
    onChange({ ...shift, breaks: [...breaks, { from: timeAt(start), until: timeAt(start + 30), reason: t`Lunch` }] });
  };
  return (
    <Stack gap="2.5" p="1.5" w="100" maxW="90vw">
      <Box display="grid" gridTemplateColumns="{sizes.21} {sizes.21} minmax(0, 1fr)" gap="2" alignItems="start">
        <TimeField
          label={t`From`}
          value={shift.from}
          error={errors[`${path}from`]}
          onChange={(from) => onChange({ ...shift, from })}
        />
        <TimeField
          label={t`Until`}
          value={shift.until}
          error={errors[`${path}until`]}
          onChange={(until) => onChange({ ...shift, until })}
        />
        {locations.length > 1 && (
          <SelectField
            label={t`At`}
            value={shift.locationId}
            error={errors[`${path}locationId`]}
            onChange={(e) => onChange({ ...shift, locationId: e.target.value })}
          >
            {locations.map((location) => (
              <option key={location.id} value={location.id}>
                {location.name}
              </option>
            ))}
          </SelectField>
        )}
      </Box>
      {breaks.map((rest, i) => (
        <Row key={i} alignItems="end" gap="2" flexWrap="nowrap">
          <TimeField
            label={t`Break from`}
            value={rest.from}
            error={errors[`${path}breaks[${i}].from`]}
            onChange={(from) => setBreak(i, { from })}
          />
          <TimeField label={t`Break until`} value={rest.until} onChange={(until) => setBreak(i, { until })} />
          <TextField
            label={t`Called`}
            value={rest.reason ?? ""}
            onChange={(e) => setBreak(i, { reason: e.target.value })}
          />
          <Plain
            aria-label={t`Take out the break at ${timeWords(rest.from)}`}
            cursor="pointer"
            minW="8"
            minH="9"
            onClick={() => onChange({ ...shift, breaks: breaks.filter((_, j) => j !== i) })}
          >
            ✕
          </Plain>
        </Row>
      ))}
      <KeptFor shift={shift} onChange={onChange} />
      {weekday && onCopy && <LikeDays weekday={weekday} onCopy={onCopy} />}
      <Row>
        <Press size="small" onClick={addBreak}>
          <Trans>Add a break</Trans>
        </Press>
        <Press size="small" look="danger" onClick={onRemove}>
          <Trans>Take the shift out</Trans>
        </Press>
      </Row>
    </Stack>
  );
}
