import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ifMatch, type Shift, type WorkDay } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { SelectField, TextField } from "../../shared/Field";
import { addDays, longDate, mondayOf, shortDate } from "../../shared/format";
import { DateField } from "../../shared/fields/DateField";
import { CheckField } from "../../shared/inputs";
import { Box, Row, Section, Stack } from "../../shared/layout";
import { Plain } from "../../shared/Plain";
import { Press } from "../../shared/Press";
import { usePlaces, useToday } from "../../shared/today";
import { BlockList } from "./BlockList";
import { ShiftEditor } from "./ShiftEditor";
import { shiftWords, usualShift } from "./shifts";

const weeksShown = 5;

/** As much of a practitioner as their time needs. */
export type Person = { id?: string | null; name?: string | null };

/** Each day as it really holds; one is chosen and changed beside it, by whoever may. */
export function CalendarTab({ practitioner, mayChange = true }: { practitioner: Person; mayChange?: boolean }) {
  const today = useToday();
  const [first, setFirst] = useState(() => mondayOf(today));
  const [chosen, setChosen] = useState(today);
  const days = useQuery({
    queryKey: ["calendar", practitioner.id, first],
    queryFn: () =>
      answerOf(
        staff.GET("/api/v1/setup/practitioners/{id}/calendar", {
          params: { path: { id: practitioner.id! }, query: { from: first, days: weeksShown * 7 } },
        }),
      ),
    placeholderData: (before) => before,
  });
  const day = days.data?.find((other) => other.date === chosen);
  return (
    <Box
      display="grid"
      gap="16px"
      gridTemplateColumns="minmax(0, 1fr)"
      alignItems="start"
      pb="30px"
      css={mayChange ? { "@media (min-width: 900px)": { gridTemplateColumns: "minmax(0, 1fr) 372px" } } : {}}
    >
      <Stack>
        <Box bg="sheet" borderWidth="1px" borderColor="line" borderRadius="card" p="12px">
          <Row justifyContent="space-between" mb="8px">
            <Box as="h2" fontSize="17px">
              {shortDate(first)} to {shortDate(addDays(first, weeksShown * 7 - 1))}
            </Box>
            <Row gap="4px">
              <Press size="small" aria-label="Weeks before" onClick={() => setFirst(addDays(first, -28))}>
                ‹
              </Press>
              <Press size="small" onClick={() => setFirst(mondayOf(today))}>
                Today
              </Press>
              <Press size="small" aria-label="Weeks after" onClick={() => setFirst(addDays(first, 28))}>
                ›
              </Press>
            </Row>
          </Row>
          <Box
            display="grid"
            gap="4px"
            role="group"
            aria-label="Days"
            css={{ "@media (min-width: 700px)": { gridTemplateColumns: "repeat(7, minmax(0, 1fr))" } }}
          >
            {days.data?.map((other) => (
              <Plain
                key={other.date}
                aria-pressed={other.date === chosen}
                onClick={() => setChosen(other.date)}
                textAlign="left"
                p="5px"
                minH="44px"
                cursor="pointer"
                fontSize="14px"
                lineHeight="1.25"
                borderWidth={other.date === chosen ? "2px" : "1px"}
                borderColor={other.date === chosen ? "focus" : "line"}
                borderRadius="card"
                bg={other.shifts.length === 0 ? "woven" : "sheet"}
                display="block"
              >
                <Box
                  fontWeight={other.date === today ? "700" : "600"}
                  textDecoration={other.date === today ? "underline" : undefined}
                >
                  {shortDate(other.date)}
                </Box>
                {other.shifts.map((shift, i) => (
                  <Box key={i}>{shiftWords(shift)}</Box>
                ))}
                {other.shifts.length === 0 && (
                  <Box color="quiet">{other.reason ?? other.closures[0]?.split(": ")[1] ?? "off"}</Box>
                )}
                {other.isChange && other.shifts.length > 0 && <Box color="sky">≠ {other.reason ?? "changed"}</Box>}
                {other.blocks.map((block) => (
                  <Box
                    key={block.blockId + block.from}
                    color="clay"
                    overflow="hidden"
                    textOverflow="ellipsis"
                    whiteSpace="nowrap"
                  >
                    ▨ {block.kind === "timeOff" ? block.reason : `${block.from.slice(11, 16)} ${block.reason}`}
                  </Box>
                ))}
              </Plain>
            ))}
          </Box>
        </Box>
        <BlockList resourceId={practitioner.id!} name={practitioner.name ?? ""} isPerson mayChange={mayChange} />
      </Stack>
      {mayChange && (
        <Stack>
          {day && <DayEditor key={chosen} practitioner={practitioner} day={day} />}
          <TimeOff practitioner={practitioner} from={chosen} />
        </Stack>
      )}
    </Box>
  );
}

function DayEditor({ practitioner, day }: { practitioner: Person; day: WorkDay }) {
  const locations = usePlaces();
  const [kind, setKind] = useState(day.isChange ? (day.shifts.length === 0 ? "off" : "other") : "rota");
  const [shifts, setShifts] = useState<Shift[]>(day.shifts);
  const [reason, setReason] = useState(day.reason ?? "");
  const [duringClosure, setDuringClosure] = useState(false);
  const save = useChange((_: null, headers) =>
    kind === "rota"
      ? day.isChange
        ? answerOf(
            staff.DELETE("/api/v1/setup/practitioners/{id}/shift-changes/{date}", {
              params: { path: { id: practitioner.id!, date: day.date } },
              headers: { ...headers, ...ifMatch(day.version) },
            }),
          )
        : Promise.resolve(null)
      : answerOf(
          staff.PUT("/api/v1/setup/practitioners/{id}/shift-changes/{date}", {
            params: { path: { id: practitioner.id!, date: day.date } },
            headers: { ...headers, ...ifMatch(day.version) },
            body: {
              date: day.date,
              version: Number(day.version),
              shifts: kind === "off" ? [] : shifts,
              worksDuringClosure: duringClosure,
              reason,
            },
          }),
        ),
  );
  const home = locations[0];
  return (
    <Section title={longDate(day.date)}>
      <Stack gap="10px">
        <SelectField
          label="That day"
          value={kind}
          onChange={(e) => {
            setKind(e.target.value);
            if (e.target.value === "other" && shifts.length === 0 && home) setShifts([usualShift(home.id)]);
          }}
        >
          <option value="rota">as the rota says</option>
          <option value="other">other hours</option>
          <option value="off">off</option>
        </SelectField>
        {kind === "other" &&
          shifts.map((shift, i) => (
            <ShiftEditor
              key={i}
              shift={shift}
              locations={locations}
              errors={save.errors}
              path={`shifts[${i}].`}
              onChange={(next) => setShifts(shifts.map((other, j) => (j === i ? next : other)))}
              onRemove={() => setShifts(shifts.filter((_, j) => j !== i))}
            />
          ))}
        {kind === "other" && home && (
          <Press
            size="small"
            look="quiet"
            onClick={() => setShifts([...shifts, { ...usualShift(home.id), from: "18:00:00", until: "20:00:00" }])}
          >
            + Shift
          </Press>
        )}
        {kind !== "rota" && (
          <TextField
            label="Why"
            value={reason}
            placeholder="course, swapped with Ines …"
            error={save.errors["reason"]}
            onChange={(e) => setReason(e.target.value)}
          />
        )}
        {kind === "other" && day.closures.length > 0 && (
          <CheckField
            label={`Works although it is closed (${day.closures.join(", ")})`}
            checked={duringClosure}
            onChange={setDuringClosure}
          />
        )}
        <Row>
          <Press
            look="primary"
            disabled={save.pending || (kind === "rota" && !day.isChange)}
            onClick={() => save.run(null)}
          >
            Save the day
          </Press>
          <Outcome
            change={save}
            fields={["reason", ...shifts.flatMap((_, i) => [`shifts[${i}].from`, `shifts[${i}].until`])]}
          />
        </Row>
      </Stack>
    </Section>
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
    <Section title="Time off" hint="Whole days away. Visits that are booked then are shown before it is saved.">
      {draft ? (
        <Stack gap="10px">
          <Row alignItems="start">
            <Box w="165px">
              <DateField
                label="First day"
                value={draft.from}
                error={save.errors["start"]}
                onChange={(value) => value && setDraft({ ...draft, from: value })}
              />
            </Box>
            <Box w="165px">
              <DateField
                label="Last day"
                value={draft.until}
                error={save.errors["end"]}
                onChange={(value) => value && setDraft({ ...draft, until: value })}
              />
            </Box>
          </Row>
          <TextField
            label="Why"
            value={draft.reason}
            error={save.errors["reason"]}
            onChange={(e) => setDraft({ ...draft, reason: e.target.value })}
          />
          <Row>
            <Press look="primary" disabled={save.pending} onClick={() => save.run(draft)}>
              Save time off
            </Press>
            <Press onClick={() => setDraft(null)}>Leave it</Press>
          </Row>
        </Stack>
      ) : (
        <Press onClick={() => setDraft({ from, until: from, reason: "Holiday" })}>Add time off</Press>
      )}
      <Outcome change={save} fields={["start", "end", "reason"]} />
    </Section>
  );
}
