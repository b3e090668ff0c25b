import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { Link } from "react-router";
import type { components } from "../../../api/generated/schema";
import type { DeskSetup } from "../../../api/staff";
import { addDays, longDate, monthName } from "../../../shared/format";
import { Box, Section } from "../../../shared/layout";
import { record } from "../../../theme/recipes/record";
import { marks as states } from "../../booking/BlockMark";
import { tintOf } from "../../booking/tints";
import { daysFrom } from "../../team/year";
import { monthsBetween, visitAddress } from "./years";

const Mark = chakra(Link);
type Props = { file: components["schemas"]["ClientRecordAnswer"]; setup: DeskSetup };

/** When a client has been here, by category, over two years and what is ahead: more is seen in it than can be read. */
export function TwoYears({ file, setup }: Props) {
  const styles = useSlotRecipe({ recipe: record })();
  const last = file.marks.reduce((latest, mark) => (mark.date > latest ? mark.date : latest), file.today);
  // Whoever has been coming for less than a year has a year that can be read.
  const first = [file.marks[0]?.date ?? file.today, addDays(file.today, -365)].reduce((a, b) => (a < b ? a : b));
  const from = first > file.from ? first : file.from;
  const days = daysFrom(from, last) + 14;
  const shareOf = (date: string) => `${(daysFrom(from, date) / days) * 100}%`;
  const rows = setup.categories.filter(({ id }) => file.marks.some((mark) => mark.categoryId === id));
  if (rows.length === 0) return null;
  return (
    <Section title={t`When they came`}>
      <Box css={styles["years"]}>
        {rows.map((category) => (
          <Box key={category.id} css={styles["row"]}>
            <Box css={styles["label"]}>{category.name}</Box>
            <Box css={styles["strip"]}>
              {monthsBetween(from, last).map((month) => (
                <Box key={month} css={styles["tick"]} style={{ left: shareOf(month) }} aria-hidden />
              ))}
              {file.marks
                .filter((mark) => mark.categoryId === category.id)
                .map((mark) => {
                  const words = [category.name, longDate(mark.date), states[mark.state].word].join(", ");
                  return (
                    <Mark
                      key={mark.id}
                      to={visitAddress(mark.locationId, mark.date, mark.id)}
                      css={styles["mark"]}
                      bg={tintOf(mark.categoryId)}
                      style={{ left: shareOf(mark.date) }}
                      aria-label={words}
                      title={words}
                      data-missed={mark.state === "noShow" ? "" : undefined}
                      data-off={mark.state === "cancelled" ? "" : undefined}
                    />
                  );
                })}
              <Box css={styles["now"]} style={{ left: shareOf(file.today) }} aria-hidden />
            </Box>
          </Box>
        ))}
        <Box css={styles["row"]} aria-hidden>
          <span />
          <Box css={styles["strip"]}>
            {monthsBetween(from, last)
              .filter((_, i) => i % 3 === 0)
              .map((month) => (
                <Box key={month} css={styles["month"]} style={{ left: shareOf(month) }}>
                  {monthName(month)}
                </Box>
              ))}
          </Box>
        </Box>
        <Box fontSize="small" color="quiet">
          <Trans>A thick edge: they did not come. Dashed: cancelled. The yellow line is today.</Trans>
        </Box>
      </Box>
    </Section>
  );
}
