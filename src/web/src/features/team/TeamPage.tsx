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

const counted = ["Nobody", "One", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight", "Nine", "Ten"];
const countWords = (count: number) => counted[count] ?? String(count);
const hereWords = (here: number, all: number) =>
  here === 0
    ? "Nobody works"
    : here === all && all > 1
      ? `All ${countWords(all).toLowerCase()} work`
      : `${countWords(here)} of ${countWords(all).toLowerCase()} ${here === 1 ? "works" : "work"}`;

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
  const order = useChange((ids: string[], headers) =>
    answerOf(staff.PUT("/api/v1/setup/practitioners/order", { headers, body: { ids } })),
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
      title="Team"
      actions={
        !adding && (
          <Press look="primary" onClick={() => setAdding(true)}>
            Add a practitioner
          </Press>
        )
      }
    >
      <Tabs label="Team" items={teamTabs} />
      <Stack>
        {adding && <AddPerson tint={(people.data?.length ?? 0) % 12} onLeave={() => setAdding(false)} />}
        {people.data?.length === 0 && !adding && (
          <Empty>
            Nobody is here yet. Add the first practitioner; then say when they work and what they hold. If you have a
            list,{" "}
            <Link to="/setup/import">
              <Box as="span" textDecoration="underline">
                bring it in
              </Box>
            </Link>
            .
          </Empty>
        )}
        {working.length > 0 && (
          <ScaleContext.Provider value={scale}>
            <Sentence size="text">
              {isKnown ? hereWords(here, working.length) : "Who works"}{" "}
              <Part label="Day" words={date === today ? `today, ${longDate(date)}` : `on ${longDate(date)}`}>
                {(close) => (
                  <Month
                    value={date}
                    onChange={(chosen) => {
                      setDate(chosen);
                      close();
                    }}
                  />
                )}
              </Part>
              . Their order decides who comes first when nothing else does; drag a number to change it.
            </Sentence>
            <Box>
              <Box display="flex" ps="28px">
                <TeamGrid>
                  <Hours mark={undefined} />
                </TeamGrid>
              </Box>
              <Box
                role="group"
                aria-label="House order"
                css={{ "& > *": { borderTopWidth: "1px", borderColor: "line" } }}
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
              <Box role="group" aria-label="Gone or leaving" ps="28px">
                <Box as="h2" fontSize="16px">
                  Gone or leaving
                </Box>
                <Box fontSize="14px" color="quiet">
                  Their past visits keep them.
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
