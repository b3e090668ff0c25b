import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useRef } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { asks } from "../../../api/queries";
import type { Day, DeskSetup, Session } from "../../../api/staff";
import { addDays, andWords, dayAndMonth, mondayOf, plainDate, shortDate, timeWords } from "../../../shared/format";
import { Box, Row } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { ChoicePart } from "../../../shared/sentence/Sentence";
import { week as look } from "../../../theme/recipes/week";
import { blocksOf } from "../blocks";
import { LaneRow } from "../LaneRow";
import { useFit } from "../view/useFit";
import { useRoving } from "../view/useRoving";
import { useWeekCarry } from "./useWeekCarry";
import { ViewHead } from "./ViewHead";
import { sharedHours } from "./sharedHours";

const none: readonly Day[] = [];

type Props = { session: Session; setup: DeskSetup };

/** A week of one practitioner, room or pool: the picture of the book with a lane for each day. */
export function WeekPage({ session, setup }: Props) {
  const { locationId = "", date = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const location = setup.locations.find((one) => one.id === locationId) ?? setup.locations[0]!;
  const own = setup.practitioners.find((one) => one.id === session.practitionerId) ?? setup.practitioners[0];
  const of = search.get("of") ?? own?.id ?? "";
  const week = useQuery({
    ...asks.week(location.id, mondayOf(date), of),
    placeholderData: keepPreviousData,
    enabled: of !== "",
  });
  const mayKeep = session.rights.includes("keep-book");
  const carry = useWeekCarry(of, mondayOf(date), week.data?.days ?? none, mayKeep);
  const go = (next: string, where = location.id) => void navigate(`/week/${where}/${next}${window.location.search}`);
  const monday = mondayOf(date);
  return (
    <Box as="main" h="100%" px="6" py="3" display="flex" flexDirection="column" minW="0">
      <ViewHead
        view="week"
        title={t`${dayAndMonth(monday)} to ${plainDate(addDays(monday, 6))}`}
        location={location}
        date={date}
        onStep={(by) => go(addDays(date, by * 7))}
        onToday={() => go(location.today)}
      >
        <Trans>
          The week of{" "}
          <ChoicePart
            label={t`Of whom, or of what`}
            value={of}
            options={[
              ...setup.practitioners.map(({ id, name }) => ({ value: id, label: name })),
              ...setup.rooms
                .filter((room) => room.locationId === location.id)
                .map(({ id, name }) => ({ value: id, label: name, hint: t`room` })),
            ]}
            onChange={(id) => setSearch((before) => new URLSearchParams({ ...Object.fromEntries(before), of: id }))}
          />{" "}
          at{" "}
          <ChoicePart
            label={t`Location`}
            value={location.id}
            options={setup.locations.map(({ id, name }) => ({ value: id, label: name }))}
            onChange={(id) => go(date, id)}
          />
          .
        </Trans>
      </ViewHead>
      {carry.carried && (
        <Row role="status" bg="glow" borderRadius="card" px="3.5" py="1.5" mb="2" gap="3">
          <Box>
            {carry.isLooking ? (
              <Trans>Looking where it fits …</Trans>
            ) : (
              <Trans>
                <b>
                  {carry.carried.client.givenName} {carry.carried.client.familyName}
                </b>
                , {andWords(carry.carried.lines.map((line) => line.service))}: press where it glows to move it there.
              </Trans>
            )}
          </Box>
          <Press size="small" onClick={carry.drop} aria-keyshortcuts="Escape">
            <Trans>Leave it</Trans>
          </Press>
        </Row>
      )}
      {week.error && <Box role="alert">{week.error.message}</Box>}
      {week.data && (
        <WeekPicture
          days={week.data.days}
          glowOn={carry.bandsOn}
          carried={carry.carried?.reference}
          onVisit={(day, id) => void navigate(`/day/${location.id}/${day}?visit=${id}`)}
          onFree={
            mayKeep
              ? (day, by, at) => {
                  if (carry.carried) return carry.put(day, at);
                  const said = new URLSearchParams({ new: crypto.randomUUID(), at, ...(by && { by }) });
                  void navigate(`/day/${location.id}/${day.date}?${said.toString()}`);
                }
              : undefined
          }
        />
      )}
    </Box>
  );
}

type PictureProps = {
  days: readonly Day[];
  onVisit: (day: string, id: string) => void;
  /** Where on a day what is carried fits. */
  glowOn: (date: string) => { from: string; until: string }[] | undefined;
  /** The reference of what is carried. */
  carried: string | undefined;
  onFree: ((day: Day, practitionerId: string | null, at: string) => void) | undefined;
};

function WeekPicture({ days, glowOn, carried, onVisit, onFree }: PictureProps) {
  const styles = useSlotRecipe({ recipe: look })();
  const { first, last, scales } = sharedHours(days);
  const picture = useRef<HTMLDivElement>(null);
  const keys = useRoving(picture);
  useFit(picture, last - first, days);
  const hours = Array.from({ length: Math.ceil((last - first) / 60) }, (_, i) => first + i * 60);
  return (
    <Box css={styles["frame"]} tabIndex={0} role="region" aria-label={t`Lanes`}>
      <Box css={styles["hours"]} aria-hidden>
        {hours.map((minute) => (
          <Box key={minute} css={styles["hour"]} style={{ left: `${((minute - first) / (last - first)) * 100}%` }}>
            {timeWords(`${String(Math.floor(minute / 60)).padStart(2, "0")}:00`)}
          </Box>
        ))}
      </Box>
      <Box
        ref={picture}
        role="grid"
        aria-label={t`Visits by day`}
        // What is carried lets a press through to the light under it.
        css={{ ...styles["lanes"], [`& [data-visit="${carried}"]`]: { pointerEvents: "none" } }}
        data-carrying={carried ? "" : undefined}
        onKeyDown={keys}
      >
        <Box role="rowgroup" css={styles["group"]}>
          {days.map((day, i) => {
            const lane = day.lanes[0];
            return lane ? (
              <LaneRow
                key={day.date}
                lane={{ ...lane, name: shortDate(day.date), ...(day.closed && { detail: day.closed }) }}
                idle={false}
                zone={day.zone}
                scale={scales[i]!}
                blocks={blocksOf(day).get(lane.id)}
                chosen={null}
                glow={glowOn(day.date)}
                onVisit={(id) => onVisit(day.date, id)}
                onFree={onFree && ((by, at) => onFree(day, by, at))}
              />
            ) : null;
          })}
        </Box>
      </Box>
    </Box>
  );
}
