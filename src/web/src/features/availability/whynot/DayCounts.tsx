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
    gap="4px"
    my="14px"
    gridTemplateColumns="repeat(auto-fill, minmax(74px, 1fr))"
  >
    {days.map((day) => {
      const offered = Number(day.offered);
      return (
        <Plain
          key={day.date}
          aria-current={day.date === date ? "date" : undefined}
          onClick={() => onDay(day.date)}
          cursor="pointer"
          py="4px"
          fontSize="14px"
          lineHeight="1.3"
          borderRadius="card"
          borderWidth="2px"
          borderColor={day.date === date ? "ink" : "transparent"}
          bg={offered > 0 ? "glow" : "woven"}
        >
          <Box>{shortDate(day.date).replace(/ \p{L}+$/u, "")}</Box>
          <Box fontWeight="700">{offered > 0 ? offered : "none"}</Box>
        </Plain>
      );
    })}
  </Box>
);
