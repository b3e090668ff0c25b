import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useInfiniteQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { asks } from "../../api/queries";
import type { Session } from "../../api/staff";
import { SelectField } from "../../shared/Field";
import { Box, Page, Panel, Row, Tabs } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { useDeskSetup } from "../../shared/today";
import { MessageItem } from "./MessageList";
import { messageTabs } from "./messageTabs";

/** What was sent, what waits, and what did not get through. */
export function MessagesPage({ session }: { session: Session }) {
  const [search, setSearch] = useSearchParams();
  const only = search.get("only") ?? "";
  const messages = useInfiniteQuery(asks.messages(only));
  const zone = useDeskSetup().locations[0]?.zone ?? "UTC";
  const first = messages.data?.pages[0];
  const all = messages.data?.pages.flatMap((page) => page.messages) ?? [];
  return (
    <Page title={t`Messages`}>
      <Tabs label={t`Messages`} items={messageTabs(session.rights.includes("edit-setup"))} />
      <Box maxW="230" pb="7">
        <Row mb="3" alignItems="end" justifyContent="space-between">
          <Box w="60">
            <SelectField
              label={t`Which`}
              value={only}
              onChange={(e) => setSearch(e.target.value ? { only: e.target.value } : {}, { replace: true })}
            >
              <option value="">{t`Sent and waiting`}</option>
              <option value="waiting">{t`Waiting`}</option>
              <option value="sent">{t`Sent`}</option>
              <option value="failed">{t`Did not get through`}</option>
              <option value="left-out">{t`Not sent, and why`}</option>
            </SelectField>
          </Box>
          {first && (
            <Box role="status" color="quiet">
              <Trans>
                {first.waiting} waiting ·{" "}
                {plural(first.failed, { one: "# did not get through", other: "# did not get through" })}
              </Trans>
            </Box>
          )}
        </Row>
        {first && first.carried.length < 2 && <NotCarried carried={first.carried} />}
        <Panel>
          {first && all.length === 0 && (
            <Box color="quiet">
              <Trans>Nothing here. What is said to clients, and when, stands under the other heading above.</Trans>
            </Box>
          )}
          <Box as="ul" listStyleType="none" aria-label={t`Messages`}>
            {all.map((message) => (
              <MessageItem key={message.id} message={message} zone={zone} hasVisit />
            ))}
          </Box>
          {messages.hasNextPage && (
            <Row mt="3">
              <Press disabled={messages.isFetchingNextPage} onClick={() => void messages.fetchNextPage()}>
                <Trans>Show older ones</Trans>
              </Press>
            </Row>
          )}
        </Panel>
      </Box>
    </Page>
  );
}

/** Says what waits because nobody has said where it is carried. */
const NotCarried = ({ carried }: { carried: readonly string[] }) => (
  <Box role="alert" mb="3" fontWeight="600">
    {carried.includes("email") ? (
      <Trans>No service for text messages is set up: texts wait until one is.</Trans>
    ) : carried.includes("text") ? (
      <Trans>No mail server is set up: e-mails wait until one is.</Trans>
    ) : (
      <Trans>Neither a mail server nor a service for text messages is set up: all messages wait until one is.</Trans>
    )}
  </Box>
);
