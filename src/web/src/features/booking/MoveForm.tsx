import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useMemo, useState } from "react";
import type { DeskSetup, Visit } from "../../api/staff";
import { clockRange, shortDate, timeWords } from "../../shared/format";
import { Press } from "../../shared/Press";
import type { Chosen, Fit } from "./fits";
import { PractitionerField } from "./PractitionerField";
import { StartList } from "./StartList";

function moveWords(start: Chosen | null) {
  if (!start) return t`Move`;
  const at = timeWords(start.clock);
  return start.accept ? t`Move to ${at} all the same` : t`Move to ${at}`;
}

const Box = chakra("div");
type Props = {
  visit: Visit;
  setup: DeskSetup;
  zone: string;
  date: string;
  busy: boolean;
  onFits: (fits: Fit[] | null) => void;
  onDay: (date: string) => void;
  onMove: (start: Chosen) => void;
  onStop: () => void;
};

/** Where a visit may go: its starts, or one over something once that was read. */
export function MoveForm({ visit, setup, zone, date, busy, onFits, onDay, onMove, onStop }: Props) {
  const [start, setStart] = useState<Chosen | null>(null);
  const present = visit.lines[0]?.practitioners[0]?.id ?? "";
  const [practitionerId, setPractitionerId] = useState(present);
  const question = useMemo(
    () => ({
      locationId: visit.locationId,
      serviceIds: visit.lines.map((line) => line.serviceId),
      practitionerId: practitionerId || null,
      visitId: visit.id,
    }),
    [visit, practitionerId],
  );
  return (
    <Box display="grid" gap="3">
      <Box>
        <Trans>
          {visit.lines.map((line) => line.service).join(", ")}, now {shortDate(visit.date)},{" "}
          {clockRange(visit.start, visit.end, zone)}
        </Trans>
      </Box>
      <PractitionerField
        setup={setup}
        serviceId={visit.lines[0]?.serviceId}
        value={practitionerId}
        onChange={(next) => {
          setPractitionerId(next);
          setStart(null);
        }}
      />
      <StartList
        question={question}
        date={date}
        zone={zone}
        near={null}
        chosen={start}
        onChoose={setStart}
        onFits={onFits}
        onDay={onDay}
      />
      <Box display="flex" gap="2">
        <Press look="primary" disabled={!start || busy} onClick={() => onMove(start!)}>
          {moveWords(start)}
        </Press>
        <Press onClick={onStop}>
          <Trans>Leave it</Trans>
        </Press>
      </Box>
    </Box>
  );
}
