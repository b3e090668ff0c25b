import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Fee } from "../../api/setup";
import { staff } from "../../api/staff";
import { Dialog } from "../../shared/Dialog";
import { Box, Row } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { answerOf } from "../../shared/problem";
import { say } from "../../shared/toasts";
import { backWords } from "./feeWords";
import { useMoney, type Money } from "./useMoney";

/** Gives a deposit back while its visit stands, once it was read how that goes. */
export function GiveBack({ visitId, deposit, back }: { visitId: string; deposit: Money; back: Fee }) {
  const [isAsking, setAsking] = useState(false);
  const give = useMoney(
    visitId,
    () =>
      answerOf(
        staff.POST("/api/v1/visits/{id}/deposit/return", {
          params: { path: { id: visitId } },
          body: { seen: Number(deposit.amount) },
        }),
      ),
    () => {
      setAsking(false);
      say(t`The deposit goes back the way it came.`);
    },
  );
  return (
    <>
      <Press size="small" look="quiet" onClick={() => setAsking(true)}>
        <Trans>Give the deposit back</Trans>
      </Press>
      {isAsking && (
        <Dialog
          name={t`Give the deposit back`}
          title={t`Give the deposit back?`}
          maxW="115"
          onClose={() => setAsking(false)}
        >
          <Box mb="3">
            <Trans>The visit stays as it is: {backWords(back)}.</Trans>
          </Box>
          {give.error && (
            <Box role="alert" color="clay" mb="3">
              {give.error.message}
            </Box>
          )}
          <Row>
            <Press look="danger" disabled={give.isPending} onClick={() => give.mutate(undefined)}>
              <Trans>Give it back</Trans>
            </Press>
            <Press autoFocus onClick={() => setAsking(false)}>
              <Trans>Keep it</Trans>
            </Press>
          </Row>
        </Dialog>
      )}
    </>
  );
}
