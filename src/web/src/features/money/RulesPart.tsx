import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { keepers } from "../../api/keepers";
import { asks } from "../../api/queries";
import type { Guarantee } from "../../api/setup";
import { Outcome, useChange } from "../../shared/change";
import { Box, Panel, Row } from "../../shared/layout";
import { Press } from "../../shared/Press";
import type { Option } from "../../shared/sentence/Choices";
import { useDeskSetup } from "../../shared/today";
import { RuleRow } from "./RuleRow";

/** All places a rule can be set at, the widest first. */
function usePlaceOptions(): Option[] {
  const { locations } = useDeskSetup();
  const categories = useQuery(asks.categories());
  const services = useQuery(asks.services());
  return [
    ...locations.map(({ id, name }) => ({ value: `location:${id}`, label: t`At ${name}` })),
    ...(categories.data ?? []).map(({ id, name }) => ({ value: `category:${id}`, label: t`For ${name ?? ""}` })),
    ...(services.data ?? [])
      .filter((service) => !service.isArchived)
      .map(({ id, name }) => ({ value: `service:${id}`, label: t`For ${name ?? ""}` })),
  ];
}

/** The rules of what clients give when they book, one sentence each. */
export function RulesPart({ decide }: { decide: (string | null)[] }) {
  const rules = useQuery(asks.guarantees());
  const places = usePlaceOptions();
  const { locations } = useDeskSetup();
  const add = useChange((rule: Guarantee, headers) => keepers.guarantee.add(rule, headers));
  const location = locations[0];
  return (
    <Panel>
      <Box as="h2" fontSize="title" mb="1">
        <Trans>What clients give when they book</Trans>
      </Box>
      {rules.data?.length === 0 && (
        <Box color="quiet" py="2">
          <Trans>No rule yet: everybody books without giving anything.</Trans>
        </Box>
      )}
      <Box as="ul" listStyleType="none">
        {rules.data?.map((rule) => (
          <RuleRow key={rule.id} rule={rule} places={places} decides={decide.includes(rule.id)} />
        ))}
      </Box>
      <Row mt="3">
        <Press
          disabled={add.pending || !location}
          onClick={() =>
            add.run({
              id: null,
              place: "location",
              placeId: location!.id,
              onlyNew: false,
              months: 12,
              demand: "nothing",
              value: 0,
              version: 0,
            })
          }
        >
          <Trans>Add a rule</Trans>
        </Press>
        <Outcome change={add} saved={t`Added. Press its words to say what it asks.`} />
      </Row>
    </Panel>
  );
}
