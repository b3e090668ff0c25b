import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useCallback, useId, useMemo, useState, type FormEvent } from "react";
import type { DeskSetup } from "../../api/staff";
import { AreaField } from "../../shared/Field";
import { asForm, Box, Stack } from "../../shared/layout";
import { BookFoot } from "./BookFoot";
import type { Carried } from "./carry/carried";
import { ClientPart } from "./ClientPart";
import type { Chosen } from "./fits";
import { requestOf } from "./lines/lineDrafts";
import { LinesPart } from "./lines/LinesPart";
import { SameAgain } from "./lines/SameAgain";
import { Press } from "../../shared/Press";
import { DrawnPart } from "./DrawnPart";
import { RepeatPart } from "./repeat/RepeatPart";
import { usualRepeat } from "./repeat/repeats";
import { useRow } from "./repeat/useRow";
import { Sheet } from "./Sheet";
import { StartList } from "./StartList";
import { useBooking } from "./useBooking";
import { blankDraft, clientOf, useVisitDrafts, visitDrafts, type VisitDraft } from "./visitDrafts";

type Props = {
  /** Which of the half-written visits this is. */
  id: string;
  setup: DeskSetup;
  location: DeskSetup["locations"][number];
  date: string;
  at: string | null;
  by: string | null;
  /** The end of a stretch that was drawn from there on. */
  until: string | null;
  /** Blocks a stretch of a lane; missing where this person may not. */
  onBlock: ((laneId: string, from: string, until: string) => void) | null;
  onCarry: (carried: Carried | null) => void;
  onPoint: (practitionerId: string | null, start: string) => void;
  onDay: (date: string) => void;
  onDone: (visitId: string) => void;
  onClient: (clientId: string) => void;
  onClose: () => void;
};

/** Books a visit: who, what, with whom, and one of the starts that really fit. What is written stays when the sheet is closed. */
export function NewVisitSheet(props: Props) {
  const { id, setup, location, date, at, by, until, onBlock, onCarry, onPoint, onDay, onDone, onClient, onClose } =
    props;
  const booking = useBooking((visit) => {
    visitDrafts.drop(id);
    onDone(visit.id);
  });
  // A blank one would ask for a client, and take the next key as their name.
  const draft = useVisitDrafts().find((other) => other.id === id) ?? booking.taken ?? blankDraft(id, location.id);
  const asked = JSON.stringify(requestOf(draft.lines));
  // A start belongs to what was asked and pointed at when it was chosen: where any of it changes, it is void in the same moment.
  const here = [at, by, location.id, asked].join(" ");
  const [picked, setPicked] = useState<{ here: string; start: Chosen | null }>({ here, start: null });
  const start = picked.here === here ? picked.start : null;
  const setStart = useCallback((next: Chosen | null) => setPicked({ here, start: next }), [here]);
  const set = (change: Partial<VisitDraft>) => visitDrafts.set(id, location.id, { locationId: location.id, ...change });
  const { errors, over } = booking;
  const question = useMemo(() => {
    const lines = JSON.parse(asked) as ReturnType<typeof requestOf>;
    return lines.length > 0 ? { locationId: location.id, lines } : null;
  }, [location, asked]);
  const hasClient = draft.client !== null || draft.fresh !== null;
  // What would be gone over has changed: it is read again before it is taken.
  const stands = start !== null && (over === null || start.start !== over.start || start.accept === over.accept);
  const row = useRow({ locationId: location.id, here, start, question, clientId: draft.client?.id ?? null });
  const isReady = stands && hasClient && row.isReady;
  const formId = useId();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (booking.pending || !isReady || !start) return;
    booking.run({
      draft: { ...draft, locationId: location.id },
      start,
      row: row.repeat ? row.kept : undefined,
    });
  };
  return (
    <Sheet
      title={t`New visit`}
      foot={
        <BookFoot
          form={formId}
          booking={booking}
          start={start}
          canBook={isReady}
          times={row.repeat ? row.kept.length : 1}
          lacksClient={!hasClient}
          onTake={setStart}
          draft={draft}
          onClose={onClose}
        />
      }
      onClose={onClose}
    >
      <Stack {...asForm} id={formId} onSubmit={submit} gap="3">
        <ClientPart draft={draft} errors={errors} onChange={set} onDetails={onClient} />
        {draft.client && !question && (
          <SameAgain
            clientId={draft.client.id}
            setup={setup}
            locationId={location.id}
            onTake={(lines) => set({ lines })}
          />
        )}
        {at && until && (
          <DrawnPart
            from={at}
            until={until}
            zone={location.zone}
            line={draft.lines[0]}
            onLength={(minutes) =>
              set({ lines: draft.lines.map((line, i) => (i === 0 ? { ...line, minutes } : line)) })
            }
            onBlock={onBlock && by ? () => onBlock(by, at, until) : null}
          />
        )}
        <LinesPart
          setup={setup}
          locationId={location.id}
          date={date}
          by={by}
          lines={draft.lines}
          people={draft.people}
          client={clientOf(draft) ?? ""}
          chosen={start}
          errors={errors}
          onLines={(lines) => set({ lines })}
          onPeople={(people) => set({ people })}
        />
        {question ? (
          <StartList
            question={question}
            date={date}
            zone={location.zone}
            near={at}
            chosen={start}
            onChoose={setStart}
            onCarry={onCarry}
            onPoint={onPoint}
            onDay={onDay}
          />
        ) : (
          <Box color="quiet">
            <Trans>Choose a service, and the times that fit light up in the book.</Trans>
          </Box>
        )}
        {question &&
          start &&
          !start.accept &&
          draft.people.length === 0 &&
          (row.repeat ? (
            <RepeatPart zone={location.zone} row={row} repeat={row.repeat} />
          ) : (
            <Press size="small" look="quiet" justifySelf="start" onClick={() => row.set(usualRepeat, {})}>
              <Trans>Repeat this visit</Trans>
            </Press>
          ))}
        <AreaField
          label={t`Note`}
          value={draft.note}
          maxLength={2000}
          onChange={(event) => set({ note: event.target.value })}
        />
      </Stack>
    </Sheet>
  );
}
