import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { asks } from "../../../api/queries";
import { ifMatch, type WorkDay } from "../../../api/setup";
import { staff, type Lane } from "../../../api/staff";
import { Outcome, useChange } from "../../../shared/change";
import { longDate } from "../../../shared/format";
import { Box, Row, Stack } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { ScaleContext } from "../../../shared/ribbon/scale";
import { scaleOf } from "../../../shared/ribbon/stretch";
import { stretchOf } from "../../../shared/week/stretchOf";
import { BlockList } from "../../calendar/BlockList";
import { DayEditor, type Pulled } from "../../calendar/DayEditor";
import { Sheet } from "../Sheet";

const Anchor = chakra(Link, { base: { textDecoration: "underline" } });

type Props = {
  lane: Lane;
  locationId: string;
  date: string;
  /** A stretch that was drawn in the lane, as wall times. */
  drawn: { from: string; until: string } | null;
  /** An edge of a shift that was pulled in the lane. */
  pulled: Pulled | null;
  onCover: () => void;
  onClose: () => void;
};

/** What holds in one lane on this day: hours, blocked time; and taking the whole day away. */
export function LaneSheet({ lane, locationId, date, drawn, pulled, onCover, onClose }: Props) {
  const isPerson = lane.kind === "practitioner";
  const days = useQuery({ ...asks.calendar(lane.id, date, 1), enabled: isPerson });
  const day = days.data?.[0];
  return (
    <Sheet title={lane.name} onClose={onClose}>
      <Stack gap="3">
        <Row justifyContent="space-between">
          <Box fontWeight="600">{longDate(date)}</Box>
          <Anchor to={`/week/${locationId}/${date}?of=${lane.id}`}>
            <Trans>The week</Trans>
          </Anchor>
        </Row>
        {isPerson && day && (
          <ScaleContext.Provider value={scaleOf(day.shifts.map(stretchOf))}>
            {!drawn && !pulled && <Away key={`away ${String(day.version)}`} lane={lane} day={day} onCover={onCover} />}
            {!drawn && <DayEditor key={`day ${String(day.version)}`} practitioner={lane} day={day} pulled={pulled} />}
          </ScaleContext.Provider>
        )}
        {isPerson && days.error && <Box role="alert">{days.error.message}</Box>}
        <BlockList
          key={drawn ? `${drawn.from} ${drawn.until}` : "blocks"}
          resourceId={lane.id}
          name={lane.name}
          isPerson={isPerson}
          date={date}
          onDate={[...lane.blocked, ...lane.stoppedOnline].flatMap((block) => block.blockId ?? [])}
          worked={day?.shifts[0] && { from: day.shifts[0].from, until: day.shifts.at(-1)!.until }}
          drawn={drawn}
        />
      </Stack>
    </Sheet>
  );
}

/** Takes the day away at one press; who has lost their place is seen before, and placed after. */
function Away({ lane, day, onCover }: { lane: Lane; day: WorkDay; onCover: () => void }) {
  const away = useChange(
    (_: null, headers) =>
      answerOf(
        staff.PUT("/api/v1/setup/practitioners/{id}/shift-changes/{date}", {
          params: { path: { id: lane.id, date: day.date } },
          headers: { ...headers, ...ifMatch(day.version) },
          body: {
            date: day.date,
            version: Number(day.version),
            shifts: [],
            worksDuringClosure: false,
            reason: t`Away`,
          },
        }),
      ),
    onCover,
  );
  if (day.shifts.length === 0)
    return (
      <Row>
        <Box>
          <Trans>Does not work on this day.</Trans>
        </Box>
        <Press size="small" onClick={onCover}>
          <Trans>Who needs a place?</Trans>
        </Press>
      </Row>
    );
  return (
    <Box>
      <Press look="danger" disabled={away.pending} onClick={() => away.run(null)}>
        <Trans>Away this day</Trans>
      </Press>
      <Outcome change={away} />
    </Box>
  );
}
