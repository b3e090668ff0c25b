import type { Weekday } from "../../api/setup";
import { TimeField } from "../../shared/fields/TimeField";
import { weekdays } from "../../shared/inputs";
import { Box, Row, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import type { Hours } from "./hours";

type Props = {
  hours: Hours;
  errors: Record<string, string>;
  /** Path of these hours in what is sent, for their errors. */
  path: string;
  onChange: (change: Partial<Hours>) => void;
  onCopy: (to: Weekday[]) => void;
  onRemove: () => void;
};

/** Some opening hours in figures, and which other days are like theirs. */
export const HoursPanel = ({ hours, errors, path, onChange, onCopy, onRemove }: Props) => (
  <Stack gap="10px" p="6px" w="min(340px, 90vw)">
    <Box display="grid" gridTemplateColumns="1fr 1fr" gap="8px" alignItems="start">
      <TimeField
        label="Opens"
        value={hours.from}
        error={errors[`${path}from`]}
        onChange={(from) => onChange({ from })}
      />
      <TimeField
        label="Closes"
        value={hours.until}
        error={errors[`${path}until`]}
        onChange={(until) => onChange({ until })}
      />
    </Box>
    <Box>
      <Box fontSize="14px" color="quiet">
        Make other days like this one
      </Box>
      <Row gap="2px">
        {weekdays
          .filter(([day]) => day !== hours.weekday)
          .map(([day, name]) => (
            <Press key={day} size="small" look="quiet" onClick={() => onCopy([day])}>
              {name}
            </Press>
          ))}
        <Press size="small" look="quiet" onClick={() => onCopy(weekdays.slice(0, 5).map(([day]) => day))}>
          Monday to Friday
        </Press>
      </Row>
    </Box>
    <Row>
      <Press size="small" look="danger" onClick={onRemove}>
        Take these hours out
      </Press>
    </Row>
  </Stack>
);
