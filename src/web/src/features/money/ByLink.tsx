import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { staff } from "../../api/staff";
import { clock, dateIn, money, shortDate } from "../../shared/format";
import { Box } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { answerOf } from "../../shared/problem";
import { say } from "../../shared/toasts";
import { useMoney, type Deposit } from "./useMoney";

/** A deposit the client is asked for by a link, until it is paid, lapses or is taken back. */
export function ByLink({ visitId, deposit, zone }: { visitId: string; deposit: Deposit; zone: string }) {
  const params = { path: { id: visitId, depositId: deposit.id } };
  const takeBack = useMoney(
    visitId,
    () => answerOf(staff.POST("/api/v1/visits/{id}/deposits/{depositId}/leave", { params })),
    (left: Deposit) =>
      say(left.state === "taken" ? t`It was paid just now: ${money(left.amount)}.` : (left.because ?? "")),
  );
  return (
    <Box bg="glow" borderRadius="card" px="3" py="2" mt="1">
      <Box>
        <Trans>
          The client is asked for {money(deposit.amount)} by a link, good until {shortDate(dateIn(deposit.until, zone))}
          , {clock(deposit.until, zone)}.
        </Trans>
      </Box>
      {takeBack.error && (
        <Box role="alert" color="clay">
          {takeBack.error.message}
        </Box>
      )}
      <Press size="small" disabled={takeBack.isPending} onClick={() => takeBack.mutate(undefined)}>
        <Trans>Take the link back</Trans>
      </Press>
    </Box>
  );
}
