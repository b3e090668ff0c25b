import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { asks } from "../../../api/queries";
import type { components } from "../../../api/generated/schema";
import type { DeskSetup } from "../../../api/staff";
import { dayAndMonth, longDate, monthName, number, unitWords, weekday } from "../../../shared/format";
import { Box } from "../../../shared/layout";
import { ChoicePart } from "../../../shared/sentence/Sentence";
import { fullMonth } from "../../../theme/recipes/fullMonth";
import { ViewHead } from "./ViewHead";
import { monthAfter } from "./months";

const Anchor = chakra(Link);
type Schemas = components["schemas"];
const everybody = "everybody";
const parts: Record<Schemas["DayPart"], string> = {
  morning: t`morning`,
  afternoon: t`afternoon`,
  evening: t`evening`,
};

/** Six weeks as a map of how full they are, by parts of the day. */
export function MonthPage({ setup }: { setup: DeskSetup }) {
  const { locationId = "", date = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const styles = useSlotRecipe({ recipe: fullMonth })();
  const location = setup.locations.find((one) => one.id === locationId) ?? setup.locations[0]!;
  const of = search.get("of");
  const month = useQuery({ ...asks.month(location.id, date, of), placeholderData: keepPreviousData });
  const go = (next: string, where = location.id) => void navigate(`/month/${where}/${next}${window.location.search}`);
  const days = month.data?.days ?? [];
  return (
    <Box as="main" css={styles["page"]}>
      <ViewHead
        view="month"
        title={monthName(date)}
        location={location}
        date={date}
        onStep={(by) => go(monthAfter(date, by))}
        onToday={() => go(location.today)}
      >
        <Trans>
          How full{" "}
          <ChoicePart
            label={t`Practitioner`}
            value={of ?? everybody}
            options={[
              { value: everybody, label: t`everybody` },
              ...setup.practitioners.map(({ id, name }) => ({ value: id, label: name })),
            ]}
            onChange={(id) => setSearch(id === everybody ? {} : { of: id })}
          />{" "}
          is at{" "}
          <ChoicePart
            label={t`Location`}
            value={location.id}
            options={setup.locations.map(({ id, name }) => ({ value: id, label: name }))}
            onChange={(id) => go(date, id)}
          />
          , by morning, afternoon and evening. Press a day to go there.
        </Trans>
      </ViewHead>
      {month.error && <Box role="alert">{month.error.message}</Box>}
      <Box css={styles["week"]} aria-hidden>
        {days.slice(0, 7).map((day) => (
          <Box key={day.date} fontWeight="600" fontSize="small">
            {weekday(day.date)}
          </Box>
        ))}
      </Box>
      <Box as="ol" css={styles["days"]} aria-label={monthName(date)} aria-busy={month.isPlaceholderData || undefined}>
        {days.map((day) => {
          const isToday = day.date === month.data?.today;
          const free = day.closed
            ? t`closed: ${day.closed}`
            : day.parts.length === 0
              ? t`nobody works`
              : t`${unitWords(Math.floor(day.freeMinutes / 60), "hour")} free`;
          const said = day.parts.map((part) => t`${parts[part.part]} ${part.fullness} % full`);
          return (
            <Box as="li" key={day.date} css={styles["cell"]}>
              <Anchor
                to={`/day/${location.id}/${day.date}`}
                css={styles["day"]}
                aria-current={isToday ? "date" : undefined}
                data-closed={day.parts.length === 0 ? "" : undefined}
                data-other={day.date.slice(0, 7) === date.slice(0, 7) ? undefined : ""}
              >
                <Box css={styles["head"]}>
                  <Box as="span" srOnly>
                    {longDate(day.date)},{" "}
                  </Box>
                  <b aria-hidden>
                    {day.date.endsWith("-01") ? dayAndMonth(day.date) : number(Number(day.date.slice(8)))}
                  </b>
                  <Box css={styles["free"]}>{free}</Box>
                </Box>
                <Box as="span" srOnly>
                  {said.join(", ")}
                </Box>
                {day.parts.map((part) => (
                  <Box key={part.part} css={styles["strip"]} title={t`${parts[part.part]}: ${part.fullness} % full`}>
                    <Box
                      css={styles["held"]}
                      style={{ inlineSize: `${part.fullness}%` }}
                      data-full={part.fullness >= 90 ? "" : undefined}
                    />
                  </Box>
                ))}
              </Anchor>
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}
