import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { CancelledBy, Visit } from "../../api/staff";
import { asks } from "../../api/queries";
import { AreaField, SelectField, TextField } from "../../shared/Field";
import { clock, dateIn, shortDate } from "../../shared/format";
import { asForm, Row } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { FeePart } from "../money/FeePart";
import { ReachField, type Reach } from "./repeat/RowMove";
import { isAsked } from "./steps";

const Box = chakra("div");

/** What it costs as it was read, and why the client is let off. */
export type FeeSaid = { feeSeen: number | null; waive: string | null };

type Props = {
  visit: Visit;
  /** What the business offers to choose from. */
  reasons: readonly string[];
  busy: boolean;
  errors: Record<string, string>;
  onCancel: (reason: string, by: CancelledBy, reach: Reach, fee: FeeSaid, words: string) => void;
  onStop: () => void;
};

/** Who cancels a visit, and why; and of a row how much of it. */
export function CancelForm({ visit, reasons, busy, errors, onCancel, onStop }: Props) {
  const [reason, setReason] = useState("");
  const asked = isAsked(visit.state);
  const [by, setBy] = useState<CancelledBy>(asked ? "business" : "client");
  const [words, setWords] = useState("");
  const [reach, setReach] = useState<Reach>("one");
  const [waive, setWaive] = useState<string | null>(null);
  const money = useQuery(asks.visitMoney(visit.id, visit.version));
  const fee = by === "client" ? money.data?.cancelledByClient : money.data?.cancelledByBusiness;
  return (
    <Box
      {...asForm}
      display="grid"
      gap="3"
      onSubmit={(event) => {
        event.preventDefault();
        onCancel(
          reason,
          by,
          reach,
          { feeSeen: fee ? Number(fee.fee.amount) : null, waive },
          by === "business" && asked ? words : "",
        );
      }}
    >
      <Box>
        {asked ? (
          <Trans>
            The request stays in the history with its reason; its time is free again at once, and what was paid goes
            back.
          </Trans>
        ) : (
          <Trans>The visit stays in the history with its reason; its time is free again at once.</Trans>
        )}
      </Box>
      {visit.seriesId && <ReachField value={reach} onChange={setReach} />}
      <SelectField
        label={asked ? t`Who says no?` : t`Who cancels?`}
        value={by}
        onChange={(e) => setBy(e.target.value as CancelledBy)}
      >
        <option value="client">
          <Trans>the client</Trans>
        </option>
        <option value="business">
          <Trans>we do</Trans>
        </option>
      </SelectField>
      {by === "client" && !asked && (
        <Box fontSize="small" color="quiet">
          <Trans>
            In time until {shortDate(dateIn(visit.cancelUntil, visit.zone))}, {clock(visit.cancelUntil, visit.zone)};
            later it counts with the no-shows.
          </Trans>
        </Box>
      )}
      {fee && reach === "one" && (
        <FeePart
          fee={fee}
          free={money.data!.cancelledByBusiness}
          mayWaive={money.data!.mayWaive}
          waive={waive}
          error={errors["waive"]}
          onWaive={setWaive}
        />
      )}
      <TextField
        label={asked ? t`Why not? Only the team reads this.` : t`Why is it cancelled?`}
        autoFocus
        value={reason}
        maxLength={500}
        onChange={(e) => setReason(e.target.value)}
        error={errors["reason"]}
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
      {asked && by === "business" && (
        <AreaField
          label={t`A word to the client, if you like`}
          rows={2}
          value={words}
          maxLength={500}
          error={errors["words"]}
          onChange={(e) => setWords(e.target.value)}
        />
      )}
      <Box display="flex" gap="2">
        <Press type="submit" look="danger" disabled={busy || reason.trim() === "" || waive?.trim() === ""}>
          {asked ? t`Decline` : reach === "one" ? t`Cancel visit` : t`Cancel these visits`}
        </Press>
        <Press onClick={onStop}>
          <Trans>Keep it</Trans>
        </Press>
      </Box>
    </Box>
  );
}
