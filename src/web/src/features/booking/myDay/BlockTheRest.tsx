import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { staff, type Lane } from "../../../api/staff";
import { Outcome, useChange } from "../../../shared/change";
import { clock, dateIn, wallTime } from "../../../shared/format";
import { Row } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";

const grain = 5 * 60_000;
type Props = { lane: Lane; zone: string; now: string };

/** Takes what is left of the day out of online booking and of everybody's hands; who comes then is seen first. */
export function BlockTheRest({ lane, zone, now }: Props) {
  const block = useChange(({ from, until }: { from: string; until: string }, headers) =>
    answerOf(
      staff.POST("/api/v1/setup/blocks", {
        headers,
        body: {
          id: null,
          version: 0,
          locationId: null,
          resourceId: lane.id,
          kind: "block",
          reason: t`Rest of the day`,
          start: `${dateIn(from, zone)}T${wallTime(from, zone)}:00`,
          end: `${dateIn(until, zone)}T${wallTime(until, zone)}:00`,
        },
      }),
    ),
  );
  const last = lane.open.at(-1)?.until;
  const from = new Date(Math.ceil(Date.parse(now) / grain) * grain).toISOString();
  const isBlocked = lane.blocked.some((other) => other.from <= from && last !== undefined && other.until >= last);
  if (!last || from >= last || isBlocked) return null;
  return (
    <Row my="2">
      <Press size="small" disabled={block.pending} onClick={() => block.run({ from, until: last })}>
        <Trans>Block the rest of today, until {clock(last, zone)}</Trans>
      </Press>
      <Outcome change={block} saved={t`Nobody is booked into it any more.`} />
    </Row>
  );
}
