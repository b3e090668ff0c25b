import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { type Location } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { NumberField } from "../../shared/inputs";
import { Box, Row, Section } from "../../shared/layout";
import { Press } from "../../shared/Press";

/** Minutes from a location to the others. */
export function Travel({ location, others }: { location: Location; others: Location[] }) {
  const stored = others.map((other) => ({
    locationId: other.id!,
    minutes: location.travel?.find((item) => item.locationId === other.id)?.minutes ?? 0,
  }));
  const [draft, setDraft] = useState(stored);
  const save = useChange((wanted: typeof stored, headers) =>
    answerOf(
      staff.PUT("/api/v1/setup/locations/{id}/travel", {
        params: { path: { id: location.id! } },
        headers,
        body: wanted,
      }),
    ),
  );
  return (
    <Section
      title={t`On the way`}
      hint={t`Minutes between locations. Who works at both on one day is kept free for them.`}
    >
      <Row alignItems="end">
        {draft.map((item, i) => (
          <Box key={item.locationId} w="55">
            <NumberField
              label={t`to ${others.find((other) => other.id === item.locationId)?.name ?? ""} (min)`}
              step={5}
              value={item.minutes}
              error={save.errors[`[${i}].minutes`]}
              onChange={(minutes) =>
                setDraft(draft.map((other, j) => (j === i ? { ...other, minutes: minutes ?? 0 } : other)))
              }
            />
          </Box>
        ))}
        <Press disabled={save.pending} onClick={() => save.run(draft)}>
          <Trans>Save the way</Trans>
        </Press>
      </Row>
      <Outcome change={save} fields={draft.map((_, i) => `[${i}].minutes`)} />
    </Section>
  );
}
