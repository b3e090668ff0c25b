import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { visitors, type Own, type OwnVisit } from "../../../api/public";
import { visitorsAsk } from "../../../api/visitorQueries";
import { askAnew } from "../../../shared/askAnew";
import { clock, clockRange, dateIn, longDate, money } from "../../../shared/format";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";

const Stack = chakra("div", { base: { display: "grid", gap: "2.5", justifyItems: "start" } });
const Quiet = chakra("div", { base: { color: "quiet" } });
const Words = chakra("div", { base: { whiteSpace: "pre-line" } });

/** The times the business proposes instead: one is taken, and the others are free again. */
export function ProposedTimes({
  visit,
  when,
  onChosen,
}: {
  visit: OwnVisit;
  when: string;
  onChosen: (after: Own) => void;
}) {
  const queries = useQueryClient();
  const choose = useMutation({
    mutationFn: (time: OwnVisit["times"][number]) =>
      answerOf(
        visitors.POST("/api/public/v1/mine/visits/{id}/choose", {
          params: { path: { id: visit.id } },
          body: { version: visit.version, proposalId: time.id, priceSeen: time.price.amount },
        }),
      ),
    onSuccess: onChosen,
    // What is kept no more is not shown any more either.
    onError: () => askAnew(queries, { queryKey: visitorsAsk.mine().queryKey }),
  });
  return (
    <Stack as="section" aria-label={t`Other times we keep for you instead of ${when}`}>
      <b>
        <Trans>We keep these for you. Choose one:</Trans>
      </b>
      {visit.words && <Words>“{visit.words}”</Words>}
      {visit.times.map((time) => {
        const day = longDate(dateIn(time.start, visit.zone));
        return (
          <div key={time.id}>
            <Press
              look="primary"
              size="big"
              disabled={choose.isPending}
              aria-label={t`Take ${day}, ${clock(time.start, visit.zone)}`}
              onClick={() => choose.mutate(time)}
            >
              <Trans>
                Take {day}, {clock(time.start, visit.zone)}
              </Trans>
            </Press>
            <div>
              {clockRange(time.start, time.end, visit.zone)} · {time.lines.join(", ")} · {money(time.price)}
            </div>
            <Quiet>
              <Trans>
                kept until {longDate(dateIn(time.until, visit.zone))}, {clock(time.until, visit.zone)}
              </Trans>
            </Quiet>
          </div>
        );
      })}
      {choose.error && <span role="alert">{choose.error.message}</span>}
    </Stack>
  );
}
