import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Fee } from "../../api/setup";
import { TextField } from "../../shared/Field";
import { money } from "../../shared/format";
import { CheckField } from "../../shared/fields/CheckField";
import { Box } from "../../shared/layout";
import { backWords, feeWords } from "./feeWords";

type Props = {
  fee: Fee;
  /** The same where the client is let off. */
  free: Fee;
  mayWaive: boolean;
  /** Why the client is let off; null where they are not. */
  waive: string | null;
  error: string | undefined;
  onWaive: (waive: string | null) => void;
};

/** What it costs the client, before it is done, and letting them off for whoever may. */
export function FeePart({ fee, free, mayWaive, waive, error, onWaive }: Props) {
  if (fee.fee.amount === 0)
    return (
      <Box>
        {fee.refund.amount > 0 ? (
          <Trans>It costs the client nothing; {backWords(fee)}.</Trans>
        ) : (
          <Trans>It costs the client nothing.</Trans>
        )}
      </Box>
    );
  return (
    <>
      <Box bg="glow" borderRadius="card" px="3" py="2">
        {waive === null ? (
          <Trans>
            It costs the client <b>{money(fee.fee)}</b>: {feeWords(fee)}.
          </Trans>
        ) : (
          <Trans>
            Instead of {money(fee.fee)} it costs them nothing: {feeWords(free)}.
          </Trans>
        )}
      </Box>
      {mayWaive && (
        <CheckField
          label={t`Let them off this time`}
          checked={waive !== null}
          onChange={(on) => onWaive(on ? "" : null)}
        />
      )}
      {waive !== null && (
        <TextField
          label={t`Why are they let off?`}
          value={waive}
          maxLength={500}
          error={error}
          onChange={(e) => onWaive(e.target.value)}
        />
      )}
    </>
  );
}
