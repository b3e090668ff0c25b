import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { visitors, type Own, type OwnVisit } from "../../../api/public";
import { visitorsAsk } from "../../../api/visitorQueries";
import { askAnew } from "../../../shared/askAnew";
import { clock, dateIn, longDate } from "../../../shared/format";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { StepTitle } from "../../booking/page/StepTitle";
import { CostPart } from "./CostPart";

const Box = chakra("div", { base: { display: "grid", gap: "3", justifyItems: "start" } });
const Row = chakra("div", { base: { display: "flex", flexWrap: "wrap", gap: "2" } });

/** Cancels a booking, once it was read what that costs. */
export function CancelStep({ visit, onDone }: { visit: OwnVisit; onDone: (after: Own) => void }) {
  const queries = useQueryClient();
  const isAnswered = visit.state === "answered";
  const cancel = useMutation({
    mutationFn: () =>
      answerOf(
        visitors.POST("/api/public/v1/mine/visits/{id}/cancel", {
          params: { path: { id: visit.id } },
          body: { version: visit.version, feeSeen: visit.cancelling?.fee.amount ?? 0 },
        }),
      ),
    onSuccess: onDone,
    // What it costs may have changed: it is read anew.
    onError: () => askAnew(queries, { queryKey: visitorsAsk.mine().queryKey }),
  });
  return (
    <Box>
      <StepTitle as="h1">{isAnswered ? t`None of these times?` : t`Cancel this booking?`}</StepTitle>
      <b>
        {longDate(dateIn(visit.start, visit.zone))}, {clock(visit.start, visit.zone)}
      </b>
      <span>{visit.lines.join(", ")}</span>
      {visit.cancelling ? (
        <CostPart fee={visit.cancelling} free={t`It costs nothing`} />
      ) : (
        <span role="alert">
          <Trans>It cannot be cancelled online any more. Please call us.</Trans>
        </span>
      )}
      {cancel.error && <span role="alert">{cancel.error.message}</span>}
      <Row>
        {visit.cancelling && (
          <Press look="primary" size="big" disabled={cancel.isPending} onClick={() => cancel.mutate()}>
            {isAnswered ? t`None of these: drop the request` : t`Cancel the booking`}
          </Press>
        )}
        <Press size="big" onClick={() => window.history.back()}>
          {isAnswered ? t`Look at them again` : t`Keep it`}
        </Press>
      </Row>
    </Box>
  );
}
