import { t } from "@lingui/core/macro";
import { WordsField } from "../../shared/fields/WordsField";
import { CheckField } from "../../shared/fields/CheckField";
import { ChoiceField, NumberField } from "../../shared/inputs";
import { Box, Row, Stack } from "../../shared/layout";
import { useFeatures } from "../rooms/rooms";
import { useLocations } from "../team/team";
import type { Part } from "./words";

/** Where it is done, and what the room has to have; equipment stands on the ribbons. */
export function WherePart({ draft, set, errors }: Part) {
  const features = useFeatures();
  const locations = useLocations();
  return (
    <Stack>
      {(locations.data?.length ?? 0) > 1 && (
        <ChoiceField
          label={t`Where (none chosen: everywhere)`}
          options={locations.data!.map((location) => [location.id!, location.name ?? ""] as const)}
          chosen={draft.locationIds ?? []}
          onChange={(locationIds) => set({ locationIds })}
        />
      )}
      <CheckField
        label={t`It needs a room`}
        checked={draft.room !== null && draft.room !== undefined}
        onChange={(on) => set({ room: on ? { features: [], units: 1 } : null })}
        hint={t`A video or home visit needs none.`}
      />
      {draft.room && (
        <Row alignItems="start">
          <Box flex="1" minW="65">
            <WordsField
              label={t`A room with all of`}
              words={draft.room.features ?? []}
              offered={features.data ?? []}
              error={errors["room.features"]}
              onChange={(words) => set({ room: { ...draft.room!, features: words } })}
            />
          </Box>
          <Box w="41">
            <NumberField
              label={t`Units of the room`}
              min={1}
              value={draft.room.units}
              error={errors["room.units"]}
              hint={t`2 for a duo suite`}
              onChange={(units) => set({ room: { ...draft.room!, units: units ?? 1 } })}
            />
          </Box>
        </Row>
      )}
      <CheckField
        label={t`Whoever does it may look after others meanwhile`}
        checked={draft.besideOthers}
        onChange={(besideOthers) => set({ besideOthers })}
      />
      <CheckField
        label={t`Keep buffers between two services of one visit too`}
        checked={draft.bufferAlways}
        onChange={(bufferAlways) => set({ bufferAlways })}
      />
    </Stack>
  );
}
