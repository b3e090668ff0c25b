import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import { asks } from "../../api/queries";
import { refreshBook, refreshFits } from "../../api/refresh";
import { staff, type DeskSetup, type Visit } from "../../api/staff";
import { AreaField } from "../../shared/Field";
import { askAnew } from "../../shared/askAnew";
import { clock, clockRange, dateIn, shortDate } from "../../shared/format";
import { asForm, Box, Row, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { answerOf, Problem } from "../../shared/problem";
import { say } from "../../shared/toasts";
import type { Carried } from "./carry/carried";
import type { Chosen } from "./fits";
import { linesOf, requestOf } from "./lines/lineDrafts";
import { PractitionerField } from "./PractitionerField";
import { StartList } from "./StartList";
import { undoLast } from "./undo/undoing";

type Props = {
  visit: Visit;
  setup: DeskSetup;
  zone: string;
  date: string;
  /** A time that was pointed at. */
  at: string | null;
  onCarry: (carried: Carried | null) => void;
  onPoint: (practitionerId: string | null, start: string) => void;
  onDay: (date: string) => void;
  onStop: () => void;
};

/** Answers what was asked for with other times: chosen from the list or among the lights, on whichever day, and sent together. */
export function AnswerForm({ visit, setup, zone, date, at, onCarry, onPoint, onDay, onStop }: Props) {
  const queries = useQueryClient();
  // The sheet has asked for it already.
  const most = Number(useQuery(asks.visitRequest(visit.id, visit.version)).data?.mostTimes ?? 1);
  const [lines, setLines] = useState(() =>
    linesOf(visit).map((line) => (line.asked ? line : { ...line, practitionerId: "" })),
  );
  const [times, setTimes] = useState<Chosen[]>([]);
  const [words, setWords] = useState("");
  const [note, setNote] = useState("");
  const asked = JSON.stringify(requestOf(lines));
  const question = useMemo(
    () => ({
      locationId: visit.locationId,
      lines: JSON.parse(asked) as ReturnType<typeof requestOf>,
      visitId: visit.id,
    }),
    [visit.locationId, visit.id, asked],
  );
  const propose = useMutation({
    mutationFn: () =>
      answerOf(
        staff.POST("/api/v1/visits/{id}/propose", {
          params: { path: { id: visit.id }, header: { "If-Match": String(visit.version) } },
          body: {
            times: times.map((time) => ({ start: time.start, practitionerId: time.practitionerId ?? null })),
            words,
          },
        }),
      ),
    onSuccess: (next) => {
      refreshBook(queries);
      queries.setQueryData(asks.visit(visit.id).queryKey, next);
      say(t`The times are kept, and the client is told of them in a minute.`, {
        label: t`Undo (u)`,
        onClick: () => void undoLast(queries),
      });
      onStop();
    },
    onError: () => {
      void askAnew(queries, { queryKey: asks.visit(visit.id).queryKey });
      refreshFits(queries);
    },
  });
  const take = useCallback(
    (start: Chosen | null) => {
      if (!start) return;
      setNote(start.accept ? t`Only times that are free can be proposed.` : "");
      if (start.accept) return;
      setTimes((before) =>
        before.some((time) => time.start === start.start) || before.length === most
          ? before
          : [...before, start].sort((one, other) => one.start.localeCompare(other.start)),
      );
    },
    [most],
  );
  const problem = propose.error instanceof Problem ? propose.error : null;
  const isFull = times.length === most;
  return (
    <Stack
      {...asForm}
      gap="3"
      onSubmit={(event) => {
        event.preventDefault();
        propose.mutate();
      }}
    >
      <Box>
        <Trans>
          {visit.lines.map((line) => line.service).join(", ")}, asked for {shortDate(visit.date)},{" "}
          {clockRange(visit.start, visit.end, zone)}. Choose up to {most} other times; they are kept until the client
          has chosen, and the time asked for is free again.
        </Trans>
      </Box>
      <Box as="section" aria-label={t`Times to propose`} aria-live="polite">
        {times.map((time, i) => {
          const when = `${shortDate(dateIn(time.start, zone))}, ${clock(time.start, zone)}`;
          return (
            <Row key={time.start} gap="2" justifyContent="space-between" flexWrap="nowrap">
              <Box>
                <b>{when}</b> {time.practitioner}
                {problem?.errors[`times[${i}].start`] && (
                  <Box color="clay" fontSize="small">
                    {problem.errors[`times[${i}].start`]}
                  </Box>
                )}
              </Box>
              <Press
                size="small"
                look="quiet"
                aria-label={t`Do not propose ${when}`}
                onClick={() => setTimes(times.filter((other) => other !== time))}
              >
                ✕
              </Press>
            </Row>
          );
        })}
        {isFull && (
          <Box fontSize="small" color="quiet">
            <Trans>That is as many as can be proposed. Take one out to choose another.</Trans>
          </Box>
        )}
      </Box>
      {note && (
        <Box role="status" color="clay">
          {note}
        </Box>
      )}
      <PractitionerField
        setup={setup}
        serviceId={lines[0]?.serviceId}
        value={lines[0]?.practitionerId ?? ""}
        onChange={(practitionerId) =>
          setLines(lines.map((line, i) => (i === 0 ? { ...line, practitionerId, asked: practitionerId !== "" } : line)))
        }
      />
      <StartList
        question={question}
        date={date}
        zone={zone}
        near={at}
        chosen={times.at(-1) ?? null}
        onChoose={take}
        onCarry={onCarry}
        onPoint={onPoint}
        onDay={onDay}
      />
      <AreaField
        label={t`A word to the client, if you like`}
        rows={2}
        value={words}
        maxLength={500}
        error={problem?.errors["words"]}
        onChange={(e) => setWords(e.target.value)}
      />
      {problem && (
        <Box role="alert" color="clay">
          {problem.message}
        </Box>
      )}
      <Row gap="2">
        <Press type="submit" look="primary" disabled={times.length === 0 || propose.isPending}>
          {times.length === 0
            ? t`Choose a time`
            : plural(times.length, { one: "Propose this time", other: "Propose these # times" })}
        </Press>
        <Press onClick={onStop}>
          <Trans>Leave it</Trans>
        </Press>
      </Row>
    </Stack>
  );
}
