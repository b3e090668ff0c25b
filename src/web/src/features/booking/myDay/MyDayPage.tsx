import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import { useMutation, useQueries, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../../api/queries";
import { refreshBook } from "../../../api/refresh";
import { staff, type DeskSetup, type Session, type Visit, type VisitState } from "../../../api/staff";
import { clock, clockRange, longDate } from "../../../shared/format";
import { Box } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { sayProblem } from "../../../shared/toasts";
import { myDay } from "../../../theme/recipes/myDay";
import { marks } from "../BlockMark";
import { makeScale } from "../scale";
import { isForward, verb } from "../steps";
import { VisitNotes } from "../VisitNotes";
import { BlockTheRest } from "./BlockTheRest";
import { entriesOf, nextOf, type Entry } from "./ownDay";

/** A practitioner's own day: the next client large, with alert and note, then the day as a list. */
export function MyDayPage({ session, setup }: { session: Session; setup: DeskSetup }) {
  const styles = useSlotRecipe({ recipe: myDay })();
  const me = session.practitionerId!;
  const days = useQueries({
    queries: setup.locations.map((location) => asks.day(location.id, location.today)),
    combine: (answers) => answers.flatMap((answer) => (answer.data ? [answer.data] : [])),
  });
  const entries = entriesOf(days, me);
  const now = days[0]?.now ?? setup.now;
  const next = nextOf(entries, now);
  const name = setup.practitioners.find((who) => who.id === me)?.name ?? session.name;
  const lane = days[0]?.lanes.find((one) => one.id === me);
  const today = setup.locations[0]!.today;
  return (
    <Box as="main" css={styles["page"]}>
      <Box css={styles["head"]}>
        <Box as="h1" fontSize="title">
          {longDate(today)}, {name}
        </Box>
        <Box color="quiet">{days.flatMap((day) => day.lanes.filter((lane) => lane.id === me))[0]?.detail}</Box>
      </Box>
      {days[0] && <Strip day={days[0]} entries={entries} me={me} now={now} />}
      {next ? (
        <Next entry={next} zone={next.visit.zone} mayKeep={session.keepsOwnVisits === true} />
      ) : (
        <Box css={styles["next"]}>
          <Trans>Nobody comes to you any more today.</Trans>
        </Box>
      )}
      {session.rights.includes("edit-shifts") && days[0] && lane && (
        <BlockTheRest lane={lane} zone={days[0].zone} now={now} />
      )}
      <Box as="ol" css={styles["list"]} aria-label={t`The day`}>
        {entries.map((entry) => (
          <Row key={`${entry.kind} ${entry.from}`} entry={entry} zone={days[0]!.zone} now={now} />
        ))}
      </Box>
    </Box>
  );
}

type StripProps = { day: Parameters<typeof entriesOf>[0][number]; entries: Entry[]; me: string; now: string };

/** The day as a ribbon: when they work, what is held, now. */
function Strip({ day, entries, me, now }: StripProps) {
  const styles = useSlotRecipe({ recipe: myDay })();
  const open = day.lanes.find((lane) => lane.id === me)?.open ?? [];
  const from = [...open.map((one) => one.from), ...entries.map((entry) => entry.from)].reduce(
    (a, b) => (a < b ? a : b),
    day.until,
  );
  const until = [...open.map((one) => one.until), ...entries.map((entry) => entry.until)].reduce(
    (a, b) => (a > b ? a : b),
    day.from,
  );
  if (from >= until) return null;
  const scale = makeScale(from, until);
  return (
    <Box css={styles["strip"]} aria-hidden>
      {open.map((one) => (
        <Box key={one.from} css={styles["piece"]} data-kind="open" style={scale.span(one.from, one.until)} />
      ))}
      {entries.map((entry) => (
        <Box
          key={`${entry.kind} ${entry.from}`}
          css={styles["piece"]}
          data-kind={entry.kind === "visit" ? "visit" : "shut"}
          style={scale.span(entry.from, entry.until)}
        />
      ))}
      {now >= from && now <= until && <Box css={styles["now"]} style={{ left: `${scale.at(now)}%` }} />}
    </Box>
  );
}

type NextProps = { entry: Extract<Entry, { kind: "visit" }>; zone: string; mayKeep: boolean };

/** Whom to see to now, and what can be said of them with a thumb. */
function Next({ entry, zone, mayKeep }: NextProps) {
  const styles = useSlotRecipe({ recipe: myDay })();
  const queries = useQueryClient();
  const { visit } = entry;
  const say = useMutation({
    mutationFn: (state: VisitState) =>
      answerOf(
        staff.POST("/api/v1/visits/{id}/state", {
          params: { path: { id: visit.id }, header: { "If-Match": String(visit.version) } },
          body: { state },
        }),
      ),
    onSettled: () => refreshBook(queries, visit.locationId, visit.date),
    onError: sayProblem,
  });
  const steps = visit.next.filter((state) => state !== "cancelled");
  return (
    <Box as="section" css={styles["next"]} aria-label={t`Next client`}>
      <Box css={styles["when"]}>
        <span>{clockRange(entry.from, entry.until, zone)}</span>
        <span>
          <span aria-hidden>{marks[visit.state].mark}</span> {marks[visit.state].word}
        </span>
      </Box>
      <Box css={styles["name"]}>
        {visit.client.givenName} {visit.client.familyName}
      </Box>
      <Box>
        {[...entry.services, ...entry.rooms].join(" · ")}
        {visit.isFirst && (
          <b>
            {" · "}
            <Trans>new here</Trans>
          </b>
        )}
      </Box>
      {visit.client.alert && <Box css={styles["alert"]}>! {visit.client.alert}</Box>}
      {visit.note && (
        <Box color="quiet" mt="2">
          {visit.note}
        </Box>
      )}
      <Notes visit={visit} />
      {mayKeep && steps.length > 0 && (
        <Box css={styles["steps"]}>
          {steps.map((state, i) => (
            <Press
              key={state}
              look={i === 0 && isForward(visit.state, state) ? "primary" : "plain"}
              disabled={say.isPending}
              onClick={() => say.mutate(state)}
            >
              {verb(visit.state, state)}
            </Press>
          ))}
        </Box>
      )}
    </Box>
  );
}

function Row({ entry, zone, now }: { entry: Entry; zone: string; now: string }) {
  const styles = useSlotRecipe({ recipe: myDay })();
  return (
    <Box as="li" css={styles["row"]} data-over={entry.until <= now || undefined}>
      <Box css={styles["time"]}>{clock(entry.from, zone)}</Box>
      <Box css={styles["words"]}>
        {entry.kind === "visit" ? <VisitWords visit={entry.visit} /> : <b>{entry.reason}</b>}
        <small>
          {entry.kind === "visit"
            ? [...entry.services, ...entry.rooms].join(" · ")
            : t`until ${clock(entry.until, zone)}`}
        </small>
        {entry.kind === "visit" && entry.until <= now && <Notes visit={entry.visit} />}
      </Box>
    </Box>
  );
}

/** What was written down about whoever comes, opened with a thumb. */
function Notes({ visit }: { visit: Visit }) {
  const [isOpen, setOpen] = useState(false);
  const name = `${visit.client.givenName} ${visit.client.familyName}`;
  return (
    <Box mt="1">
      <Press size="small" aria-expanded={isOpen} aria-label={t`Notes on ${name}`} onClick={() => setOpen(!isOpen)}>
        <Trans>Notes</Trans>
      </Press>
      {isOpen && <VisitNotes visitId={visit.id} />}
    </Box>
  );
}

function VisitWords({ visit }: { visit: Visit }) {
  const { mark, word } = marks[visit.state];
  return (
    <b>
      {visit.state !== "confirmed" && (
        <>
          <span aria-hidden>{mark}</span>
          <Box as="span" srOnly>
            {word}
          </Box>{" "}
        </>
      )}
      {visit.client.alert && (
        <Box as="span" color="clay">
          !{" "}
        </Box>
      )}
      {visit.client.givenName} {visit.client.familyName}
    </b>
  );
}
