import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useInfiniteQuery, type UseInfiniteQueryResult } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import type { Business, Day, Starts } from "../../../api/public";
import { visitorsAsk, type StartsAsked } from "../../../api/visitorQueries";
import { addDays, longDate, monthName, shortDate, timeWords } from "../../../shared/format";
import { Later } from "../../../shared/Later";
import { Plain } from "../../../shared/Plain";
import { Press } from "../../../shared/Press";
import { visit as recipe } from "../../../theme/recipes/visit";
import { DayRow, WhyNot } from "./DayRow";
import { filtered, inRuns, leftWords, monthsFrom, type Filter, type PartOfDay } from "./dayParts";
import { FetchLast } from "./Last";
import { linesOf, needsWords, placesOf, type Wish } from "./lines";
import { WhomLine } from "./WhomLine";
import { useStaff, whyNotPath } from "./OwnersView";
import { StepTitle } from "./StepTitle";
import { useLost } from "./useAsWhom";
import { useUnmet } from "./useUnmet";
import type { Visit } from "./useVisit";

const Box = chakra("div");
const Select = chakra("select");
type Props = { business: Business; visit: Visit; wish: Wish };
const noPages: Starts[] = [];
const noDays: Day[] = [];
const all: Filter = { part: "any", days: "any" };
const isFree = (day: Day) => day.starts.length > 0;

/** Goes on to later days as long as none has a time that is looked for. */
function useLookingOn(found: Pick<UseInfiniteQueryResult, "isFetching" | "isError" | "fetchNextPage">, looks: boolean) {
  const { isFetching, isError, fetchNextPage } = found;
  useEffect(() => {
    if (looks && !isFetching && !isError) void fetchNextPage();
  }, [looks, isFetching, isError, fetchNextPage]);
}

/** The free times: the soonest at once, then days as rows; only the day that is open shows its times. */
export function Days({ business, visit, wish }: Props) {
  const styles = useSlotRecipe({ recipe })();
  const { chosen, location, change } = visit;
  const [filter, setFilter] = useState(all);
  const body = {
    locationId: wish.locationId,
    lines: linesOf(wish),
    returning: wish.returning,
    after: wish.after,
    link: wish.link,
    as: wish.as,
  };
  const found = useInfiniteQuery(visitorsAsk.starts(body, chosen.from));
  const staff = useStaff();
  useLost(visit.whom, found.error);
  const choose = (at: string) => change({ at, step: "you" });
  const pages = found.data?.pages ?? noPages;
  const onlyReturning = pages.every((page) => page.onlyReturning);
  const [first = noDays, ...further] = pages.map((page) => filtered(page.days, filter));
  const days = [...first, ...further.flat()];
  const firstFree = days.find(isFree);
  const looksOn = !firstFree && !onlyReturning && found.hasNextPage;
  useLookingOn(found, looksOn);
  if (found.isPending)
    return (
      <>
        <StepTitle>
          <Trans>When?</Trans>
        </StepTitle>
        <Box role="status">
          <Trans>Looking for free times …</Trans>
        </Box>
      </>
    );
  if (found.error)
    return (
      <Box role="alert" css={styles["box"]}>
        {found.error.message}
        <Press onClick={() => void found.refetch()}>
          <Trans>Try again</Trans>
        </Press>
      </Box>
    );
  const isFiltered = filter.part !== "any" || filter.days !== "any";
  const open = chosen.day ?? firstFree?.date ?? null;
  const { today } = location;
  // That page looks at one service.
  const asksWhy = staff && wish.lines.length === 1;
  const whyNot = (date: string) => (asksWhy ? whyNotPath(wish, date) : null);
  return (
    <>
      <WhomLine whom={visit.whom} />
      <StepTitle>{firstFree || looksOn ? t`When?` : isFiltered ? t`Nothing free then` : t`Nothing is free`}</StepTitle>
      {onlyReturning ? (
        <Box css={styles["box"]}>
          <Trans>
            This is for clients who have been here before.
            <Press look="primary" onClick={() => change({ returning: true })}>
              I have been here before
            </Press>
          </Trans>
        </Box>
      ) : (
        <>
          {firstFree && <Soonest days={days} today={today} onChoose={choose} />}
          <Only
            filter={filter}
            from={chosen.from}
            today={today}
            onFilter={setFilter}
            onMonth={(from) => change({ from: from <= today ? null : from, day: null })}
          />
          {looksOn ? (
            <Box role="status">
              <Trans>Nothing is free until {shortDate(days.at(-1)!.date)}. Looking further ahead …</Trans>
            </Box>
          ) : (
            !first.some(isFree) && (
              <Full
                business={business}
                visit={visit}
                wish={wish}
                before={firstFree?.date ?? null}
                onAll={isFiltered ? () => setFilter(all) : null}
              />
            )
          )}
          {!first.some(isFree) && !staff && <Unmet search={body} days={first} filter={filter} />}
        </>
      )}
      {/* The soonest times stand before the days below them are drawn. */}
      <Later>
        <Box css={styles["days"]}>
          {inRuns(days).map((run) =>
            run.length === 1 ? (
              <DayRow
                key={run[0]!.date}
                day={run[0]!}
                words={leftWords(run[0]!, isFiltered)}
                isOpen={run[0]!.date === open}
                onOpen={(on) => change({ day: on ? run[0]!.date : "" }, undefined, true)}
                onChoose={choose}
                whyNot={whyNot(run[0]!.date)}
              />
            ) : (
              <Box key={run[0]!.date} css={[styles["day"], styles["quiet"]]}>
                <Trans>
                  {shortDate(run[0]!.date)} to {shortDate(run.at(-1)!.date)}:{" "}
                  {isFiltered ? t`nothing then` : t`nothing free`}
                  {asksWhy && <WhyNot href={whyNotPath(wish, run[0]!.date)} day={longDate(run[0]!.date)} />}
                </Trans>
              </Box>
            ),
          )}
        </Box>
        {found.hasNextPage && !looksOn && (
          <Press size="big" disabled={found.isFetchingNextPage} onClick={() => void found.fetchNextPage()}>
            <Trans>Later days</Trans>
          </Press>
        )}
        <FetchLast />
      </Later>
    </>
  );
}

/** The next three times at once, each of another day or part of it. */
function Soonest({ days, today, onChoose }: { days: Day[]; today: string; onChoose: (at: string) => void }) {
  const styles = useSlotRecipe({ recipe })();
  const words = (date: string) =>
    date === today ? t`today` : date === addDays(today, 1) ? t`tomorrow` : shortDate(date);
  const all = days.flatMap((day) => day.starts.filter((start) => !start.last).map((start) => ({ day, start })));
  const [first] = all;
  if (!first) return null;
  const later = all.filter(({ day }) => day.date !== first.day.date);
  const chosen = [first, ...later.filter(({ day }, i) => later.findIndex((other) => other.day === day) === i)].slice(
    0,
    3,
  );
  return (
    <Box role="group" aria-label={t`Soonest`}>
      <Box css={styles["quiet"]}>
        <Trans>Soonest</Trans>
      </Box>
      <Box css={styles["soon"]}>
        {chosen.map(({ day, start }) => (
          <Plain key={start.start} css={styles["soonest"]} onClick={() => onChoose(start.start)}>
            <Box as="span" css={styles["soonestDay"]}>
              {words(day.date)}
            </Box>
            {timeWords(start.clock)}
          </Plain>
        ))}
      </Box>
    </Box>
  );
}

type OnlyProps = {
  filter: Filter;
  from: string | null;
  today: string;
  onFilter: (filter: Filter) => void;
  onMonth: (from: string) => void;
};

/** What is looked for, as a sentence, and a month to jump to. */
function Only({ filter, from, today, onFilter, onMonth }: OnlyProps) {
  const styles = useSlotRecipe({ recipe })();
  return (
    <Box css={styles["only"]}>
      <Trans>
        Only{" "}
        <Select
          aria-label={t`Part of the day`}
          css={styles["pick"]}
          value={filter.part}
          onChange={(event) => onFilter({ ...filter, part: event.target.value as PartOfDay })}
        >
          <option value="any">any time of day</option>
          <option value="morning">mornings</option>
          <option value="afternoon">afternoons</option>
          <option value="evening">evenings, from 17:00</option>
        </Select>
        on{" "}
        <Select
          aria-label={t`Days`}
          css={styles["pick"]}
          value={filter.days}
          onChange={(event) => onFilter({ ...filter, days: event.target.value as Filter["days"] })}
        >
          <option value="any">any day</option>
          <option value="week">Mondays to Fridays</option>
          <option value="weekend">Saturdays and Sundays</option>
        </Select>
        from{" "}
        <Select
          aria-label={t`From`}
          css={styles["pick"]}
          value={from ?? today.slice(0, 8) + "01"}
          onChange={(event) => onMonth(event.target.value)}
        >
          {monthsFrom(today).map((month, i) => (
            <option key={month} value={month}>
              {i === 0 ? t`today on` : t`${monthName(month)} on`}
            </option>
          ))}
        </Select>
      </Trans>
    </Box>
  );
}

/** Notes what was not found. */
function Unmet({ search, days, filter }: { search: StartsAsked; days: Day[]; filter: Filter }) {
  useUnmet(search, days, filter);
  return null;
}

type FullProps = Props & {
  /** The first day that has a time after all, or null where nothing is left. */
  before: string | null;
  /** Looks at all times again; null where all are looked at. */
  onAll: (() => void) | null;
};

/** Nothing free for a while, or at all: what else there is. */
function Full({ business, visit, wish, before, onAll }: FullProps) {
  const styles = useSlotRecipe({ recipe })();
  const { chosen, location, change } = visit;
  const others = business.locations.filter(
    (other) => other.id !== location.id && placesOf(wish.lines).includes(other.id),
  );
  const needs = wish.lines.find((line) => line.service.needs)?.service;
  const withoutWhom = chosen.lines.map((line) => ({ ...line, who: null }));
  const withWhom = chosen.lines.some((line) => line.who);
  if (before && !onAll && !withWhom && others.length === 0) return null;
  return (
    <Box css={styles["box"]}>
      {before && (
        <Box>
          <Trans>Nothing is free before {longDate(before)}.</Trans>
        </Box>
      )}
      {!before && wish.as && needs?.needs && (
        <Box>
          <Trans>
            {needsWords(needs.name, needs.needs)} It is {needs.needs.name}.
          </Trans>
        </Box>
      )}
      {onAll && (
        <Press onClick={onAll}>
          <Trans>Look at any day and time</Trans>
        </Press>
      )}
      {withWhom && (
        <Press onClick={() => change({ lines: withoutWhom, day: null })}>
          <Trans>Look with whoever is free</Trans>
        </Press>
      )}
      {others.map((other) => (
        <Press key={other.id} onClick={() => change({ where: other.id, lines: withoutWhom, day: null })}>
          <Trans>Look at {other.name}</Trans>
        </Press>
      ))}
      {!before && (
        <Box>
          {business.phone ? (
            <Trans>
              That is as far ahead as you can book here. Call us on{" "}
              <a href={`tel:${business.phone.replaceAll(" ", "")}`}>{business.phone}</a>.
            </Trans>
          ) : (
            <Trans>That is as far ahead as you can book here.</Trans>
          )}
        </Box>
      )}
    </Box>
  );
}
