import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { useSearchParams } from "react-router";
import { asks } from "../../../api/queries";
import type { Session } from "../../../api/staff";
import { TextField } from "../../../shared/Field";
import { number } from "../../../shared/format";
import { Box, Empty, Page, Row, Stack, Tabs } from "../../../shared/layout";
import { clientTabs } from "../clientTabs";
import { ColumnsPart } from "./ColumnsPart";
import { ClientTable } from "./ClientTable";
import { addressOf, filterOf } from "./filter";
import { FilterSentence } from "./FilterSentence";

const File = chakra("a", { base: { textDecoration: "underline" } });

/** All clients, by family name, filtered by a sentence. */
export function ClientsPage({ session }: { session: Session }) {
  const [search, setSearch] = useSearchParams();
  const filter = filterOf(search);
  // The list follows the typing; what is asked lags behind it rather than the letters.
  const asked = filterOf(new URLSearchParams(useDeferredValue(search.toString())));
  const first = useQuery(asks.clientList(asked, 0));
  const tags = useQuery(asks.clientTags());
  const total = first.data?.total;
  return (
    <Page
      title={t`Clients`}
      actions={
        session.rights.includes("edit-setup") && (
          <File href={`/api/v1/clients/list.csv?${addressOf(asked).toString()}`} download>
            <Trans>Save as CSV</Trans>
          </File>
        )
      }
    >
      <Tabs label={t`Clients`} items={clientTabs} />
      <Stack>
        <Row alignItems="end">
          <Box w="75" maxW="100%">
            <TextField
              label={t`Name, number or e-mail`}
              type="search"
              value={filter.search ?? ""}
              onChange={(event) => setSearch(addressOf({ ...filter, search: event.target.value }), { replace: true })}
            />
          </Box>
          <Box flex="1" minW="60">
            <FilterSentence filter={filter} tags={tags.data ?? []} onChange={(next) => setSearch(addressOf(next))} />
          </Box>
        </Row>
        <Row justifyContent="space-between">
          <Box aria-live="polite" fontSize="small" color="quiet">
            {total === undefined ? t`Looking …` : plural(total, { one: "# client", other: `${number(total)} clients` })}
          </Box>
          <ColumnsPart />
        </Row>
        {total === 0 ? (
          <Empty>
            <Trans>Nobody is like that. Change an underlined part of the sentence, or the words.</Trans>
          </Empty>
        ) : (
          <ClientTable filter={asked} />
        )}
      </Stack>
    </Page>
  );
}
