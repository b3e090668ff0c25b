import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useState } from "react";
import type { CancelledBy, Visit } from "../../api/staff";
import { SelectField, TextField } from "../../shared/Field";
import { clock, dateIn, shortDate } from "../../shared/format";
import { asForm } from "../../shared/layout";
import { Press } from "../../shared/Press";

const Box = chakra("div");

/** Who cancels a visit, and why. */
export function CancelForm({
  visit,
  busy,
  error,
  onCancel,
  onStop,
}: {
  visit: Visit;
  busy: boolean;
  error: string | undefined;
  onCancel: (reason: string, by: CancelledBy) => void;
  onStop: () => void;
}) {
  const [reason, setReason] = useState("");
  const [by, setBy] = useState<CancelledBy>("client");
  return (
    <Box
      {...asForm}
      display="grid"
      gap="3"
      onSubmit={(event) => {
        event.preventDefault();
        onCancel(reason, by);
      }}
    >
      <Box>
        <Trans>
          The visit stays in the history with its reason; its time is free again at once. This cannot be undone.
        </Trans>
      </Box>
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
      <Box display="flex" gap="2">
        <Press type="submit" look="danger" disabled={busy || reason.trim() === ""}>
          <Trans>Cancel visit</Trans>
        </Press>
        <Press onClick={onStop}>
          <Trans>Keep it</Trans>
        </Press>
      </Box>
    </Box>
  );
}
