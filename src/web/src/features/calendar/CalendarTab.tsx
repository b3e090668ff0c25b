import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../api/queries";
import type { WorkDay } from "../../api/setup";
import { staff } from "../../api/staff";
import { Outcome, useChange } from "../../shared/change";
import { TextField } from "../../shared/Field";
import { minuteOf } from "../../shared/fields/clockText";
import { DateField } from "../../shared/fields/DateField";
import { addDays, mondayOf, shortDate, timeWords } from "../../shared/format";
import { Box, Panel, Row, Section, Stack } from "../../shared/layout";
import { useOpened } from "../../shared/opened";
import { Plain } from "../../shared/Plain";
import { Press } from "../../shared/Press";
import { answerOf } from "../../shared/problem";
import { Piece } from "../../shared/ribbon/Piece";
import { ScaleContext } from "../../shared/ribbon/scale";
import { Strip } from "../../shared/ribbon/Strip";
import { scaleOf, type Stretch } from "../../shared/ribbon/stretch";
import { useToday } from "../../shared/today";
import { stretchOf } from "../../shared/week/stretchOf";
import { calendar } from "../../theme/recipes/calendar";
import { breakOf } from "../team/rota/rotaDraft";
import { BlockList } from "./BlockList";
import { DayEditor } from "./DayEditor";
import { shiftWords } from "./shifts";

const weeksShown = 5;

/** As much of a practitioner as their time needs. */
export type Person = { id?: string | null; name?: string | null };

/** What a block takes of a day, in minutes after its midnight. */
const blockOn = (date: string, block: WorkDay["blocks"][number]): Stretch => ({
  from: block.from.slice(0, 10) < date ? 0 : minuteOf(block.from.slice(11)),
  until: block.until.slice(0, 10) > date ? 1440 : minuteOf(block.until.slice(11)),
});

/** Five weeks as they really hold, each day with its ribbon; the one that is open is changed beside them, by whoever may. */
export function CalendarTab({ practitioner, mayChange = true }: { practitioner: Person; mayChange?: boolean }) {
  const styles = useSlotRecipe({ recipe: calendar })();
  const today = useToday();
  const opened = useOpened("day");
  const chosen = opened.id ?? today;
  const [first, setFirst] = useState(() => mondayOf(chosen));
  const days = useQuery({
    ...asks.calendar(practitioner.id!, first, weeksShown * 7),
    placeholderData: keepPreviousData,
  });
  const day = days.data?.find((other) => other.date === chosen);
  const scale = scaleOf((days.data ?? []).flatMap((other) => other.shifts.map(stretchOf)));
  return (
    <Box css={styles["columns"]} data-beside={mayChange}>
      <Stack>
        <Panel aria-label={t`Calendar`}>
          <Row justifyContent="space-between" mb="2">
            <Box as="h2" fontSize="title">
              <Trans>
                {shortDate(first)} to {shortDate(addDays(first, weeksShown * 7 - 1))}
              </Trans>
            </Box>
            <Row gap="1">
              <Press size="small" aria-label={t`Weeks before`} onClick={() => setFirst(addDays(first, -28))}>
                ‹
              </Press>
              <Press size="small" onClick={() => setFirst(mondayOf(today))}>
                <Trans>Today</Trans>
              </Press>
              <Press size="small" aria-label={t`Weeks after`} onClick={() => setFirst(addDays(first, 28))}>
                ›
              </Press>
            </Row>
          </Row>
          <ScaleContext.Provider value={scale}>
            <Box css={styles["grid"]} role="group" aria-label={t`Days`}>
              {days.data?.map((other) => (
                <DayCell
                  key={other.date}
                  day={other}
                  isToday={other.date === today}
                  isChosen={other.date === chosen}
                  onChoose={() => opened.open(other.date)}
                />
              ))}
            </Box>
          </ScaleContext.Provider>
        </Panel>
        <BlockList resourceId={practitioner.id!} name={practitioner.name ?? ""} isPerson mayChange={mayChange} />
      </Stack>
      {mayChange && (
        <Stack>
          {day && <DayEditor key={`day ${chosen} ${day.version}`} practitioner={practitioner} day={day} />}
          <TimeOff key={`off ${chosen}`} practitioner={practitioner} from={chosen} />
        </Stack>
      )}
    </Box>
  );
}

function DayCell({
  day,
  isToday,
  isChosen,
  onChoose,
}: {
  day: WorkDay;
  isToday: boolean;
  isChosen: boolean;
  onChoose: () => void;
}) {
  const styles = useSlotRecipe({ recipe: calendar })();
  return (
    <Plain
      css={styles["day"]}
      data-off={day.shifts.length === 0}
      data-today={isToday}
      aria-pressed={isChosen}
      onClick={onChoose}
    >
      <Box css={styles["date"]}>{shortDate(day.date)}</Box>
      {(day.shifts.length > 0 || day.blocks.length > 0) && (
        <Strip label="" isSmall>
          {day.shifts.map((shift) => (
            <Piece key={shift.from} stretch={stretchOf(shift)} look={day.isChange ? "changed" : "shift"} label="" />
          ))}
          {day.shifts.flatMap((shift) =>
            (shift.breaks ?? []).map((pause) => (
              <Piece key={pause.from} stretch={breakOf(shift, pause)} look="break" label="" isBehind />
            )),
          )}
          {day.blocks.map((block) => (
            <Piece key={block.blockId + block.from} stretch={blockOn(day.date, block)} look="break" label="" isBehind />
          ))}
        </Strip>
      )}
      {day.shifts.length > 0 ? (
        <Box>{day.shifts.map(shiftWords).join(", ")}</Box>
      ) : (
        <Box css={styles["text"]}>{day.reason ?? day.closures[0]?.split(": ")[1] ?? t`off`}</Box>
      )}
      {day.isChange && day.shifts.length > 0 && <Box css={styles["changed"]}>≠ {day.reason ?? t`changed`}</Box>}
      {day.blocks.map((block) => (
        <Box key={block.blockId + block.from} css={styles["block"]}>
          ▨ {block.kind === "timeOff" ? block.reason : `${timeWords(block.from.slice(11))} ${block.reason}`}
        </Box>
      ))}
    </Plain>
  );
}

function TimeOff({ practitioner, from }: { practitioner: Person; from: string }) {
  const [draft, setDraft] = useState<{ from: string; until: string; reason: string } | null>(null);
  const save = useChange(
    (wanted: { from: string; until: string; reason: string }, headers) =>
      answerOf(
        staff.POST("/api/v1/setup/blocks", {
          headers,
          body: {
            id: null,
            version: 0,
            locationId: null,
            resourceId: practitioner.id!,
            kind: "timeOff",
            reason: wanted.reason,
            start: `${wanted.from}T00:00:00`,
            end: `${addDays(wanted.until, 1)}T00:00:00`,
          },
        }),
      ),
    () => setDraft(null),
  );
  return (
    <Section title={t`Time off`} hint={t`Whole days away. Visits that are booked then are shown before it is saved.`}>
      {draft ? (
        <Stack gap="2.5">
          <Row alignItems="start">
            <Box w="41">
              <DateField
                label={t`First day`}
                value={draft.from}
                error={save.errors["start"]}
                onChange={(value) => value && setDraft({ ...draft, from: value })}
              />
            </Box>
            <Box w="41">
              <DateField
                label={t`Last day`}
                value={draft.until}
                error={save.errors["end"]}
                onChange={(value) => value && setDraft({ ...draft, until: value })}
              />
            </Box>
          </Row>
          <TextField
            label={t`Why`}
            value={draft.reason}
            error={save.errors["reason"]}
            onChange={(e) => setDraft({ ...draft, reason: e.target.value })}
          />
          <Row>
            <Press look="primary" disabled={save.pending} onClick={() => save.run(draft)}>
              <Trans>Save time off</Trans>
            </Press>
            <Press onClick={() => setDraft(null)}>
              <Trans>Leave it</Trans>
            </Press>
          </Row>
        </Stack>
      ) : (
        <Press onClick={() => setDraft({ from, until: from, reason: t`Holiday` })}>
          <Trans>Add time off</Trans>
        </Press>
      )}
      <Outcome change={save} fields={["start", "end", "reason"]} />
    </Section>
  );
}
