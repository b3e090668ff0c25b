import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState, type KeyboardEvent } from "react";
import { Link } from "react-router";
import { asks } from "../../api/queries";
import type { Practitioner, Qualification } from "../../api/setup";
import { staff } from "../../api/staff";
import { Outcome, useChange } from "../../shared/change";
import { TextField } from "../../shared/Field";
import { DateField } from "../../shared/fields/DateField";
import { longDate } from "../../shared/format";
import { Box, Empty, Page, Panel, Row, Stack, Tabs, asForm } from "../../shared/layout";
import { Plain } from "../../shared/Plain";
import { Press } from "../../shared/Press";
import { answerOf } from "../../shared/problem";
import { useToday } from "../../shared/today";
import { held as recipe } from "../../theme/recipes/held";
import { useCategories } from "../services/categories";
import { HeldCell } from "./HeldCell";
import { HeldForm, type Cell, type Drawn } from "./HeldForm";
import { useServices, useWho } from "./ServicesTab";
import { soTheyDo } from "./soTheyDo";
import { teamTabs, usePractitioners } from "./team";
import { standingOf } from "./year";

const keyOf = (practitionerId: string, qualificationId: string): Cell => `${practitionerId}|${qualificationId}`;

/** Who holds what over the next twelve months, and what follows from it for the services. */
export function QualificationsPage() {
  const people = usePractitioners();
  const kinds = useQuery(asks.qualifications());
  const [adds, setAdds] = useState(false);
  if (!people.data || !kinds.data) return null;
  const here = people.data.filter((person) => !person.retired);
  return (
    <Page
      title={t`Team`}
      actions={
        <Press look="primary" aria-expanded={adds} onClick={() => setAdds(!adds)}>
          <Trans>Name another</Trans>
        </Press>
      }
    >
      <Tabs label={t`Team`} items={teamTabs} />
      <Stack pb="7">
        {(adds || kinds.data.length === 0) && <NameAnother onDone={() => setAdds(false)} />}
        {kinds.data.length > 0 && here.length > 0 ? (
          <HeldGrid people={here} kinds={kinds.data} />
        ) : (
          <Empty>
            <Trans>
              A qualification is something a practitioner holds: a certificate, a registration, a skill. Services ask
              for them, and so know who may do them.
            </Trans>
          </Empty>
        )}
        <SoTheyDo people={people.data} />
      </Stack>
    </Page>
  );
}

function NameAnother({ onDone }: { onDone: () => void }) {
  const [name, setName] = useState("");
  const add = useChange(
    (wanted: string, headers) =>
      answerOf(
        staff.POST("/api/v1/setup/qualifications", {
          headers,
          body: { id: null, name: wanted, warnDays: 30, version: 0 },
        }),
      ),
    () => {
      setName("");
      onDone();
    },
  );
  return (
    <Panel
      {...asForm}
      aria-label={t`Name a qualification`}
      onSubmit={(event: React.FormEvent) => {
        event.preventDefault();
        add.run(name);
      }}
    >
      <Row alignItems="end">
        <Box w="75">
          <TextField
            label={t`Qualification`}
            autoFocus
            value={name}
            error={add.errors["name"]}
            onChange={(event) => setName(event.target.value)}
          />
        </Box>
        <Press type="submit" disabled={add.pending}>
          <Trans>Add</Trans>
        </Press>
      </Row>
      <Outcome change={add} fields={["name"]} />
    </Panel>
  );
}

const steps: Record<string, [number, number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** A grid for pointer and keyboard: arrows walk, Space or Enter chooses; a head chooses its row or column. */
function HeldGrid({ people, kinds }: { people: Practitioner[]; kinds: Qualification[] }) {
  const styles = useSlotRecipe({ recipe })();
  const today = useToday();
  const [at, setAt] = useState<[number, number]>([0, 0]);
  const [chosen, setChosen] = useState<Cell[]>([]);
  const [drawn, setDrawn] = useState<Drawn | null>(null);
  const walk = (event: KeyboardEvent, row: number, column: number) => {
    const step = steps[event.key];
    if (!step) return;
    event.preventDefault();
    const within = (value: number, most: number) => Math.min(most, Math.max(0, value));
    const next: [number, number] = [
      within(row + step[0], people.length - 1),
      within(column + step[1], kinds.length - 1),
    ];
    setAt(next);
    document.getElementById(`held-${next[0]}-${next[1]}`)?.focus();
  };
  const toggle = (cells: Cell[]) => {
    setDrawn(null);
    setChosen(
      cells.every((cell) => chosen.includes(cell))
        ? chosen.filter((cell) => !cells.includes(cell))
        : [...new Set([...chosen, ...cells])],
    );
  };
  return (
    <Panel aria-label={t`Who holds what`}>
      <Box as="h2" fontSize="title">
        <Trans>Who holds what</Trans>
      </Box>
      <Box color="quiet" fontSize="small" mb="2">
        <Trans>
          From today to a year from now. Draw where somebody holds it, drag its end, or press one or several for
          figures; a name or a head chooses its whole row or column.
        </Trans>
      </Box>
      <Box css={styles["scroll"]}>
        <Box as="table" css={styles["table"]}>
          <thead>
            <tr>
              <th>
                <Box srOnly>
                  <Trans>Practitioner</Trans>
                </Box>
              </th>
              {kinds.map((kind) => (
                <th key={kind.id} scope="col">
                  <Plain
                    css={styles["head"]}
                    aria-label={t`All for ${kind.name ?? ""}`}
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
                    css={styles["name"]}
                    aria-label={t`All of ${person.name ?? ""}`}
                    onClick={() => toggle(kinds.map((kind) => keyOf(person.id!, kind.id!)))}
                  >
                    {person.name?.split(" ")[0]}
                  </Plain>
                </th>
                {kinds.map((kind, column) => {
                  const cell = keyOf(person.id!, kind.id!);
                  const held = (person.qualifications ?? []).filter((other) => other.qualificationId === kind.id);
                  return (
                    <td key={kind.id}>
                      <HeldCell
                        id={`held-${row}-${column}`}
                        label={`${person.name}, ${kind.name}`}
                        held={held}
                        standing={standingOf(held, today, kind.warnDays)}
                        today={today}
                        isChosen={chosen.includes(cell)}
                        isStop={at[0] === row && at[1] === column}
                        onFocus={() => setAt([row, column])}
                        onKeyDown={(event) => walk(event, row, column)}
                        onPress={() => toggle([cell])}
                        onDraw={(from, until) => {
                          setChosen([cell]);
                          setDrawn({ from, until });
                        }}
                      />
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </Box>
      </Box>
      {chosen.length > 0 && (
        <HeldForm
          key={`${chosen.join()} ${drawn?.from} ${drawn?.until}`}
          cells={chosen}
          drawn={drawn}
          people={people}
          kinds={kinds}
          onLeave={() => {
            setChosen([]);
            setDrawn(null);
          }}
        />
      )}
    </Panel>
  );
}

/** What follows, in words; only what was decided by hand, and what will stop, is said besides. */
function SoTheyDo({ people }: { people: Practitioner[] }) {
  const styles = useSlotRecipe({ recipe })();
  const today = useToday();
  const [date, setDate] = useState(today);
  const who = useWho(date);
  const services = useServices();
  const categories = useCategories();
  if (!who.data || !services.data || !categories.data) return null;
  const rows = soTheyDo(who.data, services.data, categories.data, people);
  if (rows.length === 0) return null;
  return (
    <Panel aria-label={t`So they do`}>
      <Row justifyContent="space-between" alignItems="end" mb="1">
        <Box>
          <Box as="h2" fontSize="title">
            <Trans>So they do</Trans>
          </Box>
          <Box color="quiet" fontSize="small">
            <Trans>
              As it follows on {longDate(date)}. Only what was decided by hand is marked; a service is the place to
              decide it.
            </Trans>
          </Box>
        </Box>
        <Box w="41">
          <DateField label={t`On`} value={date} onChange={(value) => value && setDate(value)} />
        </Box>
      </Row>
      <Box css={styles["doing"]} role="list">
        {rows.map((row) => (
          <Box key={row.services[0]!.id} css={styles["doingRow"]} role="listitem">
            <Link to={`/services/${row.services[0]!.id}`}>
              <Box as="span" fontWeight="700" textDecoration="underline">
                {row.name}
              </Box>
            </Link>
            <Box>{row.who}</Box>
            <Box>
              {row.notes.map((note) => (
                <Box key={note.text} color={note.isBad ? "clay" : "quiet"} fontWeight={note.isBad ? "700" : "400"}>
                  {note.text}
                </Box>
              ))}
            </Box>
          </Box>
        ))}
      </Box>
    </Panel>
  );
}
