import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { asks } from "../../api/queries";
import { refreshBook } from "../../api/refresh";
import { staff, type Visit } from "../../api/staff";
import { askAnew } from "../../shared/askAnew";
import { clock, clockRange, dateIn, money, shortDate } from "../../shared/format";
import { Box, Row, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { answerOf } from "../../shared/problem";
import { say } from "../../shared/toasts";

/** What is to be known of something that was asked for, and what speaks against it; what was proposed instead. */
export function RequestPart({ visit, zone }: { visit: Visit; zone: string }) {
  const request = useQuery(asks.visitRequest(visit.id, visit.version));
  const queries = useQueryClient();
  const choose = useMutation({
    mutationFn: (proposalId: string) =>
      answerOf(
        staff.POST("/api/v1/visits/{id}/choose", {
          params: { path: { id: visit.id }, header: { "If-Match": String(visit.version) } },
          body: { proposalId },
        }),
      ),
    onSuccess: (next) => {
      refreshBook(queries);
      queries.setQueryData(asks.visit(visit.id).queryKey, next);
      say(t`It is booked at the time that was chosen.`);
    },
    onError: () => askAnew(queries, { queryKey: asks.visit(visit.id).queryKey }),
  });
  const known = request.data;
  if (!known) return <Box minH="18">{request.error?.message}</Box>;
  const until = `${shortDate(dateIn(known.lapsesAt, zone))}, ${clock(known.lapsesAt, zone)}`;
  return (
    <Stack
      as="section"
      aria-label={t`Request`}
      gap="1.5"
      borderLeftWidth="mark"
      borderColor="kingcup"
      pl="2.5"
      mt="2.5"
      fontSize="small"
    >
      <Box fontWeight="700">
        {visit.state === "answered" ? t`The client chooses until ${until}.` : t`To be answered until ${until}.`}
      </Box>
      <Box>{known.known.join(" ")}</Box>
      {known.against.map((text) => (
        <Box key={text} color="clay" fontWeight="600">
          ! {text}
        </Box>
      ))}
      {visit.state === "requested" && known.against.length === 0 && (
        <Box>
          <Trans>Nothing speaks against it.</Trans>
        </Box>
      )}
      {known.times.map((time) => {
        const when = `${shortDate(dateIn(time.start, zone))}, ${clockRange(time.start, time.end, zone)}`;
        return (
          <Row key={time.id} gap="2" justifyContent="space-between" flexWrap="nowrap">
            <Box>
              <b>{when}</b>
              <br />
              {time.lines.join(", ")} · {money(time.price)}
            </Box>
            <Press
              size="small"
              aria-label={t`Take it for them: ${when}`}
              disabled={choose.isPending}
              onClick={() => choose.mutate(time.id)}
            >
              <Trans>Take it for them</Trans>
            </Press>
          </Row>
        );
      })}
      {known.words && <Box whiteSpace="pre-line">“{known.words}”</Box>}
      {choose.error && (
        <Box role="alert" color="clay">
          {choose.error.message}
        </Box>
      )}
    </Stack>
  );
}
