import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { asks } from "../../api/queries";
import { clock, dateIn, money, shortDate } from "../../shared/format";
import { Box } from "../../shared/layout";

/** The deposit of a visit, the card that is kept, and what money has moved; nothing where there is none. */
export function VisitMoney({ visitId, version, zone }: { visitId: string; version: number | string; zone: string }) {
  const { data } = useQuery(asks.visitMoney(visitId, version));
  if (!data || (data.deposit.amount === 0 && !data.card && data.movements.length === 0)) return null;
  return (
    <Box as="section" aria-label={t`Money`} mt="3">
      <Box as="h3" fontSize="text" fontWeight="700">
        <Trans>Money</Trans>
      </Box>
      {data.deposit.amount > 0 && (
        <Box>
          <Trans>Deposit held: {money(data.deposit)}</Trans>
        </Box>
      )}
      {data.card && (
        <Box>
          <Trans>Card on file, ends in {data.card}</Trans>
        </Box>
      )}
      {data.movements.map((movement, i) => (
        <Box key={i} fontSize="small" color="quiet">
          {shortDate(dateIn(movement.at, zone))}, {clock(movement.at, zone)} · {movement.by}: {movement.text}
        </Box>
      ))}
    </Box>
  );
}
