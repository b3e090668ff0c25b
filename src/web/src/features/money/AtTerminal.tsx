import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { staff } from "../../api/staff";
import { money } from "../../shared/format";
import { Box } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { answerOf } from "../../shared/problem";
import { say } from "../../shared/toasts";
import { useMoney, useMoneyAgain, type Deposit } from "./useMoney";

const askedAgain = 1_000;

/** A deposit the card terminal asks for, until it is paid or stopped. */
export function AtTerminal({ visitId, deposit }: { visitId: string; deposit: Deposit }) {
  const again = useMoneyAgain(visitId);
  const [left, setLeft] = useState<Deposit | null>(null);
  const params = { path: { id: visitId, depositId: deposit.id } };
  const stands = useQuery({
    queryKey: ["deposit", deposit.id],
    queryFn: () => answerOf(staff.POST("/api/v1/visits/{id}/deposits/{depositId}/finish", { params })),
    refetchInterval: askedAgain,
    staleTime: 0,
  });
  const stop = useMoney(
    visitId,
    () => answerOf(staff.POST("/api/v1/visits/{id}/deposits/{depositId}/leave", { params })),
    setLeft,
  );
  const now = left ?? stands.data ?? deposit;
  const isOver = now.state === "taken" || now.state === "ended";
  const words = now.state === "taken" ? t`${money(now.amount)} paid at the card terminal.` : (now.because ?? "");
  useEffect(() => {
    if (!isOver) return;
    say(words);
    again();
  }, [isOver, words, again]);
  if (isOver) return null;
  return (
    <Box bg="glow" borderRadius="card" px="3" py="2" mt="1">
      <Box role="status">
        {now.state === "settling" ? (
          <Trans>The bank is asked for {money(now.amount)} …</Trans>
        ) : (
          <Trans>The card terminal asks for {money(now.amount)}.</Trans>
        )}
      </Box>
      {(stop.error ?? stands.error) && (
        <Box role="alert" color="clay">
          {(stop.error ?? stands.error)?.message}
        </Box>
      )}
      <Press size="small" disabled={stop.isPending} onClick={() => stop.mutate(undefined)}>
        <Trans>Stop the terminal</Trans>
      </Press>
    </Box>
  );
}
