import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { visitors, type OwnVisit } from "../../../api/public";
import { visitorsAsk } from "../../../api/visitorQueries";
import { askAnew } from "../../../shared/askAnew";
import { clock, dateIn, longDate, money } from "../../../shared/format";
import { Press } from "../../../shared/Press";
import { answerOf, Problem } from "../../../shared/problem";

const Box = chakra("div");

/** The deposit the business asks for, and the way to the card page. */
export function AskedPart({
  visit,
  asked,
  when,
}: {
  visit: OwnVisit;
  asked: NonNullable<OwnVisit["asked"]>;
  when: string;
}) {
  const queries = useQueryClient();
  const pay = useMutation({
    mutationFn: () =>
      answerOf(visitors.POST("/api/public/v1/mine/visits/{id}/pay", { params: { path: { id: visit.id } } })),
    onSuccess: ({ address }) => window.location.assign(address),
    onError: (error) => {
      if (error instanceof Problem && error.status === 409)
        void askAnew(queries, { queryKey: visitorsAsk.mine().queryKey });
    },
  });
  const sum = money(asked.amount);
  return (
    <Box bg="glow" borderRadius="card" px="3.5" py="2.5">
      <Box mb="2">
        <Trans>
          We ask for a deposit of <b>{sum}</b> until {longDate(dateIn(asked.until, visit.zone))},{" "}
          {clock(asked.until, visit.zone)}. It counts towards the price.
        </Trans>
      </Box>
      {pay.error && (
        <Box role="alert" color="clay" mb="2">
          {pay.error.message}
        </Box>
      )}
      <Press
        look="primary"
        aria-label={t`Pay ${sum} by card: ${when}`}
        disabled={pay.isPending || pay.isSuccess}
        onClick={() => pay.mutate()}
      >
        <Trans>Pay {sum} by card</Trans>
      </Press>
    </Box>
  );
}
