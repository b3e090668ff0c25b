import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { visitors, type Booked } from "../../../api/public";
import { Press } from "../../../shared/Press";
import { answerOf, Problem } from "../../../shared/problem";
import { LastCard } from "./LastCard";
import { goToCard } from "./usePaying";

const Box = chakra("div");
const askedAgain = 2_000;

type Props = { token: string; onBooked: (visit: Booked) => void; onOver: () => void };

/** What has become of a payment, once somebody is back from the card page. */
export function Paying({ token, onBooked, onOver }: Props) {
  const paid = useQuery({
    queryKey: ["paid", token],
    queryFn: () => answerOf(visitors.POST("/api/public/v1/payments/finish", { body: { token } })),
    refetchInterval: (query) => (query.state.data?.state === "settling" ? askedAgain : false),
    staleTime: 0,
  });
  const leave = useMutation({
    mutationFn: () => answerOf(visitors.POST("/api/public/v1/payments/leave", { body: { token } })),
    onSuccess: (answer) => (answer.visit ? onBooked(answer.visit) : onOver()),
  });
  const goOn = useMutation({ mutationFn: () => goToCard(token) });
  const visit = paid.data?.visit;
  useEffect(() => {
    if (visit) onBooked(visit);
  }, [visit, onBooked]);
  const state = paid.data?.state;
  const isUnknown = paid.error instanceof Problem && paid.error.status === 404;
  const problem = goOn.error ?? leave.error ?? (isUnknown ? null : paid.error);
  return (
    <LastCard says={state ?? ""}>
      <Box as="h1" fontSize="page">
        {state === "waiting"
          ? t`Not paid yet`
          : state === "ended" || isUnknown
            ? t`Nothing was booked`
            : state === "settling"
              ? t`One moment, your bank is asked …`
              : t`One moment …`}
      </Box>
      {state === "settling" && (
        <Box role="status">
          <Trans>
            Your time is kept until your bank has answered. Stay on this page, or come back to it; nothing is taken
            twice.
          </Trans>
        </Box>
      )}
      {state === "waiting" && (
        <>
          <Box role="status">
            <Trans>Your time is kept for you for a few minutes while you enter your card.</Trans>
          </Box>
          <Box display="flex" flexWrap="wrap" gap="2">
            <Press look="primary" size="big" disabled={goOn.isPending} onClick={() => goOn.mutate()}>
              <Trans>Go on to the card</Trans>
            </Press>
            <Press size="big" disabled={leave.isPending} onClick={() => leave.mutate()}>
              <Trans>Leave it</Trans>
            </Press>
          </Box>
        </>
      )}
      {(state === "ended" || isUnknown) && (
        <>
          <Box role="alert">{paid.data?.because ?? t`There is no such payment any more.`}</Box>
          <Press look="primary" size="big" onClick={onOver}>
            <Trans>Back to your booking</Trans>
          </Press>
        </>
      )}
      {problem && (
        <Box role="alert" color="clay">
          {problem.message}{" "}
          <Press onClick={() => void paid.refetch()}>
            <Trans>Try again</Trans>
          </Press>
        </Box>
      )}
    </LastCard>
  );
}
