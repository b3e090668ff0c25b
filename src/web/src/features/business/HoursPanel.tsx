import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Weekday } from "../../api/setup";
import { TimeField } from "../../shared/fields/TimeField";
import { Box, Row, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { LikeDays } from "../../shared/week/LikeDays";
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
  <Stack gap="2.5" p="1.5" w="85" maxW="90vw">
    <Box display="grid" gridTemplateColumns="1fr 1fr" gap="2" alignItems="start">
      <TimeField
        label={t`Opens`}
        value={hours.from}
        error={errors[`${path}from`]}
        onChange={(from) => onChange({ from })}
      />
      <TimeField
        label={t`Closes`}
        value={hours.until}
        error={errors[`${path}until`]}
        onChange={(until) => onChange({ until })}
      />
    </Box>
    <LikeDays weekday={hours.weekday} onCopy={onCopy} />
    <Row>
      <Press size="small" look="danger" onClick={onRemove}>
        <Trans>Take these hours out</Trans>
      </Press>
    </Row>
  </Stack>
);
