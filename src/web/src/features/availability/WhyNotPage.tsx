import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { send, type DayReasons, type ReasonText } from "../../api/setup";
import { SelectField } from "../../shared/Field";
import { addDays, longDate, shortDate } from "../../shared/format";
import { DateField } from "../../shared/inputs";
import { Box, Empty, Page, Panel, Row, Span, Stack, Table } from "../../shared/layout";
import { Plain } from "../../shared/Plain";
import { Press } from "../../shared/Press";
import { useDeskSetup } from "../../shared/today";
import { PractitionerField } from "../booking/PractitionerField";

export const gateWords = {
  client: "the client",
  service: "the service",
  date: "the date",
  openingHours: "opening hours",
  startGrid: "the start grid",
  practitioner: "a practitioner",
  roomAndEquipment: "room and equipment",
  gap: "the gap rule",
} as const;
/** Most services of one visit, as the booking page takes them. */
const mostLines = 4;
const gates = Object.keys(gateWords) as (keyof typeof gateWords)[];
const letters = {
  client: "C",
  service: "S",
  date: "D",
  openingHours: "O",
  startGrid: "G",
  practitioner: "P",
  roomAndEquipment: "R",
  gap: "g",
} as const;

/** On which page of a practitioner a reason is changed. */
const practitionerTab: Partial<Record<ReasonText["code"], string>> = {
  offShift: "rota",
  onBreak: "rota",
  practitionerBlocked: "calendar",
  practitionerAway: "calendar",
  notQualified: "services",
};

/** Where the setting behind a reason is changed; null where nobody can. */
function ownerPath(reason: ReasonText): string | null {
  switch (reason.ownerKind) {
    case "business":
      return "/setup/booking-page";
    case "location":
      return "/setup/locations";
    case "category":
      return `/services?category=${reason.ownerId}`;
    case "service":
      return `/services/${reason.ownerId}`;
    case "practitioner":
      return `/team/${reason.ownerId}/${practitionerTab[reason.code] ?? ""}`;
    case "room":
    case "equipment":
      return "/rooms";
    default:
      return null;
  }
}

/** For a service, somebody or anyone, a place and a day: every start, and for each dark one every reason. */
export function WhyNotPage({ mayEdit }: { mayEdit: boolean }) {
  const setup = useDeskSetup();
  const [search, setSearch] = useSearchParams();
  const [pointed, setPointed] = useState<string | null>(search.get("at"));
  const asked = search.getAll("service").filter((id) => setup.services.some((other) => other.id === id));
  const serviceIds = asked.length > 0 ? asked : setup.services.slice(0, 1).map((other) => other.id);
  const serviceId = serviceIds[0] ?? "";
  const service = setup.services.find((other) => other.id === serviceId);
  const places = setup.locations.filter((other) => !service || service.locationIds.includes(other.id));
  const location =
    setup.locations.find((other) => other.id === search.get("location")) ?? places[0] ?? setup.locations[0];
  const date = search.get("date") ?? location?.today ?? "";
  const practitionerId = search.get("by");
  const who = search.get("as") ?? "new";
  const set = (change: Record<string, string>) => {
    setPointed(null);
    const next = new URLSearchParams(search);
    for (const [key, value] of Object.entries(change))
      if (value) next.set(key, value);
      else next.delete(key);
    next.delete("at");
    setSearch(next);
  };
  const setServices = (ids: string[]) => {
    const next = new URLSearchParams(search);
    for (const key of ["service", "by", "at"]) next.delete(key);
    for (const id of ids) next.append("service", id);
    setPointed(null);
    setSearch(next);
  };
  const ask = (from: string, days: number) =>
    send<DayReasons[]>("POST", "/starts/days", {
      locationId: location?.id,
      lines: serviceIds.map((id, i) => ({ serviceId: id, practitionerId: i === 0 ? practitionerId : null })),
      from,
      days,
      asClient: who !== "desk",
      newClient: who === "new",
    });
  const enabled = Boolean(location && serviceId);
  const day = useQuery({
    queryKey: ["reasons", location?.id, serviceIds, practitionerId, who, date],
    queryFn: () => ask(date, 1),
    enabled,
    placeholderData: (before) => before,
  });
  const run = useQuery({
    queryKey: ["reasons-run", location?.id, serviceIds, practitionerId, who, date],
    queryFn: () => ask(date, 21),
    enabled,
    placeholderData: (before) => before,
  });
  const item = day.data?.[0];
  const start = item?.strip.find((other) => other.clock === pointed) ?? item?.strip.find((other) => !other.offered);
  if (!location || !service)
    return (
      <Page title="Why not?">
        <Empty>There is nothing to ask about yet: no location, or no service.</Empty>
      </Page>
    );
  return (
    <Page title="Why not?" lead="Why a time is not offered, by the same reckoning that decides it.">
      <Row alignItems="end" mb="10px">
        <Box w="220px">
          <SelectField
            label="Service"
            value={serviceId}
            onChange={(e) => setServices([e.target.value, ...serviceIds.slice(1)])}
          >
            {setup.services.map((other) => (
              <option key={other.id} value={other.id}>
                {other.name}
              </option>
            ))}
          </SelectField>
        </Box>
        {[...serviceIds.slice(1), ""].slice(0, mostLines - 1).map((id, i) => (
          <Box key={i} w="180px">
            <SelectField
              label="and then"
              value={id}
              onChange={(e) =>
                setServices([...serviceIds.slice(0, i + 1), e.target.value, ...serviceIds.slice(i + 2)].filter(Boolean))
              }
            >
              <option value="">nothing more</option>
              {setup.services.map((other) => (
                <option key={other.id} value={other.id}>
                  {other.name}
                </option>
              ))}
            </SelectField>
          </Box>
        ))}
        <Box w="180px">
          <PractitionerField
            setup={setup}
            serviceId={serviceId}
            value={practitionerId ?? ""}
            onChange={(by) => set({ by })}
          />
        </Box>
      </Row>
      <Row alignItems="end" mb="14px">
        {setup.locations.length > 1 && (
          <Box w="150px">
            <SelectField label="Location" value={location.id} onChange={(e) => set({ location: e.target.value })}>
              {setup.locations.map((other) => (
                <option key={other.id} value={other.id}>
                  {other.name}
                </option>
              ))}
            </SelectField>
          </Box>
        )}
        <Box w="165px">
          <SelectField label="Asked by" value={who} onChange={(e) => set({ as: e.target.value })}>
            <option value="new">a new client</option>
            <option value="returning">a returning client</option>
            <option value="desk">the desk</option>
          </SelectField>
        </Box>
        <Row gap="4px" alignItems="end" flexWrap="nowrap">
          <Press aria-label="Day before" onClick={() => set({ date: addDays(date, -1) })}>
            ‹
          </Press>
          <Box w="160px">
            <DateField label="Day" value={date} onChange={(value) => value && set({ date: value })} />
          </Box>
          <Press aria-label="Day after" onClick={() => set({ date: addDays(date, 1) })}>
            ›
          </Press>
        </Row>
      </Row>
      {day.error && (
        <Panel role="alert" color="clay" mb="14px">
          {day.error.message}
        </Panel>
      )}
      {day.isPending && enabled && <Box aria-busy="true">Reckoning the day …</Box>}
      {item && (
        <Stack pb="30px">
          <Panel aria-label="The day">
            <Box as="h2" fontSize="17px" mb="8px">
              {longDate(date)}:{" "}
              {item.offered === 0
                ? "nothing is offered"
                : `${item.offered} ${item.offered === 1 ? "start is" : "starts are"} offered`}
            </Box>
            <Row gap="3px" role="group" aria-label="Starts of the day">
              {item.strip.map((other) => (
                <Plain
                  key={other.start}
                  aria-pressed={other === start}
                  onClick={() => setPointed(other.clock)}
                  w="46px"
                  py="2px"
                  cursor="pointer"
                  fontSize="14px"
                  borderRadius="4px"
                  borderWidth="2px"
                  borderColor={other === start ? "focus" : "transparent"}
                  bg={other.offered ? "kingcup" : "woven"}
                  color={other.offered ? "onKingcup" : "quiet"}
                  fontWeight={other.offered ? "700" : "400"}
                >
                  {other.clock}
                  <Span srOnly>: {other.offered ? "offered" : `not offered, ${gateWords[other.gate ?? "gap"]}`}</Span>
                  <Box aria-hidden fontSize="14px" lineHeight="1">
                    {other.offered ? "✓" : letters[other.gate ?? "gap"]}
                  </Box>
                </Plain>
              ))}
            </Row>
            <Box fontSize="14px" color="quiet" mt="6px">
              ✓ offered. Otherwise the gate that stops it first:{" "}
              {gates.map((gate) => `${letters[gate]} ${gateWords[gate]}`).join(", ")}.
            </Box>
          </Panel>
          {start && (
            <Panel aria-label={`Why not ${start.clock}`} aria-live="polite">
              <Box as="h2" fontSize="17px" mb="6px">
                {start.clock} {start.offered ? "is offered" : "is not offered"}
              </Box>
              {start.offered && <Box>It passes every gate.</Box>}
              {gates
                .filter((gate) => start.reasons.some((reason) => reason.gate === gate))
                .map((gate) => (
                  <Box
                    key={gate}
                    borderTopWidth="1px"
                    borderColor="line"
                    py="6px"
                    display="grid"
                    gridTemplateColumns="150px 1fr"
                    gap="10px"
                  >
                    <Box fontWeight="700">{gateWords[gate]}</Box>
                    <Box>
                      {start.reasons
                        .filter((reason) => reason.gate === gate)
                        .map((reason) => (
                          <Row key={reason.text} gap="8px">
                            <Box>{reason.text}</Box>
                            {mayEdit && ownerPath(reason) && (
                              <Link to={ownerPath(reason)!}>
                                <Box as="span" textDecoration="underline">
                                  Change it
                                </Box>
                              </Link>
                            )}
                            {reason.appointmentId && (
                              <Link to={`/day/${location.id}/${date}?appointment=${reason.appointmentId}`}>
                                <Box as="span" textDecoration="underline">
                                  Open it
                                </Box>
                              </Link>
                            )}
                          </Row>
                        ))}
                    </Box>
                  </Box>
                ))}
            </Panel>
          )}
          <Panel aria-label="Three weeks">
            <Box as="h2" fontSize="17px" mb="6px">
              Three weeks: what each gate removed
            </Box>
            <Box overflowX="auto">
              <Table fontSize="14px">
                <thead>
                  <tr>
                    <th>Day</th>
                    <th>Offered</th>
                    {gates.map((gate) => (
                      <th key={gate}>{gateWords[gate]}</th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {run.data?.map((other) => (
                    <tr key={other.date}>
                      <td style={{ whiteSpace: "nowrap" }}>
                        <Plain
                          cursor="pointer"
                          textDecoration="underline"
                          minH="24px"
                          onClick={() => set({ date: other.date })}
                        >
                          {shortDate(other.date)}
                        </Plain>
                      </td>
                      <td>
                        <b>{other.offered}</b>
                      </td>
                      {gates.map((gate) => {
                        const count = Number(other.removed.find((removed) => removed.gate === gate)?.starts ?? 0);
                        return (
                          <td key={gate}>
                            {count === 0 ? (
                              <Box as="span" color="quiet">
                                ·
                              </Box>
                            ) : (
                              count
                            )}
                          </td>
                        );
                      })}
                    </tr>
                  ))}
                </tbody>
              </Table>
            </Box>
          </Panel>
        </Stack>
      )}
    </Page>
  );
}
