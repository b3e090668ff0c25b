import { sayProblem } from "../../shared/toasts";
import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { WordsField } from "../../shared/fields/WordsField";
import { Link } from "react-router";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { Box, Empty, Page, Panel, Row, Section, Split, Stack } from "../../shared/layout";
import { adding, openedOf, useOpened } from "../../shared/opened";
import { Plain } from "../../shared/Plain";
import { Press } from "../../shared/Press";
import { Sortable } from "../../shared/Sortable";
import { BlockList } from "../calendar/BlockList";
import { useLocations } from "../team/team";
import { EquipmentForm, RoomForm } from "./RoomForms";
import { useEquipment, useFeatures, useRooms } from "./rooms";

const addingPool = "new-equipment";

/** Where visits happen, and what they need. */
export function RoomsPage() {
  const rooms = useRooms();
  const pools = useEquipment();
  const locations = useLocations();
  const opened = useOpened();
  const orderRooms = useChange(
    (ids: string[], headers) => answerOf(staff.PUT("/api/v1/setup/rooms/order", { headers, body: { ids } })),
    undefined,
    sayProblem,
  );
  const orderPools = useChange(
    (ids: string[], headers) => answerOf(staff.PUT("/api/v1/setup/equipment/order", { headers, body: { ids } })),
    undefined,
    sayProblem,
  );
  const addsPool = opened.id === addingPool;
  const pool = pools.data?.find((other) => other.id === opened.id);
  const room = pool || addsPool ? undefined : openedOf(rooms.data ?? [], opened.id);
  const here = room?.id ?? pool?.id ?? null;
  const placeOf = (id: string) =>
    (locations.data?.length ?? 0) > 1 ? locations.data?.find((location) => location.id === id)?.name : undefined;
  const line = (id: string, name: string, says: (string | false | null | undefined)[]) => (
    <Plain
      w="100%"
      textAlign="left"
      cursor="pointer"
      px="2"
      py="1.5"
      borderRadius="mark"
      aria-pressed={id === here}
      bg={id === here ? "glow" : "transparent"}
      onClick={() => opened.open(id)}
    >
      <Box fontWeight="700">{name}</Box>
      <Box fontSize="small" color="quiet">
        {says.filter(Boolean).join(" · ")}
      </Box>
    </Plain>
  );
  if (!rooms.data || !pools.data || !locations.data) return null;
  if (locations.data.length === 0)
    return (
      <Page title={t`Rooms`}>
        <Empty>
          <Trans>
            A room is at a location. <Link to="/setup/locations">Say where clients come</Link> first.
          </Trans>
        </Empty>
      </Page>
    );
  return (
    <Page
      title={t`Rooms`}
      lead={t`Rooms have features that services ask for. Equipment is a number of items that can be swapped for one another.`}
    >
      <Split>
        <Stack>
          <Panel aria-label={t`Rooms`}>
            <Row justifyContent="space-between" mb="1.5">
              <Box as="h2" fontSize="text">
                <Trans>Rooms</Trans>
              </Box>
              <Press size="small" onClick={() => opened.open(adding)}>
                <Trans>Add a room</Trans>
              </Press>
            </Row>
            {rooms.data.length === 0 && (
              <Box color="quiet">
                <Trans>No room yet.</Trans>
              </Box>
            )}
            <Sortable
              items={rooms.data}
              idOf={(item) => item.id!}
              nameOf={(item) => item.name ?? ""}
              onOrder={orderRooms.run}
            >
              {(item) =>
                line(item.id!, item.name ?? "", [
                  placeOf(item.locationId),
                  (item.features ?? []).join(", ") || t`no features`,
                  item.capacity > 1 && t`${item.capacity} at once`,
                  item.retired && t`not used from ${item.retired}`,
                ])
              }
            </Sortable>
          </Panel>
          <Panel aria-label={t`Equipment`}>
            <Row justifyContent="space-between" mb="1.5">
              <Box as="h2" fontSize="text">
                <Trans>Equipment</Trans>
              </Box>
              <Press size="small" onClick={() => opened.open(addingPool)}>
                <Trans>Add equipment</Trans>
              </Press>
            </Row>
            {pools.data.length === 0 && (
              <Box color="quiet">
                <Trans>None yet. Many businesses need none.</Trans>
              </Box>
            )}
            <Sortable
              items={pools.data}
              idOf={(item) => item.id!}
              nameOf={(item) => item.name ?? ""}
              onOrder={orderPools.run}
            >
              {(item) =>
                line(item.id!, item.name ?? "", [
                  placeOf(item.locationId),
                  plural(item.quantity, { one: "# item", other: "# items" }),
                  item.turnaroundMinutes > 0 && t`${item.turnaroundMinutes} min cleaning`,
                  item.retired && t`not used from ${item.retired}`,
                ])
              }
            </Sortable>
          </Panel>
          <FeatureList />
        </Stack>
        <Stack>
          {addsPool || pool ? (
            <EquipmentForm key={`equipment ${pool?.id}`} pool={pool ?? null} onMade={opened.replace} />
          ) : (
            <RoomForm key={`room ${room?.id}`} room={room ?? null} onMade={opened.replace} />
          )}
          {here && <BlockList key={`blocks ${here}`} resourceId={here} name={room?.name ?? pool?.name ?? ""} />}
        </Stack>
      </Split>
    </Page>
  );
}

function FeatureList() {
  const features = useFeatures();
  const remove = useChange((name: string, headers) =>
    answerOf(staff.DELETE("/api/v1/setup/features/{name}", { params: { path: { name } }, headers })),
  );
  const add = useChange((name: string, headers) =>
    answerOf(staff.POST("/api/v1/setup/features", { headers, body: { name } })),
  );
  return (
    <Section title={t`Features`} hint={t`What rooms may have and services may ask for.`}>
      <WordsField
        label={t`Another feature`}
        isKeptAtOnce
        words={features.data ?? []}
        error={add.errors["name"]}
        onChange={(words) => {
          const gone = features.data?.find((feature) => !words.includes(feature));
          const fresh = words.find((word) => !features.data?.includes(word));
          if (gone) remove.run(gone);
          if (fresh) add.run(fresh);
        }}
      />
      <Outcome change={remove} saved={t`Taken off the list.`} />
    </Section>
  );
}
