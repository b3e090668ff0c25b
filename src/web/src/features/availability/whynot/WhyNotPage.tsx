import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Box, Empty, Page, Panel } from "../../../shared/layout";
import { DayCounts } from "./DayCounts";
import { DayRibbons } from "./DayRibbons";
import { useQuestion, useReasons } from "./question";
import { ReasonList } from "./ReasonList";
import { WhyNotSentence } from "./WhyNotSentence";

/** For services, somebody or anyone, a place and a day: what limits it, and for each start every reason. */
export function WhyNotPage({ mayEdit }: { mayEdit: boolean }) {
  const question = useQuestion();
  const { service, location, date, at, change } = question;
  const { day, run } = useReasons(question);
  if (!location || !service)
    return (
      <Page title={t`Why not?`}>
        <Empty>
          <Trans>There is nothing to ask about yet: no location, or no service.</Trans>
        </Empty>
      </Page>
    );
  const item = day.data?.[0];
  const strip = item?.strip ?? [];
  const start = strip.find((other) => other.clock === at) ?? strip.find((other) => !other.offered) ?? strip[0];
  const step = (by: 1 | -1) => {
    const next = strip[strip.findIndex((other) => other === start) + by];
    if (next) change({ at: next.clock });
  };
  return (
    <Page title={t`Why not?`}>
      <WhyNotSentence question={question} />
      {run.data && <DayCounts days={run.data} date={date} onDay={(chosen) => change({ date: chosen })} />}
      {day.error && (
        <Panel role="alert" color="clay" mb="3.5">
          {day.error.message}
        </Panel>
      )}
      {day.isPending && (
        <Box aria-busy="true">
          <Trans>Working the day out …</Trans>
        </Box>
      )}
      {item && strip.length === 0 && (
        <Empty>
          <Trans>There are no start times on this day at all.</Trans>
        </Empty>
      )}
      {item && start && (
        <Box pb="7">
          <DayRibbons day={item} start={start} onStart={(clock) => change({ at: clock })} />
          <ReasonList start={start} mayEdit={mayEdit} bookPath={`/day/${location.id}/${date}`} onStep={step} />
        </Box>
      )}
    </Page>
  );
}
