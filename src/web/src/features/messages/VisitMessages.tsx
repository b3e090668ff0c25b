import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { asks } from "../../api/queries";
import { moment } from "../../shared/format";
import { Box } from "../../shared/layout";
import { MessageItem } from "./MessageList";
import { howWords, offsetWords } from "./messageWords";

/** What whoever comes has been told of a visit, and what is still to come. */
export function VisitMessages({ visitId, version, zone }: { visitId: string; version: number | string; zone: string }) {
  const { data } = useQuery(asks.visitMessages(visitId, version));
  if (!data || (data.messages.length === 0 && data.ahead.length === 0)) return null;
  return (
    <Box as="section" aria-label={t`Messages`} mt="3">
      <Box as="h3" fontSize="text" fontWeight="700">
        <Trans>Messages</Trans>
      </Box>
      {data.ahead.map((ahead) => {
        const how = howWords(ahead);
        const at = moment(ahead.at, zone);
        const offset = offsetWords(Number(ahead.offsetMinutes));
        return (
          <Box key={ahead.ruleId} fontSize="small" color="quiet">
            {ahead.isLeftOut ? (
              <Trans>
                No {how} {offset} before: that had passed when it was booked.
              </Trans>
            ) : (
              <Trans>
                {at}: {how}, {offset} before
              </Trans>
            )}
          </Box>
        );
      })}
      <Box as="ul" listStyleType="none" fontSize="small">
        {data.messages.map((message) => (
          <MessageItem key={message.id} message={message} zone={zone} hasVisit={false} />
        ))}
      </Box>
    </Box>
  );
}
