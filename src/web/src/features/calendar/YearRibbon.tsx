import { useSlotRecipe } from "@chakra-ui/react";
import { addDays, longDate, shortDate } from "../../shared/format";
import { Box } from "../../shared/layout";
import { calendar } from "../../theme/recipes/calendar";
import { daysFrom, yearDays } from "../team/year";

type Item = { kind: "closures" | "stops"; date: string; yearly: boolean; reason?: string | null };
type Props<T extends Item> = {
  today: string;
  days: T[];
  /** The day that is being entered. */
  date: string | null;
  onDate: (date: string) => void;
};

/** The next time a day comes: a yearly one in this year or the next. */
export function nextOf(item: Pick<Item, "date" | "yearly">, today: string): string {
  if (!item.yearly) return item.date;
  const here = `${today.slice(0, 4)}${item.date.slice(4)}`;
  return here >= today ? here : `${Number(today.slice(0, 4)) + 1}${item.date.slice(4)}`;
}

/** The year from today on with the days on which it is closed or takes no more online; pressing it chooses a day. */
export function YearRibbon<T extends Item>({ today, days, date, onDate }: Props<T>) {
  const styles = useSlotRecipe({ recipe: calendar })();
  const shareOf = (day: string) => daysFrom(today, day) / yearDays;
  const months = Array.from({ length: 12 }, (_, i) => {
    const first = new Date(`${today.slice(0, 7)}-01T12:00:00Z`);
    first.setUTCMonth(first.getUTCMonth() + i + 1);
    return first.toISOString().slice(0, 10);
  });
  return (
    <Box mb="1">
      <Box
        css={styles["strip"]}
        // The list below says the same to whoever does not see it; the date has a field.
        aria-hidden
        onClick={(event) => {
          if (event.target !== event.currentTarget) return;
          const box = event.currentTarget.getBoundingClientRect();
          onDate(addDays(today, Math.round(((event.clientX - box.left) / box.width) * yearDays)));
        }}
      >
        {months
          .filter((month) => shareOf(month) < 0.97)
          .map((month) => (
            <Box key={month} css={styles["tick"]} style={{ left: `${shareOf(month) * 100}%` }} aria-hidden>
              <Box as="span" css={styles["month"]} ps="1" whiteSpace="nowrap">
                {shortDate(month).split(" ")[2]}
              </Box>
            </Box>
          ))}
        {days.map((item) => {
          const day = nextOf(item, today);
          const share = shareOf(day);
          return share < 0 || share > 1 ? null : (
            <Box
              key={`${item.kind} ${item.date}`}
              css={styles["closed"]}
              data-kind={item.kind}
              style={{ left: `${share * 100}%` }}
              title={`${longDate(day)}: ${item.reason ?? ""}`}
            />
          );
        })}
        {date && shareOf(date) >= 0 && shareOf(date) <= 1 && (
          <Box
            position="absolute"
            top="0"
            bottom="0"
            w="0.5"
            bg="ink"
            pointerEvents="none"
            style={{ left: `${shareOf(date) * 100}%` }}
          />
        )}
      </Box>
    </Box>
  );
}
