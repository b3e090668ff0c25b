import { t } from "@lingui/core/macro";
import type { Fee } from "../../api/setup";
import { andWords, money } from "../../shared/format";

/** What goes back of a deposit, and how: "€25.20 goes back to the card and €10.00 in cash". */
const backParts = ({ refundToCard, refundInCash }: Fee) => [
  refundToCard.amount > 0 && t`${money(refundToCard)} goes back to the card`,
  refundInCash.amount > 0 && t`${money(refundInCash)} is given back in cash at the desk`,
];

const sentence = (parts: (string | false)[]) => {
  const said = parts.filter((part) => part !== false);
  return said.length > 0 ? andWords(said) : t`nothing is taken`;
};

/** Where a fee comes from, and what goes back: "€25.20 of the deposit kept and €16.80 from the card". */
export const feeWords = (fee: Fee) =>
  sentence([
    fee.fromDeposit.amount > 0 && t`${money(fee.fromDeposit)} of the deposit kept`,
    fee.fromCard.amount > 0 && t`${money(fee.fromCard)} from the card`,
    fee.owed.amount > 0 && t`${money(fee.owed)} stays owed`,
    ...backParts(fee),
  ]);

/** Of what costs nothing, what goes back. */
export const backWords = (fee: Fee) => sentence(backParts(fee));
