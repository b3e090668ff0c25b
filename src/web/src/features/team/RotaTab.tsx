import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ifMatch, read, send, type Practitioner, type Rota, type Weekday, type Work } from "../../api/setup";
import { Outcome, useChange } from "../../shared/change";
import { SelectField } from "../../shared/Field";
import { addDays, longDate, mondayOf, shortDate } from "../../shared/format";
import { CheckField, DateField, weekdays } from "../../shared/inputs";
import { Box, Panel, Row, Section, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { usePlaces, useToday } from "../../shared/today";
import { ShiftEditor } from "../calendar/ShiftEditor";
import type { Person } from "../calendar/CalendarTab";
import { mondayOfWeek, shiftsOn, usualShift } from "../calendar/shifts";

/** Shifts that repeat over one or more weeks, from a date on. */
export function RotaTab({ practitioner, people }: { practitioner: Person; people: Practitioner[] }) {
  const path = `/setup/practitioners/${practitioner.id}`;
  const work = useQuery({ queryKey: ["work", practitioner.id], queryFn: () => read<Work>(`${path}/work`) });
  const locations = usePlaces();
  const today = useToday();
  const [from, setFrom] = useState<string | null>(null);
  const [draft, setDraft] = useState<Rota | null>(null);
  if (!work.data) return null;
  const home = locations[0];
  if (!home) return <Panel>Say where clients come first: a shift is at a location.</Panel>;
  const rotas = work.data.rotas;
  const now = [...rotas].reverse().find((rota) => rota.from <= today) ?? rotas[0];
  const kept = draft ?? rotas.find((rota) => rota.from === from) ?? now;
  const start = (copy: Rota | undefined) =>
    setDraft({ from: addDays(mondayOf(today), 7), weeks: copy?.weeks ?? 1, shifts: copy?.shifts ?? [], version: 0 });
  return (
    <Stack maxW="920px" pb="30px">
      <Row>
        {rotas.length > 0 && (
          <Box w="300px">
            <SelectField
              label="Rota"
              value={draft ? "" : (kept?.from ?? "")}
              onChange={(e) => {
                setDraft(null);
                setFrom(e.target.value);
              }}
            >
              {draft && <option value="">a new one</option>}
              {rotas.map((rota) => (
                <option key={rota.from} value={rota.from}>
                  from {longDate(rota.from)}
                  {rota.from === now?.from ? " (holds now)" : ""}
                </option>
              ))}
            </SelectField>
          </Box>
        )}
        {!draft && (
          <Press
            mt={rotas.length > 0 ? "22px" : 0}
            look={rotas.length > 0 ? "plain" : "primary"}
            onClick={() => start(kept)}
          >
            {rotas.length > 0 ? "Change it from a date on" : "Start the rota"}
          </Press>
        )}
      </Row>
      {kept && (
        <RotaEditor
          key={draft ? "draft" : kept.from}
          path={path}
          rota={kept}
          isNew={draft !== null}
          practitioner={practitioner}
          people={people}
          onDone={(at) => {
            setDraft(null);
            setFrom(at);
          }}
          onLeave={() => setDraft(null)}
        />
      )}
    </Stack>
  );
}

type EditorProps = {
  path: string;
  rota: Rota;
  isNew: boolean;
  practitioner: Person;
  people: Practitioner[];
  onDone: (from: string | null) => void;
  onLeave: () => void;
};

function RotaEditor({ path, rota, isNew, practitioner, people, onDone, onLeave }: EditorProps) {
  const [draft, setDraft] = useState(rota);
  const [week, setWeek] = useState(0);
  const today = useToday();
  const locations = usePlaces();
  const save = useChange(
    (wanted: Rota, headers) =>
      send<Work>("PUT", `${path}/rotas/${wanted.from}`, wanted, {
        ...headers,
        // Another first date is another rota.
        ...ifMatch(!isNew && wanted.from === rota.from ? rota.version : 0),
      }),
    (_, wanted) => onDone(wanted.from),
  );
  const remove = useChange(
    (_: null, headers) =>
      send<Work>("DELETE", `${path}/rotas/${rota.from}`, undefined, { ...headers, ...ifMatch(rota.version) }),
    () => onDone(null),
  );
  const shifts = draft.shifts ?? [];
  const set = (next: typeof shifts) => setDraft({ ...draft, shifts: next });
  const add = (weekday: Weekday) => {
    const before = [...shifts].reverse().find((other) => other.week === week);
    const shift =
      before && shiftsOn(draft, week, weekday).length === 0
        ? before.shift
        : { ...usualShift(locations[0]!.id), from: "13:00:00", until: "18:00:00" };
    set([...shifts, { week, weekday, shift: shifts.length === 0 ? usualShift(locations[0]!.id) : { ...shift } }]);
  };
  const copyDay = (weekday: Weekday) => {
    const model = shiftsOn(draft, week, weekday);
    const others = weekdays
      .slice(0, 5)
      .map(([day]) => day)
      .filter((day) => day !== weekday);
    set([
      ...shifts.filter((shift) => shift.week !== week || !others.includes(shift.weekday)),
      ...others.flatMap((day) => model.map((item) => ({ week, weekday: day, shift: item.shift }))),
    ]);
  };
  return (
    <Section
      title={isNew ? "A new rota" : `Rota from ${longDate(rota.from)}`}
      actions={
        <Row>
          {isNew && <Press onClick={onLeave}>Leave it</Press>}
          {!isNew && (
            <Press look="danger" size="small" onClick={() => remove.run(null)}>
              Take this rota out
            </Press>
          )}
        </Row>
      }
    >
      <Row alignItems="end" mb="14px">
        <Box w="180px">
          <DateField
            label="Holds from"
            value={draft.from}
            error={save.errors["from"]}
            onChange={(value) => value && setDraft({ ...draft, from: value })}
          />
        </Box>
        <Box w="170px">
          <SelectField
            label="Repeats every"
            value={draft.weeks}
            error={save.errors["weeks"]}
            onChange={(e) => {
              const weeks = Number(e.target.value);
              setWeek(0);
              setDraft({ ...draft, weeks, shifts: shifts.filter((shift) => shift.week < weeks) });
            }}
          >
            {[1, 2, 3, 4, 5, 6, 8].map((weeks) => (
              <option key={weeks} value={weeks}>
                {weeks === 1 ? "week" : `${weeks} weeks`}
              </option>
            ))}
          </SelectField>
        </Box>
        {draft.weeks > 1 && (
          <Row gap="4px" role="group" aria-label="Week of the cycle">
            {Array.from({ length: draft.weeks }, (_, i) => (
              <Press
                key={i}
                size="small"
                look={week === i ? "primary" : "plain"}
                aria-pressed={week === i}
                onClick={() => setWeek(i)}
              >
                Week {i + 1}: {shortDate(mondayOfWeek(draft, i, today)).slice(4)}
              </Press>
            ))}
            <Press
              size="small"
              look="quiet"
              onClick={() =>
                set([
                  ...shifts.filter((shift) => shift.week !== week),
                  ...shifts
                    .filter((shift) => shift.week === (week + draft.weeks - 1) % draft.weeks)
                    .map((shift) => ({ ...shift, week })),
                ])
              }
            >
              Copy the week before into it
            </Press>
          </Row>
        )}
      </Row>
      {weekdays.map(([weekday, name], day) => {
        const own = shiftsOn(draft, week, weekday);
        return (
          <Box
            key={weekday}
            display="grid"
            gridTemplateColumns="56px 1fr"
            gap="10px"
            py="8px"
            borderTopWidth="1px"
            borderColor="line"
            role="group"
            aria-label={name}
          >
            <Box fontWeight="700" pt="4px">
              {name}
            </Box>
            <Stack gap="8px">
              {own.map((item) => (
                <ShiftEditor
                  key={item.index}
                  shift={item.shift}
                  locations={locations}
                  errors={save.errors}
                  path={`shifts[${item.index}].shift.`}
                  onChange={(shift) => set(shifts.map((other, i) => (i === item.index ? { ...other, shift } : other)))}
                  onRemove={() => set(shifts.filter((_, i) => i !== item.index))}
                />
              ))}
              <Row gap="4px">
                {own.length === 0 && <Box color="quiet">off</Box>}
                <Press size="small" look="quiet" aria-label={`Add a shift on ${name}`} onClick={() => add(weekday)}>
                  + Shift
                </Press>
                {day < 5 && own.length > 0 && (
                  <Press
                    size="small"
                    look="quiet"
                    aria-label={`Same Monday to Friday as on ${name}`}
                    onClick={() => copyDay(weekday)}
                  >
                    Same Monday to Friday
                  </Press>
                )}
              </Row>
            </Stack>
          </Box>
        );
      })}
      <Row mt="12px">
        <Press look="primary" disabled={save.pending} onClick={() => save.run(draft)}>
          Save the rota
        </Press>
        <Outcome
          change={save}
          fields={[
            "from",
            "weeks",
            ...shifts.flatMap((_, i) => [`shifts[${i}].shift.from`, `shifts[${i}].shift.until`]),
          ]}
        />
        <Outcome change={remove} saved="Taken out." />
      </Row>
      {!isNew && people.length > 0 && (
        <GiveToOthers path={path} from={rota.from} practitioner={practitioner} people={people} />
      )}
    </Section>
  );
}

function GiveToOthers({
  path,
  from,
  practitioner,
  people,
}: {
  path: string;
  from: string;
  practitioner: Person;
  people: Practitioner[];
}) {
  const [open, setOpen] = useState(false);
  const [to, setTo] = useState<string[]>([]);
  const copy = useChange(
    (ids: string[], headers) => send<Work>("POST", `${path}/rotas/${from}/copy`, { to: ids }, headers),
    () => setTo([]),
  );
  const others = people.filter((person) => person.id !== practitioner.id && !person.retired);
  if (others.length === 0) return null;
  return (
    <Box mt="12px" borderTopWidth="1px" borderColor="line" pt="10px">
      <Press size="small" look="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
        Give this rota to others too
      </Press>
      {open && (
        <Box>
          <Box fontSize="14px" color="quiet">
            From {longDate(from)} on they work the same shifts.
          </Box>
          <Row>
            {others.map((other) => (
              <CheckField
                key={other.id}
                label={other.name}
                checked={to.includes(other.id!)}
                onChange={(on) => setTo(on ? [...to, other.id!] : to.filter((id) => id !== other.id))}
              />
            ))}
          </Row>
          <Press mt="6px" disabled={to.length === 0 || copy.pending} onClick={() => copy.run(to)}>
            Give it to {to.length === 1 ? "one" : to.length}
          </Press>
          <Outcome change={copy} saved="They have it." />
        </Box>
      )}
    </Box>
  );
}
