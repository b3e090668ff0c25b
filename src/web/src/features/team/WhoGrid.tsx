import { useState } from "react";
import { ifMatch, type Practitioner, type Service } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { DateField } from "../../shared/fields/DateField";
import { Box, Row, Section, Table } from "../../shared/layout";
import { Plain } from "../../shared/Plain";
import { Press } from "../../shared/Press";
import { useToday } from "../../shared/today";
import { byHand, useServices, useWho } from "./ServicesTab";

const marks = { holds: "●", added: "+", lacks: "·", excluded: "✕", notAdded: "·", retired: "·" } as const;

/** Practitioners against services: what follows from the qualifications, and why. */
export function WhoGrid({ people }: { people: Practitioner[] }) {
  const [date, setDate] = useState(useToday());
  const who = useWho(date);
  const services = useServices();
  const [chosen, setChosen] = useState<{ serviceId: string; role: number; practitionerId: string } | null>(null);
  const save = useChange((wanted: Service, headers) =>
    answerOf(
      staff.PUT("/api/v1/setup/services/{id}", {
        params: { path: { id: wanted.id! } },
        headers: { ...headers, ...ifMatch(wanted.version) },
        body: wanted,
      }),
    ),
  );
  if (!who.data || !services.data || who.data.cells.length === 0 || people.length === 0) return null;
  const cell = who.data.cells.find(
    (cellHere) =>
      chosen &&
      cellHere.serviceId === chosen.serviceId &&
      cellHere.role === chosen.role &&
      cellHere.practitionerId === chosen.practitionerId,
  );
  const rows = services.data
    .filter((other) => !other.isArchived)
    .flatMap((service) => (service.roles ?? []).map((role, i) => ({ service, role, i })));
  const service = services.data.find((other) => other.id === chosen?.serviceId);
  return (
    <Section
      title="Who does what"
      hint="● by qualification, + added by hand, ✕ excluded by hand. Press one to read why, and to add or exclude by hand."
      actions={
        <Box w="165px">
          <DateField label="On" value={date} onChange={(value) => value && setDate(value)} />
        </Box>
      }
    >
      <Box overflowX="auto">
        <Table w="auto">
          <thead>
            <tr>
              <th>Service</th>
              {people.map((person) => (
                <th key={person.id}>{person.name?.split(" ")[0]}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ service: listed, role, i }) => (
              <tr key={`${listed.id}-${i}`}>
                <th scope="row" style={{ whiteSpace: "nowrap" }}>
                  {listed.name}
                  {(listed.roles?.length ?? 0) > 1 && (
                    <Box as="span" fontWeight="400">
                      , {role.name}
                    </Box>
                  )}
                </th>
                {people.map((person) => {
                  const found = who.data.cells.find(
                    (other) => other.serviceId === listed.id && other.role === i && other.practitionerId === person.id,
                  );
                  const on = found !== undefined && found === cell;
                  return (
                    <td key={person.id} style={{ padding: "1px", textAlign: "center" }}>
                      {found && (
                        <Plain
                          aria-label={`${person.name}, ${listed.name}: ${found.text}`}
                          title={found.text}
                          aria-pressed={on}
                          w="44px"
                          minH="28px"
                          cursor="pointer"
                          borderRadius="4px"
                          borderWidth="2px"
                          borderColor={on ? "focus" : "transparent"}
                          bg={found.may ? "tint0" : "transparent"}
                          color={found.standing === "excluded" ? "clay" : "ink"}
                          onClick={() => setChosen({ serviceId: listed.id!, role: i, practitionerId: person.id! })}
                        >
                          {marks[found.standing]}
                        </Plain>
                      )}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </Table>
      </Box>
      {cell && service && (
        <Row mt="12px" bg="paper" p="10px" borderRadius="card" position="sticky" bottom="0" aria-live="polite">
          <Box flex="1">
            <b>
              {people.find((person) => person.id === cell.practitionerId)?.name}, {service.name}:
            </b>{" "}
            {cell.text} {cell.until && `Until ${cell.until}.`}
          </Box>
          {cell.standing !== "added" && (
            <Press size="small" onClick={() => save.run(byHand(service, cell.role, cell.practitionerId, "added"))}>
              Add by hand
            </Press>
          )}
          {cell.standing !== "excluded" && (
            <Press size="small" onClick={() => save.run(byHand(service, cell.role, cell.practitionerId, "excluded"))}>
              Exclude
            </Press>
          )}
          {(cell.standing === "added" || cell.standing === "excluded") && (
            <Press size="small" onClick={() => save.run(byHand(service, cell.role, cell.practitionerId, "rule"))}>
              As the rule says
            </Press>
          )}
        </Row>
      )}
      <Outcome change={save} />
    </Section>
  );
}
