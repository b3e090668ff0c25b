import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { ifMatch, read, send, type Equipment, type Room } from "../../api/setup";
import { Outcome, useChange } from "../../shared/change";
import { useDraft } from "../../shared/draft";
import { SelectField, TextField } from "../../shared/Field";
import { DateField, NumberField, WordsField } from "../../shared/inputs";
import { Box, Empty, Page, Panel, Row, Section, Stack } from "../../shared/layout";
import { Plain } from "../../shared/Plain";
import { Press } from "../../shared/Press";
import { Sortable } from "../../shared/Sortable";
import { BlockList } from "../team/BlockList";
import { useLocations } from "../team/team";

type Chosen = { kind: "room" | "equipment"; id: string | null } | null;
export const useRooms = () => useQuery({ queryKey: ["rooms"], queryFn: () => read<Room[]>("/setup/rooms") });
export const useEquipment = () =>
  useQuery({ queryKey: ["equipment"], queryFn: () => read<Equipment[]>("/setup/equipment") });
export const useFeatures = () => useQuery({ queryKey: ["features"], queryFn: () => read<string[]>("/setup/features") });

/** Where visits happen, and what they need. */
export function RoomsPage() {
  const rooms = useRooms();
  const pools = useEquipment();
  const locations = useLocations();
  const [chosen, setChosen] = useState<Chosen>(null);
  const orderRooms = useChange((ids: string[], headers) => send<void>("PUT", "/setup/rooms/order", { ids }, headers));
  const orderPools = useChange((ids: string[], headers) =>
    send<void>("PUT", "/setup/equipment/order", { ids }, headers),
  );
  const placeOf = (id: string) =>
    (locations.data?.length ?? 0) > 1 ? locations.data?.find((one) => one.id === id)?.name : undefined;
  const line = (kind: "room" | "equipment", id: string, name: string, says: (string | false | null | undefined)[]) => (
    <Plain
      w="100%"
      textAlign="left"
      cursor="pointer"
      px="8px"
      py="6px"
      borderRadius="4px"
      aria-pressed={chosen?.kind === kind && chosen.id === id}
      bg={chosen?.kind === kind && chosen.id === id ? "glow" : "transparent"}
      onClick={() => setChosen({ kind, id })}
    >
      <Box fontWeight="700">{name}</Box>
      <Box fontSize="14px" color="quiet">
        {says.filter(Boolean).join(" · ")}
      </Box>
    </Plain>
  );
  const room = chosen?.kind === "room" ? rooms.data?.find((one) => one.id === chosen.id) : undefined;
  const pool = chosen?.kind === "equipment" ? pools.data?.find((one) => one.id === chosen.id) : undefined;
  if (!rooms.data || !pools.data || !locations.data) return null;
  if (locations.data.length === 0)
    return (
      <Page title="Rooms">
        <Empty>
          A room is at a location. <Link to="/setup/locations">Say where clients come</Link> first.
        </Empty>
      </Page>
    );
  return (
    <Page
      title="Rooms"
      lead="Rooms have features that services ask for. Equipment is a number of items that can be swapped for one another."
    >
      <Box
        display="grid"
        gap="16px"
        gridTemplateColumns="minmax(280px, 380px) minmax(0, 1fr)"
        alignItems="start"
        pb="30px"
      >
        <Stack>
          <Panel aria-label="Rooms">
            <Row justifyContent="space-between" mb="6px">
              <Box as="h2" fontSize="17px">
                Rooms
              </Box>
              <Press size="small" onClick={() => setChosen({ kind: "room", id: null })}>
                Add a room
              </Press>
            </Row>
            {rooms.data.length === 0 && <Box color="quiet">No room yet.</Box>}
            <Sortable
              items={rooms.data}
              idOf={(one) => one.id!}
              nameOf={(one) => one.name ?? ""}
              onOrder={orderRooms.run}
            >
              {(one) =>
                line("room", one.id!, one.name ?? "", [
                  placeOf(one.locationId),
                  (one.features ?? []).join(", ") || "no features",
                  one.capacity > 1 && `${one.capacity} at once`,
                  one.retired && `not used from ${one.retired}`,
                ])
              }
            </Sortable>
          </Panel>
          <Panel aria-label="Equipment">
            <Row justifyContent="space-between" mb="6px">
              <Box as="h2" fontSize="17px">
                Equipment
              </Box>
              <Press size="small" onClick={() => setChosen({ kind: "equipment", id: null })}>
                Add equipment
              </Press>
            </Row>
            {pools.data.length === 0 && <Box color="quiet">None yet. Many businesses need none.</Box>}
            <Sortable
              items={pools.data}
              idOf={(one) => one.id!}
              nameOf={(one) => one.name ?? ""}
              onOrder={orderPools.run}
            >
              {(one) =>
                line("equipment", one.id!, one.name ?? "", [
                  placeOf(one.locationId),
                  `${one.quantity} ${one.quantity === 1 ? "item" : "items"}`,
                  one.turnaroundMinutes > 0 && `${one.turnaroundMinutes} min cleaning`,
                  one.retired && `not used from ${one.retired}`,
                ])
              }
            </Sortable>
          </Panel>
          <FeatureList />
        </Stack>
        <Stack>
          {chosen?.kind === "room" && (chosen.id === null || room) && (
            <RoomForm key={chosen.id} room={room ?? null} onMade={(id) => setChosen({ kind: "room", id })} />
          )}
          {chosen?.kind === "equipment" && (chosen.id === null || pool) && (
            <EquipmentForm key={chosen.id} pool={pool ?? null} onMade={(id) => setChosen({ kind: "equipment", id })} />
          )}
          {chosen?.id && <BlockList key={chosen.id} resourceId={chosen.id} name={room?.name ?? pool?.name ?? ""} />}
          {!chosen && <Empty>Choose a room or equipment to change it.</Empty>}
        </Stack>
      </Box>
    </Page>
  );
}

function RoomForm({ room, onMade }: { room: Room | null; onMade: (id: string) => void }) {
  const locations = useLocations();
  const features = useFeatures();
  const { draft, base, set, keep } = useDraft<Room>(
    room ?? {
      id: null,
      name: "",
      locationId: locations.data![0]!.id!,
      capacity: 1,
      turnaroundMinutes: 10,
      features: [],
      retired: null,
      version: 0,
    },
  );
  const save = useChange(
    (wanted: Room, headers) =>
      room
        ? send<Room>("PUT", `/setup/rooms/${room.id}`, wanted, { ...headers, ...ifMatch(base.version) })
        : send<Room>("POST", "/setup/rooms", wanted, headers),
    (made) => {
      keep(made);
      onMade(made.id!);
    },
  );
  const { errors } = save;
  return (
    <Section title={room ? `Room ${room.name}` : "A new room"}>
      <Stack
        as="form"
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          save.run(draft);
        }}
      >
        <Row alignItems="start">
          <Box w="190px">
            <TextField
              label="Name on the door"
              value={draft.name ?? ""}
              autoFocus={!room}
              error={errors["name"]}
              onChange={(e) => set({ name: e.target.value })}
            />
          </Box>
          {locations.data!.length > 1 && (
            <Box w="148px">
              <SelectField
                label="Location"
                value={draft.locationId}
                error={errors["locationId"]}
                onChange={(e) => set({ locationId: e.target.value })}
              >
                {locations.data!.map((one) => (
                  <option key={one.id} value={one.id!}>
                    {one.name}
                  </option>
                ))}
              </SelectField>
            </Box>
          )}
          <Box w="124px">
            <NumberField
              label="Clients at once"
              min={1}
              value={draft.capacity}
              error={errors["capacity"]}
              onChange={(capacity) => set({ capacity: capacity ?? 1 })}
            />
          </Box>
          <Box w="148px">
            <NumberField
              label="Turnaround (min)"
              step={5}
              value={draft.turnaroundMinutes}
              error={errors["turnaroundMinutes"]}
              hint="cleaning after each visit"
              onChange={(minutes) => set({ turnaroundMinutes: minutes ?? 0 })}
            />
          </Box>
        </Row>
        <WordsField
          label="Features"
          words={draft.features ?? []}
          offered={features.data ?? []}
          error={errors["features"]}
          hint="couch, wet, laser-safe …"
          onChange={(words) => set({ features: words })}
        />
        {room && (
          <Box w="230px">
            <DateField
              label="No longer used from"
              value={draft.retired}
              error={errors["retired"]}
              hint="Its history stays."
              onChange={(retired) => set({ retired })}
            />
          </Box>
        )}
        <Row>
          <Press type="submit" look="primary" disabled={save.pending}>
            {room ? "Save" : "Add the room"}
          </Press>
          <Outcome
            change={save}
            fields={["name", "locationId", "capacity", "turnaroundMinutes", "features", "retired"]}
          />
        </Row>
      </Stack>
    </Section>
  );
}

function EquipmentForm({ pool, onMade }: { pool: Equipment | null; onMade: (id: string) => void }) {
  const locations = useLocations();
  const { draft, base, set, keep } = useDraft<Equipment>(
    pool ?? {
      id: null,
      name: "",
      locationId: locations.data![0]!.id!,
      quantity: 1,
      turnaroundMinutes: 0,
      retired: null,
      version: 0,
    },
  );
  const save = useChange(
    (wanted: Equipment, headers) =>
      pool
        ? send<Equipment>("PUT", `/setup/equipment/${pool.id}`, wanted, { ...headers, ...ifMatch(base.version) })
        : send<Equipment>("POST", "/setup/equipment", wanted, headers),
    (made) => {
      keep(made);
      onMade(made.id!);
    },
  );
  const { errors } = save;
  return (
    <Section title={pool ? pool.name! : "New equipment"}>
      <Stack
        as="form"
        onSubmit={(event: React.FormEvent) => {
          event.preventDefault();
          save.run(draft);
        }}
      >
        <Row alignItems="start">
          <Box w="240px">
            <TextField
              label="What it is"
              value={draft.name ?? ""}
              autoFocus={!pool}
              error={errors["name"]}
              onChange={(e) => set({ name: e.target.value })}
            />
          </Box>
          {locations.data!.length > 1 && (
            <Box w="148px">
              <SelectField
                label="Location"
                value={draft.locationId}
                error={errors["locationId"]}
                onChange={(e) => set({ locationId: e.target.value })}
              >
                {locations.data!.map((one) => (
                  <option key={one.id} value={one.id!}>
                    {one.name}
                  </option>
                ))}
              </SelectField>
            </Box>
          )}
          <Box w="130px">
            <NumberField
              label="How many"
              min={1}
              value={draft.quantity}
              error={errors["quantity"]}
              onChange={(quantity) => set({ quantity: quantity ?? 1 })}
            />
          </Box>
          <Box w="148px">
            <NumberField
              label="Turnaround (min)"
              step={5}
              value={draft.turnaroundMinutes}
              error={errors["turnaroundMinutes"]}
              hint="cleaning after each use"
              onChange={(minutes) => set({ turnaroundMinutes: minutes ?? 0 })}
            />
          </Box>
        </Row>
        {pool && (
          <Box w="230px">
            <DateField
              label="No longer used from"
              value={draft.retired}
              error={errors["retired"]}
              hint="Its history stays."
              onChange={(retired) => set({ retired })}
            />
          </Box>
        )}
        <Row>
          <Press type="submit" look="primary" disabled={save.pending}>
            {pool ? "Save" : "Add the equipment"}
          </Press>
          <Outcome change={save} fields={["name", "locationId", "quantity", "turnaroundMinutes", "retired"]} />
        </Row>
      </Stack>
    </Section>
  );
}

function FeatureList() {
  const features = useFeatures();
  const remove = useChange((name: string, headers) =>
    send<void>("DELETE", `/setup/features/${encodeURIComponent(name)}`, undefined, headers),
  );
  const add = useChange((name: string, headers) => send<void>("POST", "/setup/features", { name }, headers));
  return (
    <Section title="Features" hint="What rooms may have and services may ask for.">
      <WordsField
        label="Another feature"
        words={features.data ?? []}
        error={add.errors["name"]}
        onChange={(words) => {
          const gone = features.data?.find((one) => !words.includes(one));
          const fresh = words.find((one) => !features.data?.includes(one));
          if (gone) remove.run(gone);
          if (fresh) add.run(fresh);
        }}
      />
      <Outcome change={remove} saved="Taken off the list." />
    </Section>
  );
}
