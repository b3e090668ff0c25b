import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { Link } from "react-router";
import type { Message } from "../../api/setup";
import { staff } from "../../api/staff";
import { Outcome, useChange } from "../../shared/change";
import { moment } from "../../shared/format";
import { Box, Row, Span } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { answerOf } from "../../shared/problem";
import { becauseWords, states, triggers } from "./messageWords";

const Anchor = chakra(Link, { base: { textDecoration: "underline" } });

/** A message: to whom, what became of it, and what it says once it is opened. */
export function MessageItem({ message, zone, hasVisit }: { message: Message; zone: string; hasVisit: boolean }) {
  const again = useChange((_: void, headers) =>
    answerOf(staff.POST("/api/v1/messages/{id}/again", { params: { path: { id: message.id } }, headers })),
  );
  const isGone = message.state === "sent";
  const why = becauseWords(message);
  const at = moment(message.settledAt ?? message.dueAt, zone);
  return (
    <Box as="li" py="2" borderBottomWidth="line" borderColor="line">
      <details>
        <Box as="summary" cursor="pointer">
          <Span fontWeight="700">{message.subject || t`Text: ${triggers()[message.trigger]}`}</Span>{" "}
          <Span color="quiet">
            <Trans>
              to {message.name} · {at}
            </Trans>
          </Span>{" "}
          <Span fontWeight={isGone ? "400" : "600"} color={message.state === "failed" ? "clay" : "ink"}>
            · {states()[message.state]}
            {why && ` (${why})`}
            {message.tries > 1 && ` · ${t`tried ${message.tries} times`}`}
          </Span>
        </Box>
        <Box
          mt="2"
          py="2"
          px="3"
          bg="paper"
          borderRadius="card"
          whiteSpace="pre-wrap"
          overflowWrap="anywhere"
          maxW="180"
        >
          {message.body}
        </Box>
        <Row mt="1" fontSize="small" color="quiet">
          {message.address && <Span>{message.address}</Span>}
          {message.hasCalendar && (
            <Span>
              <Trans>with an entry for a calendar</Trans>
            </Span>
          )}
          {hasVisit && message.date && (
            <Anchor to={`/day/${message.locationId}/${message.date}?visit=${message.visitId}`}>
              <Trans>The visit</Trans>
            </Anchor>
          )}
        </Row>
      </details>
      {message.state === "failed" && (
        <Row mt="1">
          <Press size="small" disabled={again.pending} onClick={() => again.run()}>
            <Trans>Try once more</Trans>
          </Press>
          <Outcome change={again} saved={t`It is tried once more.`} />
        </Row>
      )}
    </Box>
  );
}
