import { t } from "@lingui/core/macro";
import type { Fee } from "../../api/setup";
import { andWords, money } from "../../shared/format";

/** Where a fee comes from, and what goes back: "€25.20 of the deposit kept and €16.80 from the card". */
export function feeWords({ fromDeposit, fromCard, owed, refund }: Fee) {
  const parts = [
    fromDeposit.amount > 0 && t`${money(fromDeposit)} of the deposit kept`,
    fromCard.amount > 0 && t`${money(fromCard)} from the card`,
    owed.amount > 0 && t`${money(owed)} stays owed`,
    refund.amount > 0 && t`${money(refund)} goes back to the card`,
  ].filter((part) => part !== false);
  return parts.length > 0 ? andWords(parts) : t`nothing is taken`;
}
