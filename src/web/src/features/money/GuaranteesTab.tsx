import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../api/queries";
import type { Policy } from "../../api/setup";
import { addDays } from "../../shared/format";
import { Box, Columns, Stack } from "../../shared/layout";
import { Problem } from "../../shared/problem";
import { useKept } from "../../shared/kept";
import { useDeskSetup, useToday } from "../../shared/today";
import { PolicyPart, keeperOf } from "./PolicyPart";
import { RulesPart } from "./RulesPart";
import { questionOf, type Sample } from "./sample";
import { TryPart } from "./TryPart";

/** What clients give when they book, and what it costs to stay away. */
export function GuaranteesTab() {
  const setup = useDeskSetup();
  const today = useToday();
  const [sample, setSample] = useState<Sample>({
    locationId: setup.locations[0]?.id ?? "",
    serviceId: setup.services[0]?.id ?? "",
    date: addDays(today, 7),
    time: "14:00:00",
    who: "new",
  });
  const policy = useQuery(asks.policy(sample.locationId));
  if (setup.locations.length === 0 || setup.services.length === 0)
    return (
      <Box color="quiet">
        <Trans>Enter a location and a service first; then you can say here what clients give when they book.</Trans>
      </Box>
    );
  const set = (patch: Partial<Sample>) => setSample((before) => ({ ...before, ...patch }));
  return policy.data && <Tried key={sample.locationId} sample={sample} set={set} policy={policy.data} />;
}

function Tried({ sample, set, policy }: { sample: Sample; set: (patch: Partial<Sample>) => void; policy: Policy }) {
  const { locations } = useDeskSetup();
  const kept = useKept(policy, keeperOf(sample.locationId));
  const asked = asks.guaranteeTried(questionOf(sample, kept.dirty ? kept.draft : undefined));
  const tried = useQuery({ ...asked, placeholderData: keepPreviousData });
  const place = locations.find(({ id }) => id === sample.locationId)?.name ?? "";
  return (
    <Stack pb="7" maxW="280">
      <Box color="quiet">
        <Trans>
          What clients give when they book, and what it costs to stay away. For one visit the nearest place decides:
          service, category, location; of the rules there the one that asks for most.
        </Trans>
      </Box>
      <Columns least={400}>
        <RulesPart decide={tried.data?.ruleIds ?? []} />
        <TryPart sample={sample} set={set} tried={tried.data} />
      </Columns>
      {tried.error instanceof Problem && (
        <Box role="alert" color="clay">
          {Object.values(tried.error.errors)[0] ?? tried.error.message}
        </Box>
      )}
      <PolicyPart place={place} kept={kept} tried={tried.data} />
      <Box fontSize="small" color="quiet">
        {t`Whoever books online is asked what a new client is asked, until they have shown who they are.`}
      </Box>
    </Stack>
  );
}
