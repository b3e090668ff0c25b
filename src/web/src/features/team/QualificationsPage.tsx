import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { useState, type KeyboardEvent } from "react";
import { ifMatch, type HeldChange, type Practitioner, type Qualification } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { TextField } from "../../shared/Field";
import { shortDate } from "../../shared/format";
import { DateField } from "../../shared/fields/DateField";
import { FileField } from "../../shared/fields/FileField";
import { NumberField } from "../../shared/inputs";
import { Box, Empty, Page, Row, Section, Stack, Table, Tabs } from "../../shared/layout";
import { Plain } from "../../shared/Plain";
import { Press } from "../../shared/Press";
import { Problem } from "../../shared/problem";
import { addDays } from "../../shared/format";
import { useToday } from "../../shared/today";
import { teamTabs, usePractitioners } from "./team";
import { WhoGrid } from "./WhoGrid";

type Cell = `${string}|${string}`;
const keyOf = (practitionerId: string, qualificationId: string): Cell => `${practitionerId}|${qualificationId}`;

/** Who holds what, from when until when; beside it, what follows for the services. */
export function QualificationsPage() {
  const people = usePractitioners();
  const kinds = useQuery(asks.qualifications());
  const [name, setName] = useState("");
  const add = useChange(
    (wanted: string, headers) =>
      answerOf(
        staff.POST("/api/v1/setup/qualifications", {
          headers,
          body: { id: null, name: wanted, warnDays: 30, version: 0 },
        }),
      ),
    () => setName(""),
  );
  return (
    <Page title="Team">
      <Tabs label="Team" items={teamTabs} />
      <Stack pb="30px">
        {people.data && kinds.data && kinds.data.length > 0 && people.data.length > 0 ? (
          <HeldGrid people={people.data.filter((person) => !person.retired)} kinds={kinds.data} />
        ) : (
          <Empty>
            A qualification is something a practitioner holds: a certificate, a registration, a skill. Services ask for
            them, and so know who may do them. Name the first one below.
          </Empty>
        )}
        <Section title="Name another qualification">
          <Row
            as="form"
            alignItems="end"
            onSubmit={(event: React.FormEvent) => {
              event.preventDefault();
              add.run(name);
            }}
          >
            <Box w="300px">
              <TextField
                label="Qualification"
                value={name}
                error={add.errors["name"]}
                onChange={(e) => setName(e.target.value)}
              />
            </Box>
            <Press type="submit" disabled={add.pending}>
              Add
            </Press>
          </Row>
          <Outcome change={add} fields={["name"]} />
        </Section>
        <WhoGrid people={(people.data ?? []).filter((person) => !person.retired)} />
      </Stack>
    </Page>
  );
}

/** A grid for pointer and keyboard: arrows walk, Space chooses, Enter opens; a head chooses its row or column. */
function HeldGrid({ people, kinds }: { people: Practitioner[]; kinds: Qualification[] }) {
  const today = useToday();
  const [at, setAt] = useState<[number, number]>([0, 0]);
  const [chosen, setChosen] = useState<Cell[]>([]);
  const walk = (event: KeyboardEvent, row: number, column: number) => {
    const steps: Record<string, [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
    };
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    const next: [number, number] = [
      Math.min(people.length - 1, Math.max(0, row + step[0])),
      Math.min(kinds.length - 1, Math.max(0, column + step[1])),
    ];
    setAt(next);
    document.getElementById(`held-${next[0]}-${next[1]}`)?.focus();
  };
  const toggle = (cells: Cell[]) =>
    setChosen(
      cells.every((cell) => chosen.includes(cell))
        ? chosen.filter((cell) => !cells.includes(cell))
        : [...new Set([...chosen, ...cells])],
    );
  return (
    <Section
      title="Who holds what"
      hint="Choose one or several, by pressing or with arrows and Space; a name or a head chooses its whole row or column."
    >
      <Box overflowX="auto">
        <Table w="auto" css={{ "& th": { p: "4px 3px", fontSize: "14px" } }}>
          <thead>
            <tr>
              <th>
                <Box srOnly>Practitioner</Box>
              </th>
              {kinds.map((kind) => (
                <th key={kind.id}>
                  <Plain
                    cursor="pointer"
                    fontWeight="600"
                    textAlign="left"
                    minH="24px"
                    maxW="92px"
                    css={{ hyphens: "auto" }}
                    lineHeight="1.2"
                    aria-label={`All for ${kind.name}`}
                    onClick={() => toggle(people.map((person) => keyOf(person.id!, kind.id!)))}
                  >
                    {kind.name}
                  </Plain>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {people.map((person, row) => (
              <tr key={person.id}>
                <th scope="row">
                  <Plain
                    cursor="pointer"
                    fontWeight="600"
                    whiteSpace="nowrap"
                    minH="24px"
                    aria-label={`All of ${person.name}`}
                    onClick={() => toggle(kinds.map((kind) => keyOf(person.id!, kind.id!)))}
                  >
                    {person.name}
                  </Plain>
                </th>
                {kinds.map((kind, column) => {
                  const cell = keyOf(person.id!, kind.id!);
                  const held = (person.qualifications ?? []).filter((other) => other.qualificationId === kind.id);
                  const now = held.find((other) => other.from <= today && (!other.until || other.until >= today));
                  const coming = held.find((other) => other.from > today);
                  const soon =
                    now?.until &&
                    now.until <= addDays(today, kind.warnDays) &&
                    !held.some((other) => other.from > now.from && (!other.until || other.until > now.until!));
                  const on = chosen.includes(cell);
                  const words = now
                    ? now.until
                      ? `to ${shortDate(now.until).slice(4)}`
                      : "✓"
                    : coming
                      ? `from ${shortDate(coming.from)}`
                      : held.length > 0
                        ? "ran out"
                        : "·";
                  const standing = now && !now.until ? "holds it" : held.length > 0 ? words : "does not hold it";
                  return (
                    <td key={kind.id} style={{ padding: "2px" }}>
                      <Plain
                        id={`held-${row}-${column}`}
                        aria-label={`${person.name}, ${kind.name}: ${standing}${soon ? ", runs out soon" : ""}`}
                        aria-pressed={on}
                        tabIndex={at[0] === row && at[1] === column ? 0 : -1}
                        onFocus={() => setAt([row, column])}
                        onKeyDown={(event) => walk(event, row, column)}
                        onClick={() => toggle([cell])}
                        w="100%"
                        minW="56px"
                        minH="34px"
                        px="4px"
                        cursor="pointer"
                        fontSize="14px"
                        borderRadius="4px"
                        borderWidth={on ? "2px" : "1px"}
                        borderColor={on ? "focus" : "transparent"}
                        bg={soon ? "glow" : now ? "tint0" : held.length > 0 ? "woven" : "transparent"}
                        color={now || held.length > 0 ? "ink" : "quiet"}
                        fontWeight={soon ? "700" : "400"}
                      >
                        {soon && "! "}
                        {words}
                      </Plain>
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </Table>
      </Box>
      {chosen.length > 0 && (
        <HeldForm key={chosen.join()} cells={chosen} people={people} kinds={kinds} onLeave={() => setChosen([])} />
      )}
    </Section>
  );
}

function HeldForm({
  cells,
  people,
  kinds,
  onLeave,
}: {
  cells: Cell[];
  people: Practitioner[];
  kinds: Qualification[];
  onLeave: () => void;
}) {
  const today = useToday();
  const only = cells.length === 1 ? cells[0]!.split("|") : null;
  const before = only
    ? people
        .find((person) => person.id === only[0])
        ?.qualifications?.filter((qualification) => qualification.qualificationId === only[1])
        .at(-1)
    : undefined;
  const [from, setFrom] = useState<string | null>(before?.from ?? today);
  const [until, setUntil] = useState<string | null>(before?.until ?? null);
  const [evidenceId, setEvidence] = useState<string | null>(before?.evidenceId ?? null);
  const [fault, setFault] = useState<string>();
  const save = useChange(
    (held: HeldChange["held"], headers) =>
      answerOf(
        staff.PUT("/api/v1/setup/held-qualifications", {
          headers,
          body: cells.map((cell) => ({
            practitionerId: cell.split("|")[0]!,
            qualificationId: cell.split("|")[1]!,
            held,
          })),
        }),
      ),
    onLeave,
  );
  const kind = only ? kinds.find((other) => other.id === only[1]) : undefined;
  const rename = useChange((wanted: Qualification, headers) =>
    answerOf(
      staff.PUT("/api/v1/setup/qualifications/{id}", {
        params: { path: { id: wanted.id! } },
        headers: { ...headers, ...ifMatch(wanted.version) },
        body: wanted,
      }),
    ),
  );
  const upload = async (file: File | undefined) => {
    if (!file) return;
    setFault(undefined);
    const form = new FormData();
    form.append("file", file);
    try {
      setEvidence((await answerOf(staff.POST("/api/v1/setup/evidence", { body: form as never }))).id);
    } catch (error) {
      setFault(error instanceof Problem ? error.message : "The file could not be sent.");
    }
  };
  return (
    <Box bg="paper" borderRadius="card" p="12px" mt="12px">
      <Box fontWeight="700" mb="8px">
        {only ? `${people.find((person) => person.id === only[0])?.name}: ${kind?.name}` : `${cells.length} chosen`}
      </Box>
      <Row alignItems="end">
        <Box w="165px">
          <DateField
            label="Counts from"
            value={from}
            error={Object.entries(save.errors).find(([field]) => field.endsWith(".from"))?.[1]}
            onChange={setFrom}
          />
        </Box>
        <Box w="165px">
          <DateField
            label="Until (or open)"
            value={until}
            error={Object.entries(save.errors).find(([field]) => field.endsWith(".until"))?.[1]}
            onChange={setUntil}
          />
        </Box>
        <Press
          look="primary"
          disabled={!from || save.pending}
          onClick={() => save.run([{ from: from!, until, evidenceId }])}
        >
          {cells.length === 1 ? "Save" : `Give to all ${cells.length}`}
        </Press>
        <Press look="danger" disabled={save.pending} onClick={() => save.run([])}>
          Take away
        </Press>
        <Press onClick={onLeave}>Leave it</Press>
      </Row>
      {only && (
        <Row mt="10px" alignItems="end">
          <FileField
            label="Evidence (PDF or picture)"
            choose={evidenceId ? "Another file" : "Choose a file"}
            accept="application/pdf,image/png,image/jpeg"
            error={fault}
            onFile={(file) => void upload(file)}
          />
          {evidenceId && (
            <a href={`/api/v1/setup/evidence/${evidenceId}`} download>
              What is on file
            </a>
          )}
          {kind && (
            <Box w="190px">
              <NumberField
                label="Warn days before it ends"
                value={kind.warnDays}
                onChange={(warnDays) => rename.run({ ...kind, warnDays: warnDays ?? 0 })}
              />
            </Box>
          )}
        </Row>
      )}
      <Outcome change={save} />
      <Outcome change={rename} />
    </Box>
  );
}
