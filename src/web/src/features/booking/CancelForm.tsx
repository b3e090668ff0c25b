import { chakra } from "@chakra-ui/react";
import { useState } from "react";
import type { CancelledBy, Visit } from "../../api/staff";
import { SelectField, TextField } from "../../shared/Field";
import { clock, dateIn, shortDate } from "../../shared/format";
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
      as="form"
      display="grid"
      gap="12px"
      onSubmit={(event) => {
        event.preventDefault();
        onCancel(reason, by);
      }}
    >
      <Box>The visit stays in the history with its reason; its time is free again at once. This cannot be undone.</Box>
      <SelectField label="Who cancels?" value={by} onChange={(e) => setBy(e.target.value as CancelledBy)}>
        <option value="client">the client</option>
        <option value="business">we do</option>
      </SelectField>
      {by === "client" && (
        <Box fontSize="14px" color="quiet">
          In time until {shortDate(dateIn(visit.cancelUntil, visit.zone))}, {clock(visit.cancelUntil, visit.zone)};
          later it counts with the no-shows.
        </Box>
      )}
      <TextField
        label="Why is it cancelled?"
        autoFocus
        value={reason}
        maxLength={500}
        onChange={(e) => setReason(e.target.value)}
        error={error}
      />
      <Box display="flex" gap="8px">
        <Press type="submit" look="danger" disabled={busy || reason.trim() === ""}>
          Cancel visit
        </Press>
        <Press onClick={onStop}>Keep it</Press>
      </Box>
    </Box>
  );
}
