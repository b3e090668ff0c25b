import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { ifMatch, type Practitioner, type Service } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { CheckField } from "../../shared/fields/CheckField";
import { MoneyField, NumberField } from "../../shared/inputs";
import { money } from "../../shared/format";
import { Box, Row, Section, Stack, Table } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { useDeskSetup, useToday } from "../../shared/today";

export const useServices = () => useQuery(asks.services());
export const useWho = (date: string) => useQuery(asks.whoDoesWhat(date));

/** Adds somebody to a role by hand, excludes them, or lets the rule decide. */
export function byHand(
  service: Service,
  role: number,
  practitionerId: string,
  how: "added" | "excluded" | "rule",
): Service {
  return {
    ...service,
    roles: (service.roles ?? []).map((other, i) =>
      i !== role
        ? other
        : {
            ...other,
            added: [
              ...(other.added ?? []).filter((id) => id !== practitionerId),
              ...(how === "added" ? [practitionerId] : []),
            ],
            excluded: [
              ...(other.excluded ?? []).filter((id) => id !== practitionerId),
              ...(how === "excluded" ? [practitionerId] : []),
            ],
          },
    ),
  };
}

/** What one practitioner does, why or why not, and how they do it differently. */
export function ServicesTab({ practitioner }: { practitioner: Practitioner }) {
  const services = useServices();
  const who = useWho(useToday());
  const setup = useDeskSetup();
  const [open, setOpen] = useState<string | null>(null);
  const save = useChange((wanted: Service, headers) =>
    answerOf(
      staff.PUT("/api/v1/setup/services/{id}", {
        params: { path: { id: wanted.id! } },
        headers: { ...headers, ...ifMatch(wanted.version) },
        body: wanted,
      }),
    ),
  );
  if (!services.data || !who.data) return null;
  const cells = who.data.cells.filter((cell) => cell.practitionerId === practitioner.id);
  return (
    <Section
      title={t`What ${practitioner.name?.split(" ")[0] ?? ""} does`}
      hint={t`It follows from the qualifications each service asks for; by hand somebody can be added or excluded.`}
    >
      <Outcome change={save} />
      <Table>
        <thead>
          <tr>
            <th>
              <Trans>Service</Trans>
            </th>
            <th>
              <Trans>Does it</Trans>
            </th>
            <th>
              <Trans>By hand</Trans>
            </th>
            <th>
              <Trans>Length and price</Trans>
            </th>
          </tr>
        </thead>
        <tbody>
          {cells.map((cell) => {
            const service = services.data.find((other) => other.id === cell.serviceId);
            if (!service) return null;
            const role = service.roles?.[cell.role];
            const terms = service.terms?.find((term) => term.practitionerId === practitioner.id);
            const how = role?.excluded?.includes(practitioner.id!)
              ? "excluded"
              : role?.added?.includes(practitioner.id!)
                ? "added"
                : "rule";
            const id = `${cell.serviceId}-${cell.role}`;
            return (
              <tr key={id}>
                <td>
                  <Link to={`/services/${service.id}`}>{service.name}</Link>
                  {(service.roles?.length ?? 0) > 1 && (
                    <Box fontSize="small">
                      <Trans>as {role?.name}</Trans>
                    </Box>
                  )}
                </td>
                <td>
                  <Box fontWeight={cell.may ? "600" : "400"} color={cell.may ? "reed" : "quiet"}>
                    {cell.text}
                  </Box>
                  {cell.until && (
                    <Box fontSize="small">
                      <Trans>until {cell.until}</Trans>
                    </Box>
                  )}
                </td>
                <td>
                  <Row gap="1" role="group" aria-label={`${service.name}, ${role?.name}`}>
                    {(["rule", "added", "excluded"] as const).map((item) => (
                      <Press
                        key={item}
                        size="small"
                        look={how === item ? "primary" : "plain"}
                        aria-pressed={how === item}
                        onClick={() => save.run(byHand(service, cell.role, practitioner.id!, item))}
                      >
                        {item === "rule" ? t`As the rule` : item === "added" ? t`Add` : t`Exclude`}
                      </Press>
                    ))}
                  </Row>
                </td>
                <td>
                  {cell.role === 0 && (
                    <Stack gap="1">
                      <Box fontSize="small">
                        <Trans>
                          {terms?.minutes ?? (service.phases ?? []).reduce((all, phase) => all + phase.minutes, 0)} min
                          · {money({ amount: terms?.price ?? service.price, currency: setup.currency })}
                          {terms && ` (${t`own`})`}
                        </Trans>
                      </Box>
                      {open === id ? (
                        <TermsForm
                          service={service}
                          practitionerId={practitioner.id!}
                          currency={setup.currency}
                          onSave={(next) => {
                            save.run(next);
                            setOpen(null);
                          }}
                          onLeave={() => setOpen(null)}
                        />
                      ) : (
                        <Press
                          size="small"
                          look="quiet"
                          aria-label={t`Set their own length and price for ${service.name ?? ""}`}
                          onClick={() => setOpen(id)}
                        >
                          <Trans>Set their own</Trans>
                        </Press>
                      )}
                    </Stack>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </Table>
    </Section>
  );
}

export function TermsForm({
  service,
  practitionerId,
  currency,
  onSave,
  onLeave,
}: {
  service: Service;
  practitionerId: string;
  currency: string;
  onSave: (service: Service) => void;
  onLeave: () => void;
}) {
  const before = service.terms?.find((term) => term.practitionerId === practitionerId);
  const [minutes, setMinutes] = useState(before?.minutes ?? null);
  const [price, setPrice] = useState(before?.price ?? null);
  const [acceptsNewClients, setAccepts] = useState(before?.acceptsNewClients ?? true);
  const others = (service.terms ?? []).filter((term) => term.practitionerId !== practitionerId);
  const isUsual = minutes === null && price === null && acceptsNewClients;
  return (
    <Stack gap="2" minW="48">
      <NumberField
        label={t`Own length (min)`}
        step={5}
        value={minutes}
        placeholder={t`as usual`}
        onChange={setMinutes}
      />
      <MoneyField
        label={t`Own price`}
        currency={currency}
        value={price}
        placeholder={t`as usual`}
        onChange={setPrice}
      />
      <CheckField label={t`New clients may book it`} checked={acceptsNewClients} onChange={setAccepts} />
      <Row>
        <Press
          size="small"
          look="primary"
          onClick={() =>
            onSave({
              ...service,
              terms: isUsual ? others : [...others, { practitionerId, minutes, price, acceptsNewClients }],
            })
          }
        >
          <Trans>Save</Trans>
        </Press>
        <Press size="small" onClick={onLeave}>
          <Trans>Leave it</Trans>
        </Press>
      </Row>
    </Stack>
  );
}
