import { t } from "@lingui/core/macro";
import { useQuery } from "@tanstack/react-query";
import { asks } from "../../api/queries";
import type { ClientFile, DeskSetup } from "../../api/staff";
import { TextField } from "../../shared/Field";
import { ChosenField } from "../../shared/fields/ChosenField";
import { DateField } from "../../shared/fields/DateField";
import { WordsField } from "../../shared/fields/WordsField";
import { CheckField } from "../../shared/fields/CheckField";
import { Box } from "../../shared/layout";
import { pressures } from "./likes";

const nobody = "nobody";
type Props = {
  draft: ClientFile;
  errors: Record<string, string>;
  setup: DeskSetup;
  set: (change: Partial<ClientFile>) => void;
};

/** What is known of a client beyond how to reach them: birthday, tags, what they like. */
export function KnownFields({ draft, errors, setup, set }: Props) {
  const tags = useQuery(asks.clientTags());
  return (
    <>
      <Box display="grid" gridTemplateColumns="5fr 4fr" gap="2">
        <DateField label={t`Born`} value={draft.born} error={errors["born"]} onChange={(born) => set({ born })} />
        <TextField
          label={t`Came by`}
          placeholder={t`a friend, the web`}
          value={draft.source ?? ""}
          error={errors["source"]}
          onChange={(event) => set({ source: event.target.value })}
        />
      </Box>
      <WordsField
        label={t`Tags`}
        words={draft.tags ?? []}
        offered={(tags.data ?? []).slice(0, 8)}
        error={errors["tags"]}
        onChange={(tags) => set({ tags })}
      />
      <Box as="h3" fontSize="text" mt="1.5">
        {t`What they like`}
      </Box>
      <Box display="grid" gridTemplateColumns="1fr 1fr" gap="2" alignItems="end">
        <ChosenField
          label={t`Practitioner`}
          value={draft.likesPractitionerId ?? nobody}
          error={errors["likesPractitionerId"]}
          options={[
            { value: nobody, label: t`anyone` },
            ...setup.practitioners.map(({ id, name }) => ({ value: id, label: name })),
          ]}
          onChange={(id) => set({ likesPractitionerId: id === nobody ? null : id })}
        />
        <ChosenField
          label={t`Room`}
          value={draft.likesRoomId ?? nobody}
          error={errors["likesRoomId"]}
          options={[
            { value: nobody, label: t`any` },
            ...setup.rooms.map(({ id, name }) => ({ value: id, label: name })),
          ]}
          onChange={(id) => set({ likesRoomId: id === nobody ? null : id })}
        />
        <ChosenField
          label={t`Pressure`}
          value={draft.likesPressure ?? nobody}
          options={[
            { value: nobody, label: t`no matter` },
            ...Object.entries(pressures).map(([value, label]) => ({ value, label })),
          ]}
          onChange={(value) =>
            set({ likesPressure: value === nobody ? null : (value as NonNullable<ClientFile["likesPressure"]>) })
          }
        />
        <CheckField
          label={t`Likes it quiet`}
          checked={draft.likesQuiet ?? false}
          onChange={(likesQuiet) => set({ likesQuiet })}
        />
      </Box>
      <TextField
        label={t`Anything else they like`}
        value={draft.likesWords ?? ""}
        error={errors["likesWords"]}
        onChange={(event) => set({ likesWords: event.target.value })}
      />
    </>
  );
}
