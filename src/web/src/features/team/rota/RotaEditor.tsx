import { t } from "@lingui/core/macro";
import { whole } from "../../../shared/whole";
import { Trans } from "@lingui/react/macro";
import { staff } from "../../../api/staff";
import { answerOf } from "../../../shared/problem";
import { useState } from "react";
import { ifMatch, type Practitioner, type Rota } from "../../../api/setup";
import { Outcome, useChange } from "../../../shared/change";
import { useUnsaved } from "../../../shared/unsaved";
import { Month } from "../../../shared/fields/Month";
import { longDate } from "../../../shared/format";
import { Box, Row } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { ChoicePart, Part, Sentence } from "../../../shared/sentence/Sentence";
import type { Person } from "../../calendar/CalendarTab";
import { GiveToOthers } from "./GiveToOthers";
import { RotaWeek } from "./RotaWeek";
import { hoursWords, likeWeek, minutesOf, overWeeks } from "./rotaDraft";

const weeksOffered = [1, 2, 3, 4, 5, 6, 8];
const weekNames = [t`First`, t`Second`, t`Third`, t`Fourth`, t`Fifth`, t`Sixth`, t`Seventh`, t`Eighth`];
const counted = [
  t`no weeks`,
  t`one week`,
  t`two weeks`,
  t`three weeks`,
  t`four weeks`,
  t`five weeks`,
  t`six weeks`,
  t`seven weeks`,
];
const weeksWords = (weeks: number) => counted[weeks] ?? t`${weeks} weeks`;

type Props = {
  rota: Rota;
  isNew: boolean;
  practitioner: Person;
  people: Practitioner[];
  onDone: (from: string | null) => void;
  onLeave: () => void;
};

/** A rota as a sentence and its weeks as ribbons. */
export function RotaEditor({ rota, isNew, practitioner, people, onDone, onLeave }: Props) {
  const [draft, setDraft] = useState(rota);
  const settled = useUnsaved(JSON.stringify(draft) !== JSON.stringify(rota));
  const save = useChange(
    (wanted: Rota, headers) =>
      answerOf(
        staff.PUT("/api/v1/setup/practitioners/{id}/rotas/{from}", {
          params: { path: { id: practitioner.id!, from: wanted.from } },
          headers: {
            ...headers,
            // Another first date is another rota.
            ...ifMatch(!isNew && wanted.from === rota.from ? rota.version : 0),
          },
          body: wanted,
        }),
      ),
    (_, wanted) => {
      settled();
      onDone(wanted.from);
    },
  );
  const remove = useChange(
    (_: null, headers) =>
      answerOf(
        staff.DELETE("/api/v1/setup/practitioners/{id}/rotas/{from}", {
          params: { path: { id: practitioner.id!, from: rota.from } },
          headers: { ...headers, ...ifMatch(rota.version) },
        }),
      ),
    () => onDone(null),
  );
  const shifts = draft.shifts ?? [];
  const minutes = shifts.reduce((sum, item) => sum + minutesOf(item.shift), 0);
  const isChanged = isNew || JSON.stringify(draft) !== JSON.stringify(rota);
  const problemOf = (field: string) => save.errors[field];
  return (
    <Box>
      <Row justifyContent="space-between" alignItems="start" flexWrap="nowrap" mb="3">
        <Sentence>
          <Trans>
            A rota of{" "}
            <ChoicePart
              label={t`Repeats after`}
              value={String(draft.weeks)}
              options={weeksOffered.map((weeks) => ({ value: String(weeks), label: weeksWords(weeks) }))}
              onChange={(weeks) => setDraft(overWeeks(draft, Number(weeks)))}
            />
            , from{" "}
            {whole(
              <Part label={t`Holds from`} words={longDate(draft.from)}>
                {(close) => (
                  <Month
                    value={draft.from}
                    onChange={(from) => {
                      setDraft({ ...draft, from });
                      close();
                    }}
                  />
                )}
              </Part>,
            )}{" "}
            on. {minutes > 0 ? t`${hoursWords(minutes)} in ${weeksWords(draft.weeks)}.` : t`Nobody works in it yet.`}
          </Trans>
        </Sentence>
        <Row flexWrap="nowrap">
          {isNew && (
            <Press
              onClick={() => {
                settled();
                onLeave();
              }}
            >
              <Trans>Leave it</Trans>
            </Press>
          )}
          <Press look="primary" disabled={save.pending || !isChanged} onClick={() => save.run(draft)}>
            <Trans>Save the rota</Trans>
          </Press>
        </Row>
      </Row>
      {["from", "weeks"].map(
        (field) =>
          problemOf(field) && (
            <Box key={field} role="alert" color="clay">
              {problemOf(field)}
            </Box>
          ),
      )}
      <Outcome change={save} fields={["from", "weeks"]} />
      <Outcome change={remove} />
      {Array.from({ length: draft.weeks }, (_, week) => (
        <Box key={week}>
          <RotaWeek
            title={draft.weeks === 1 ? t`Every week` : t`${weekNames[week] ?? week + 1} week`}
            week={week}
            shifts={shifts}
            errors={save.errors}
            onChange={(next) => setDraft({ ...draft, shifts: next })}
          />
          {week > 0 && (
            <Press
              size="small"
              look="quiet"
              mt="-2.5"
              mb="3"
              onClick={() => setDraft({ ...draft, shifts: likeWeek(shifts, week, week - 1) })}
            >
              <Trans>Make it like the week before</Trans>
            </Press>
          )}
        </Box>
      ))}
      <Box fontSize="small" color="quiet" mb="3">
        <Trans>
          Dashed: when clients may come. Drag a shift or its edges; arrow keys move it by a quarter of an hour, with
          Shift by five minutes.
        </Trans>
      </Box>
      {!isNew && people.length > 0 && <GiveToOthers from={rota.from} practitioner={practitioner} people={people} />}
      {!isNew && (
        <Press look="quiet" size="small" color="clay" onClick={() => remove.run(null)}>
          <Trans>Take this rota out</Trans>
        </Press>
      )}
    </Box>
  );
}
