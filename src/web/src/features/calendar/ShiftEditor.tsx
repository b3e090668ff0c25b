import type { Shift } from "../../api/setup";
import { SelectField, TextField } from "../../shared/Field";
import { TimeField } from "../../shared/fields/TimeField";
import { Box, Row } from "../../shared/layout";
import { Press } from "../../shared/Press";

type Props = {
  shift: Shift;
  locations: { id: string; name: string }[];
  errors: Record<string, string>;
  path: string;
  onChange: (shift: Shift) => void;
  onRemove: () => void;
};

/** One shift: where, from, until, and its breaks. */
export function ShiftEditor({ shift, locations, errors, path, onChange, onRemove }: Props) {
  const breaks = shift.breaks ?? [];
  const setBreak = (i: number, change: object) =>
    onChange({ ...shift, breaks: breaks.map((breakHere, j) => (j === i ? { ...breakHere, ...change } : breakHere)) });
  return (
    <Box>
      <Row alignItems="end" gap="8px">
        {locations.length > 1 && (
          <Box w="140px">
            <SelectField
              label="Where"
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
          </Box>
        )}
        <Box w="132px">
          <TimeField
            label="From"
            value={shift.from}
            error={errors[`${path}from`]}
            onChange={(from) => onChange({ ...shift, from })}
          />
        </Box>
        <Box w="132px">
          <TimeField
            label="Until"
            value={shift.until}
            error={errors[`${path}until`]}
            onChange={(until) => onChange({ ...shift, until })}
          />
        </Box>
        <Press
          size="small"
          look="quiet"
          mb="5px"
          onClick={() =>
            onChange({ ...shift, breaks: [...breaks, { from: "12:30:00", until: "13:00:00", reason: "Lunch" }] })
          }
        >
          + Break
        </Press>
        <Press size="small" look="quiet" mb="5px" onClick={onRemove}>
          Remove shift
        </Press>
      </Row>
      {breaks.map((breakHere, i) => (
        <Row key={i} alignItems="end" gap="8px" mt="6px" pl="18px">
          <Box w="132px">
            <TimeField
              label="Break from"
              value={breakHere.from}
              error={errors[`${path}breaks[${i}].from`]}
              onChange={(from) => setBreak(i, { from })}
            />
          </Box>
          <Box w="132px">
            <TimeField label="until" value={breakHere.until} onChange={(until) => setBreak(i, { until })} />
          </Box>
          <Box w="120px">
            <TextField
              label="Called"
              value={breakHere.reason ?? ""}
              onChange={(e) => setBreak(i, { reason: e.target.value })}
            />
          </Box>
          <Press
            size="small"
            look="quiet"
            mb="5px"
            onClick={() => onChange({ ...shift, breaks: breaks.filter((_, j) => j !== i) })}
          >
            Remove break
          </Press>
        </Row>
      ))}
    </Box>
  );
}
