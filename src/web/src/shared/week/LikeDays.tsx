import { Trans } from "@lingui/react/macro";
import type { Weekday } from "../../api/setup";
import { weekdays } from "../inputs";
import { Box, Row } from "../layout";
import { Press } from "../Press";

/** Makes other days of a week like one of them. */
export const LikeDays = ({ weekday, onCopy }: { weekday: Weekday; onCopy: (to: Weekday[]) => void }) => (
  <Box>
    <Box fontSize="small" color="quiet">
      <Trans>Make other days like this one</Trans>
    </Box>
    <Row gap="0.5">
      {weekdays
        .filter(([day]) => day !== weekday)
        .map(([day, name]) => (
          <Press key={day} size="small" look="quiet" onClick={() => onCopy([day])}>
            {name}
          </Press>
        ))}
      <Press size="small" look="quiet" onClick={() => onCopy(weekdays.slice(0, 5).map(([day]) => day))}>
        <Trans>Monday to Friday</Trans>
      </Press>
    </Row>
  </Box>
);
