import { t } from "@lingui/core/macro";
import { WordsField } from "../../shared/fields/WordsField";
import { keepers, type Keeper } from "../../api/keepers";
import { useState, type ReactNode } from "react";
import { type Equipment, type Room } from "../../api/setup";
import { Outcome } from "../../shared/change";
import { SelectField, TextField } from "../../shared/Field";
import { DateField } from "../../shared/fields/DateField";
import { NumberField } from "../../shared/inputs";
import { Box, Row, Section, Stack, asForm } from "../../shared/layout";
import { useKept } from "../../shared/kept";
import { Press } from "../../shared/Press";
import { useLocations } from "../team/team";
import { useFeatures } from "./rooms";

/** What rooms and equipment have in common. */
type Thing = Pick<Equipment, "id" | "name" | "locationId" | "turnaroundMinutes" | "retired" | "version">;
type FormProps<T extends Thing> = {
  keeper: Keeper<T>;
  stored: T | null;
  fresh: (locationId: string) => T;
  words: { title: string; name: string; count: string; cleaning: string; add: string };
  countField: string;
  count: (thing: T) => number;
  withCount: (count: number) => Partial<T>;
  onMade: (id: string) => void;
  more?: (draft: T, set: (change: Partial<T>) => void, errors: Record<string, string>) => ReactNode;
};

function ThingForm<T extends Thing>(props: FormProps<T>) {
  const { keeper, stored, fresh, words, countField, count, withCount, onMade, more } = props;
  const locations = useLocations();
  const [blank] = useState(() => fresh(locations.data![0]!.id!));
  const { draft, set, save, errors, submit } = useKept<T>(stored ?? blank, keeper, onMade);
  const change = (part: Partial<Thing>) => set(part as Partial<T>);
  return (
    <Section title={words.title}>
      <Stack {...asForm} onSubmit={submit}>
        <Row alignItems="start">
          <Box w="48">
            <TextField
              label={words.name}
              value={draft.name ?? ""}
              autoFocus={!stored}
              error={errors["name"]}
              onChange={(e) => change({ name: e.target.value })}
            />
          </Box>
          {locations.data!.length > 1 && (
            <Box w="37">
              <SelectField
                label={t`Location`}
                value={draft.locationId}
                error={errors["locationId"]}
                onChange={(e) => change({ locationId: e.target.value })}
              >
                {locations.data!.map((location) => (
                  <option key={location.id} value={location.id!}>
                    {location.name}
                  </option>
                ))}
              </SelectField>
            </Box>
          )}
          <Box w="30">
            <NumberField
              label={words.count}
              min={1}
              value={count(draft)}
              error={errors[countField]}
              onChange={(value) => set(withCount(value ?? 1))}
            />
          </Box>
          <Box w="37">
            <NumberField
              label={t`Turnaround (min)`}
              step={5}
              value={draft.turnaroundMinutes}
              error={errors["turnaroundMinutes"]}
              hint={words.cleaning}
              onChange={(minutes) => change({ turnaroundMinutes: minutes ?? 0 })}
            />
          </Box>
        </Row>
        {more?.(draft, set, errors)}
        {stored && (
          <Box w="55">
            <DateField
              label={t`No longer used from`}
              value={draft.retired}
              error={errors["retired"]}
              hint={t`Its history stays.`}
              onChange={(retired) => change({ retired })}
            />
          </Box>
        )}
        <Row>
          <Press type="submit" look="primary" disabled={save.pending}>
            {stored ? t`Save` : words.add}
          </Press>
          <Outcome
            change={save}
            fields={["name", "locationId", countField, "turnaroundMinutes", "features", "retired"]}
          />
        </Row>
      </Stack>
    </Section>
  );
}

/** A room: where it is, for how many, and what it has. */
export function RoomForm({ room, onMade }: { room: Room | null; onMade: (id: string) => void }) {
  const features = useFeatures();
  return (
    <ThingForm<Room>
      keeper={keepers.room}
      stored={room}
      fresh={(locationId) => ({
        id: null,
        name: "",
        locationId,
        capacity: 1,
        turnaroundMinutes: 10,
        features: [],
        retired: null,
        version: 0,
      })}
      words={{
        title: room ? t`Room ${room.name ?? ""}` : t`A new room`,
        name: t`Name on the door`,
        count: t`Clients at once`,
        cleaning: t`cleaning after each visit`,
        add: t`Add the room`,
      }}
      countField="capacity"
      count={(item) => item.capacity}
      withCount={(capacity) => ({ capacity })}
      onMade={onMade}
      more={(draft, set, errors) => (
        <WordsField
          label={t`Features`}
          words={draft.features ?? []}
          offered={features.data ?? []}
          error={errors["features"]}
          hint={t`couch, wet, laser-safe …`}
          onChange={(words) => set({ features: words })}
        />
      )}
    />
  );
}

/** A pool of items that can be swapped for one another. */
export const EquipmentForm = ({ pool, onMade }: { pool: Equipment | null; onMade: (id: string) => void }) => (
  <ThingForm<Equipment>
    keeper={keepers.equipment}
    stored={pool}
    fresh={(locationId) => ({
      id: null,
      name: "",
      locationId,
      quantity: 1,
      turnaroundMinutes: 0,
      retired: null,
      version: 0,
    })}
    words={{
      title: pool ? pool.name! : t`New equipment`,
      name: t`What it is`,
      count: t`How many`,
      cleaning: t`cleaning after each use`,
      add: t`Add the equipment`,
    }}
    countField="quantity"
    count={(item) => item.quantity}
    withCount={(quantity) => ({ quantity })}
    onMade={onMade}
  />
);
