import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useState } from "react";
import type { CancelledBy, Visit } from "../../api/staff";
import { SelectField, TextField } from "../../shared/Field";
import { clock, dateIn, shortDate } from "../../shared/format";
import { asForm, Row } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { ReachField, type Reach } from "./repeat/RowMove";

const Box = chakra("div");

type Props = {
  visit: Visit;
  /** What the business offers to choose from. */
  reasons: readonly string[];
  busy: boolean;
  error: string | undefined;
  onCancel: (reason: string, by: CancelledBy, reach: Reach) => void;
  onStop: () => void;
};

/** Who cancels a visit, and why; and of a row how much of it. */
export function CancelForm({ visit, reasons, busy, error, onCancel, onStop }: Props) {
  const [reason, setReason] = useState("");
  const [by, setBy] = useState<CancelledBy>("client");
  const [reach, setReach] = useState<Reach>("one");
  return (
    <Box
      {...asForm}
      display="grid"
      gap="3"
      onSubmit={(event) => {
        event.preventDefault();
        onCancel(reason, by, reach);
      }}
    >
      <Box>
        <Trans>The visit stays in the history with its reason; its time is free again at once.</Trans>
      </Box>
      {visit.seriesId && <ReachField value={reach} onChange={setReach} />}
      <SelectField label={t`Who cancels?`} value={by} onChange={(e) => setBy(e.target.value as CancelledBy)}>
        <option value="client">
          <Trans>the client</Trans>
        </option>
        <option value="business">
          <Trans>we do</Trans>
        </option>
      </SelectField>
      {by === "client" && (
        <Box fontSize="small" color="quiet">
          <Trans>
            In time until {shortDate(dateIn(visit.cancelUntil, visit.zone))}, {clock(visit.cancelUntil, visit.zone)};
            later it counts with the no-shows.
          </Trans>
        </Box>
      )}
      <TextField
        label={t`Why is it cancelled?`}
        autoFocus
        value={reason}
        maxLength={500}
        onChange={(e) => setReason(e.target.value)}
        error={error}
      />
      {reasons.length > 0 && (
        <Row role="group" aria-label={t`Usual reasons`} gap="1.5">
          {reasons.map((usual) => (
            <Press key={usual} size="small" aria-pressed={reason === usual} onClick={() => setReason(usual)}>
              {usual}
            </Press>
          ))}
        </Row>
      )}
      <Box display="flex" gap="2">
        <Press type="submit" look="danger" disabled={busy || reason.trim() === ""}>
          {reach === "one" ? t`Cancel visit` : t`Cancel these visits`}
        </Press>
        <Press onClick={onStop}>
          <Trans>Keep it</Trans>
        </Press>
      </Box>
    </Box>
  );
}
