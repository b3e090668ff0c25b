import { sayProblem } from "../../shared/toasts";
import { t } from "@lingui/core/macro";
import { whole } from "../../shared/whole";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { Link } from "react-router";
import { type Practitioner } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { useChange } from "../../shared/change";
import { longDate } from "../../shared/format";
import { Month } from "../../shared/fields/Month";
import { Box, Empty, Page, Stack, Tabs } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { Hours } from "../../shared/ribbon/Ribbons";
import { ScaleContext } from "../../shared/ribbon/scale";
import { scaleOf } from "../../shared/ribbon/stretch";
import { Part, Sentence } from "../../shared/sentence/Sentence";
import { Sortable } from "../../shared/Sortable";
import { usePlaces, useToday } from "../../shared/today";
import { AddPerson } from "./AddPerson";
import { teamTabs, useLocations, usePractitioners, useReadiness } from "./team";
import { useTeamDay } from "./teamDay";
import { TeamGrid, TeamRow } from "./TeamRow";

const counted = [t`Nobody`, t`One`, t`Two`, t`Three`, t`Four`, t`Five`, t`Six`, t`Seven`, t`Eight`, t`Nine`, t`Ten`];
const countWords = (count: number) => counted[count] ?? String(count);
const hereWords = (here: number, all: number) =>
  here === 0
    ? t`Nobody works`
    : here === all && all > 1
      ? t`All ${countWords(all).toLowerCase()} work`
      : here === 1
        ? t`${countWords(here)} of ${countWords(all).toLowerCase()} works`
        : t`${countWords(here)} of ${countWords(all).toLowerCase()} work`;

/** Everyone who treats clients, in house order, with their day. */
export function TeamPage() {
  const people = usePractitioners();
  const locations = useLocations();
  const readiness = useReadiness();
  const places = usePlaces();
  const today = useToday();
  const [date, setDate] = useState(today);
  const [adding, setAdding] = useState(false);
  const { isKnown, presences } = useTeamDay(places, date);
  const order = useChange(
    (ids: string[], headers) => answerOf(staff.PUT("/api/v1/setup/practitioners/order", { headers, body: { ids } })),
    undefined,
    sayProblem,
  );
  const placeOf = (id: string) => locations.data?.find((location) => location.id === id)?.name;
  const working = (people.data ?? []).filter((person) => !person.retired);
  const left = (people.data ?? []).filter((person) => person.retired);
  const here = working.filter((person) => presences.has(person.id!)).length;
  const scale = scaleOf([...presences.values()].flat().flatMap((presence) => presence.open));
  const row = (person: Practitioner) => (
    <TeamRow
      person={person}
      presences={isKnown ? (presences.get(person.id!) ?? []) : undefined}
      places={(person.locationIds ?? []).flatMap((id) => placeOf(id) ?? [])}
      issue={readiness.data?.issues.find((issue) => issue.mendId === person.id && issue.serviceId === null)}
      severalPlaces={places.length > 1}
    />
  );
  return (
    <Page
      title={t`Team`}
      actions={
        !adding && (
          <Press look="primary" onClick={() => setAdding(true)}>
            <Trans>Add a practitioner</Trans>
          </Press>
        )
      }
    >
      <Tabs label={t`Team`} items={teamTabs} />
      <Stack>
        {adding && <AddPerson tint={(people.data?.length ?? 0) % 12} onLeave={() => setAdding(false)} />}
        {people.data?.length === 0 && !adding && (
          <Empty>
            <Trans>
              Nobody is here yet. Add the first practitioner; then say when they work and what they hold. If you have a
              list,{" "}
              <Link to="/setup/import">
                <Box as="span" textDecoration="underline">
                  bring it in
                </Box>
              </Link>
              .
            </Trans>
          </Empty>
        )}
        {working.length > 0 && (
          <ScaleContext.Provider value={scale}>
            <Sentence size="text">
              <Trans>
                {isKnown ? hereWords(here, working.length) : t`Who works`}{" "}
                {whole(
                  <Part label={t`Day`} words={date === today ? t`today, ${longDate(date)}` : t`on ${longDate(date)}`}>
                    {(close) => (
                      <Month
                        value={date}
                        onChange={(chosen) => {
                          setDate(chosen);
                          close();
                        }}
                      />
                    )}
                  </Part>,
                )}
                . Their order decides who comes first when nothing else does; drag a number to change it.
              </Trans>
            </Sentence>
            <Box>
              <Box display="flex" ps="7">
                <TeamGrid>
                  <Hours mark={undefined} />
                </TeamGrid>
              </Box>
              <Box
                role="group"
                aria-label={t`House order`}
                css={{ "& > *": { borderTopWidth: "line", borderColor: "line" } }}
              >
                <Sortable
                  items={working}
                  idOf={(item) => item.id!}
                  nameOf={(item) => item.name ?? ""}
                  onOrder={order.run}
                >
                  {row}
                </Sortable>
              </Box>
            </Box>
            {left.length > 0 && (
              <Box role="group" aria-label={t`Gone or leaving`} ps="7">
                <Box as="h2" fontSize="text">
                  <Trans>Gone or leaving</Trans>
                </Box>
                <Box fontSize="small" color="quiet">
                  <Trans>Their past visits keep them.</Trans>
                </Box>
                {left.map((item) => (
                  <Box key={item.id}>{row(item)}</Box>
                ))}
              </Box>
            )}
          </ScaleContext.Provider>
        )}
      </Stack>
    </Page>
  );
}
