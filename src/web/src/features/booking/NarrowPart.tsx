import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { components } from "../../api/generated/schema";
import { asks } from "../../api/queries";
import { SelectField } from "../../shared/Field";
import { ChoiceField } from "../../shared/inputs";
import { Box, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { partsOfDay } from "./page/dayParts";

export type Narrow = components["schemas"]["NarrowRequest"];

/** Nothing that narrows the search down. */
export const asWide: Narrow = { part: null, withoutRooms: [] };
export const isNarrow = ({ part, withoutRooms }: Narrow) => part != null || (withoutRooms ?? []).length > 0;

type Props = { locationId: string; narrow: Narrow; onChange: (narrow: Narrow) => void };

/** Narrows down what fits: a part of the day, rooms that are not wanted. */
export function NarrowPart({ locationId, narrow, onChange }: Props) {
  const [isOpen, setOpen] = useState(false);
  const { data } = useQuery(asks.desk());
  const rooms = (data?.rooms ?? []).filter((room) => room.locationId === locationId);
  if (!isOpen && !isNarrow(narrow))
    return (
      <Press size="small" look="quiet" onClick={() => setOpen(true)}>
        <Trans>Narrow it down</Trans>
      </Press>
    );
  return (
    <Stack as="section" gap="2" aria-label={t`Narrow it down`} bg="paper" borderRadius="card" p="2.5" mb="2">
      <SelectField
        label={t`Part of the day`}
        value={narrow.part ?? ""}
        onChange={(event) => onChange({ ...narrow, part: event.target.value || null })}
      >
        <option value="">{t`Any`}</option>
        {partsOfDay.map(([part, name]) => (
          <option key={part} value={part}>
            {name}
          </option>
        ))}
      </SelectField>
      <ChoiceField
        label={t`Without these rooms`}
        options={rooms.map((room) => [room.id, room.name] as const)}
        chosen={narrow.withoutRooms ?? []}
        onChange={(withoutRooms) => onChange({ ...narrow, withoutRooms })}
      />
      <Box>
        <Press
          size="small"
          look="quiet"
          onClick={() => {
            setOpen(false);
            onChange(asWide);
          }}
        >
          <Trans>Look everywhere again</Trans>
        </Press>
      </Box>
    </Stack>
  );
}
