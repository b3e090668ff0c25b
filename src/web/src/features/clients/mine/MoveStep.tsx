import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { visitors, type Own, type OwnVisit } from "../../../api/public";
import { visitorsAsk } from "../../../api/visitorQueries";
import { askAnew } from "../../../shared/askAnew";
import { clock, dateIn, longDate, money } from "../../../shared/format";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { visit as recipe } from "../../../theme/recipes/visit";
import { DayRow } from "../../booking/page/DayRow";
import { leftWords } from "../../booking/page/dayParts";
import { StepTitle } from "../../booking/page/StepTitle";
import { CostPart } from "./CostPart";

const Box = chakra("div", { base: { display: "grid", gap: "3" } });
const Heading = chakra("h2");
const Row = chakra("div", { base: { display: "flex", flexWrap: "wrap", gap: "2" } });

/** Moves a booking: the same free times as when it was booked, and what it costs before it is done. */
export function MoveStep({ visit, onDone }: { visit: OwnVisit; onDone: (after: Own) => void }) {
  const styles = useSlotRecipe({ recipe })();
  const [day, setDay] = useState<string | null>(null);
  const [start, setStart] = useState<string | null>(null);
  const found = useInfiniteQuery(visitorsAsk.moveStarts(visit.id));
  const days = (found.data?.pages ?? []).flatMap((page) => page.days).filter((item) => item.starts.length > 0);
  const open = day ?? days[0]?.date;
  if (start) return <Sure visit={visit} start={start} onBack={() => setStart(null)} onDone={onDone} />;
  return (
    <Box>
      <StepTitle as="h1">
        <Trans>Move to when?</Trans>
      </StepTitle>
      <div>
        <Trans>
          Now on {longDate(dateIn(visit.start, visit.zone))}, {clock(visit.start, visit.zone)}. {visit.lines.join(", ")}
        </Trans>
      </div>
      {found.isPending && (
        <div role="status">
          <Trans>Looking for free times …</Trans>
        </div>
      )}
      {found.error && <div role="alert">{found.error.message}</div>}
      {found.data && days.length === 0 && (
        <div>
          <Trans>Nothing is free in these days.</Trans>
        </div>
      )}
      <Heading srOnly>
        <Trans>Free times</Trans>
      </Heading>
      <div>
        {days.map((item) => (
          <DayRow
            key={item.date}
            day={item}
            words={leftWords(item, false)}
            isOpen={item.date === open}
            onOpen={(on) => setDay(on ? item.date : "")}
            onChoose={setStart}
            whyNot={null}
          />
        ))}
      </div>
      <Row css={styles["foot"]}>
        {found.hasNextPage && (
          <Press size="big" disabled={found.isFetchingNextPage} onClick={() => void found.fetchNextPage()}>
            <Trans>Later days</Trans>
          </Press>
        )}
        <Press size="big" look="quiet" onClick={() => window.history.back()}>
          <Trans>Leave it where it is</Trans>
        </Press>
      </Row>
    </Box>
  );
}

type SureProps = { visit: OwnVisit; start: string; onBack: () => void; onDone: (after: Own) => void };

function Sure({ visit, start, onBack, onDone }: SureProps) {
  const queries = useQueryClient();
  const tried = useQuery(visitorsAsk.moveTried(visit.id, start));
  const there = tried.data;
  const move = useMutation({
    mutationFn: () =>
      answerOf(
        visitors.POST("/api/public/v1/mine/visits/{id}/move", {
          params: { path: { id: visit.id } },
          body: {
            start,
            version: visit.version,
            feeSeen: there?.fee.fee.amount ?? 0,
            priceSeen: there?.price.amount ?? 0,
          },
        }),
      ),
    onSuccess: onDone,
    // The time may be gone, or what it costs may have changed: all of it is read anew.
    onError: () => askAnew(queries, { queryKey: ["mine"] }),
  });
  const problem = move.error ?? tried.error;
  return (
    <Box justifyItems="start">
      <StepTitle as="h1">
        <Trans>Move it?</Trans>
      </StepTitle>
      <span>
        <Trans>
          From {longDate(dateIn(visit.start, visit.zone))}, {clock(visit.start, visit.zone)}
        </Trans>
      </span>
      <b>
        <Trans>
          to {longDate(dateIn(start, visit.zone))}, {clock(start, visit.zone)}
        </Trans>
      </b>
      {there?.lines.map((line) => (
        <span key={line}>{line}</span>
      ))}
      {there?.isOtherPrice && (
        <span>
          <Trans>
            It costs <b>{money(there.price)}</b> then, instead of {money(visit.price)}.
          </Trans>
        </span>
      )}
      {there && <CostPart fee={there.fee} free={t`Moving it costs nothing`} />}
      {problem && <span role="alert">{problem.message}</span>}
      <Row>
        <Press look="primary" size="big" disabled={move.isPending || !there} onClick={() => move.mutate()}>
          <Trans>Move the booking</Trans>
        </Press>
        <Press size="big" onClick={onBack}>
          <Trans>Choose another time</Trans>
        </Press>
      </Row>
    </Box>
  );
}
