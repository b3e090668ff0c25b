import { t } from "@lingui/core/macro";
import type { DayReasons } from "../../../api/setup";
import { shortDate } from "../../../shared/format";
import { Box } from "../../../shared/layout";
import { Plain } from "../../../shared/Plain";

type Props = { days: DayReasons[]; date: string; onDay: (date: string) => void };

/** Two weeks with how many starts each day offers. */
export const DayCounts = ({ days, date, onDay }: Props) => (
  <Box
    role="group"
    aria-label={t`Two weeks`}
    display="grid"
    gap="1"
    my="3.5"
    gridTemplateColumns="repeat(auto-fill, minmax({sizes.18}, 1fr))"
  >
    {days.map((day) => {
      const offered = Number(day.offered);
      return (
        <Plain
          key={day.date}
          aria-current={day.date === date ? "date" : undefined}
          onClick={() => onDay(day.date)}
          cursor="pointer"
          py="1"
          fontSize="small"
          lineHeight="1.3"
          borderRadius="card"
          borderWidth="mark"
          borderColor={day.date === date ? "ink" : "transparent"}
          bg={offered > 0 ? "glow" : "woven"}
        >
          <Box>{shortDate(day.date).replace(/ \p{L}+$/u, "")}</Box>
          <Box fontWeight="700">{offered > 0 ? offered : t`none`}</Box>
        </Plain>
      );
    })}
  </Box>
);
