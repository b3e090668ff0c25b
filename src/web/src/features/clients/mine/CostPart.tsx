import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import type { OwnVisit } from "../../../api/public";
import { money } from "../../../shared/format";
import { feeWords } from "../../money/feeWords";

const Box = chakra("div", { base: { bg: "glow", borderRadius: "card", px: "3.5", py: "2.5" } });

/** What it costs, and where that comes from, before it is done. */
export function CostPart({ fee, free }: { fee: NonNullable<OwnVisit["cancelling"]>; free: string }) {
  const costs = Number(fee.fee.amount) > 0;
  const moves = costs || Number(fee.refund.amount) > 0;
  return (
    <Box>
      {costs ? (
        <Trans>
          This costs <b>{money(fee.fee)}</b>
        </Trans>
      ) : (
        free
      )}
      {moves && `: ${feeWords(fee)}`}
      {moves ? t`.` : ""}
    </Box>
  );
}
