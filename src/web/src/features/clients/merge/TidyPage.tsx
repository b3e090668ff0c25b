import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { asks } from "../../../api/queries";
import { staff, type ClientFile } from "../../../api/staff";
import { andWords, longDate } from "../../../shared/format";
import { Box, Page, Row, Section, Stack, Tabs } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { record } from "../../../theme/recipes/record";
import { clientTabs } from "../clientTabs";
import { likeness } from "../likes";
import { useWriting } from "../record/useWriting";
import { visitAddress } from "../record/years";

const Anchor = chakra(Link, { base: { textDecoration: "underline", fontWeight: "600" } });

const nameOf = (client: ClientFile) => `${client.givenName} ${client.familyName}`;

/** What is likely in the book twice: people, and visits. */
export function TidyPage() {
  const styles = useSlotRecipe({ recipe: record })();
  const alike = useQuery(asks.alike());
  const twice = useQuery(asks.bookedTwice());
  const apart = useWriting(({ id, other }: { id: string; other: string }) =>
    answerOf(staff.POST("/api/v1/clients/{id}/two-people/{other}", { params: { path: { id, other } } })),
  );
  return (
    <Page title={t`Clients`}>
      <Tabs label={t`Clients`} items={clientTabs} />
      <Stack pb="7">
        <Section
          title={t`Likely the same person`}
          hint={t`They share an address, a number or a birthday, and their names are alike. The likeliest come first.`}
        >
          {alike.data?.length === 0 && (
            <Box color="quiet">
              <Trans>Nobody looks entered twice.</Trans>
            </Box>
          )}
          {(alike.error ?? apart.error) && <Box role="alert">{(alike.error ?? apart.error)?.message}</Box>}
          {alike.data?.map(({ kept, gone, reasons, score }) => {
            const names = t`${nameOf(kept)} and ${nameOf(gone)}`;
            return (
              <Row key={`${kept.id} ${gone.id}`} css={styles["entry"]} justifyContent="space-between">
                <Box flex="1" minW="60">
                  <Anchor to={`/clients/${kept.id}/beside/${gone.id}`}>{names}</Anchor>
                  <Box fontSize="small" color="quiet">
                    {andWords(reasons.map((reason) => likeness[reason]))}
                  </Box>
                </Box>
                <Box w="30" fontSize="small" title={t`How likely: ${score} of 100`}>
                  <Box bg="woven" h="2" borderRadius="mark" overflow="hidden" aria-hidden>
                    <Box bg="full" h="100%" style={{ width: `${score}%` }} />
                  </Box>
                  <Trans>{score} of 100</Trans>
                </Box>
                <Press
                  size="small"
                  aria-label={t`${names} are two people`}
                  disabled={apart.isPending}
                  onClick={() => apart.mutate({ id: kept.id!, other: gone.id! })}
                >
                  <Trans>Two people</Trans>
                </Press>
              </Row>
            );
          })}
        </Section>
        <Section
          title={t`Likely booked twice`}
          hint={t`One client at two places at once, or for the same twice within a day.`}
        >
          {twice.data?.length === 0 && (
            <Box color="quiet">
              <Trans>No visit looks booked twice.</Trans>
            </Box>
          )}
          {twice.error && <Box role="alert">{twice.error.message}</Box>}
          {twice.data?.map((pair) => (
            <Box key={pair.visitId + pair.otherId} css={styles["entry"]}>
              <Anchor to={visitAddress(pair.locationId, pair.date, pair.visitId)}>{pair.client.name}</Anchor>{" "}
              {pair.reason === "atOnce"
                ? t`has two visits at once on ${longDate(pair.date)}.`
                : t`has the same service twice within a day, on ${longDate(pair.date)}.`}
            </Box>
          ))}
        </Section>
      </Stack>
    </Page>
  );
}
