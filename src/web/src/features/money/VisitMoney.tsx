import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { asks } from "../../api/queries";
import { staff } from "../../api/staff";
import { useFocusBack } from "../../shared/focusBack";
import { clock, dateIn, money, shortDate } from "../../shared/format";
import { Box, Row } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { answerOf } from "../../shared/problem";
import { AtTerminal } from "./AtTerminal";
import { ByLink } from "./ByLink";
import { CashToGive } from "./CashToGive";
import { GiveBack } from "./GiveBack";
import { TakeDeposit } from "./TakeDeposit";
import { useMoney } from "./useMoney";

type Props = { visitId: string; version: number | string; zone: string };

/** The deposit of a visit, taken and given back; the card that is kept, and what money has moved. */
export function VisitMoney({ visitId, version, zone }: Props) {
  const { data } = useQuery(asks.visitMoney(visitId, version));
  const [isTaking, setTaking] = useState(false);
  const opener = useFocusBack(isTaking);
  const params = { path: { id: visitId } };
  const cashGiven = useMoney(visitId, (seen: number) =>
    answerOf(staff.POST("/api/v1/visits/{id}/cash-given", { params, body: { seen } })),
  );
  if (!data) return null;
  const { deposit, due, most, waiting, cashToGive, cashElsewhere, card, movements } = data;
  const mayTake = most.amount > 0;
  const isNothing = [movements, waiting, cashElsewhere].every((list) => list.length === 0);
  if (isNothing && deposit.amount === 0 && !mayTake && !card) return null;
  return (
    <Box as="section" aria-label={t`Money`} mt="3">
      <Box as="h3" fontSize="text" fontWeight="700">
        <Trans>Money</Trans>
      </Box>
      {due.amount > 0 && (
        <Box>
          {deposit.amount > 0 ? (
            <Trans>Your rules ask for {money(due)} more as a deposit.</Trans>
          ) : (
            <Trans>Your rules ask for a deposit of {money(due)}.</Trans>
          )}
        </Box>
      )}
      {deposit.amount > 0 && (
        <Box>
          <Trans>Deposit held: {money(deposit)}</Trans>
        </Box>
      )}
      {card && (
        <Box>
          <Trans>Card on file, ends in {card}</Trans>
        </Box>
      )}
      {waiting.map((one) =>
        one.way === "link" ? (
          <ByLink key={one.id} visitId={visitId} deposit={one} zone={zone} />
        ) : (
          <AtTerminal key={one.id} visitId={visitId} deposit={one} />
        ),
      )}
      {cashToGive.amount > 0 && (
        <Box bg="glow" borderRadius="card" px="3" py="2" mt="1">
          <Box>
            <Trans>{money(cashToGive)} is to be given back in cash.</Trans>
          </Box>
          <Press
            size="small"
            disabled={cashGiven.isPending}
            onClick={() => cashGiven.mutate(Number(cashToGive.amount))}
          >
            <Trans>I have given it back</Trans>
          </Press>
        </Box>
      )}
      <CashToGive cash={cashElsewhere} />
      {cashGiven.error && (
        <Box role="alert" color="clay">
          {cashGiven.error.message}
        </Box>
      )}
      {isTaking && mayTake ? (
        <TakeDeposit
          visitId={visitId}
          usual={due.amount > 0 ? due : most}
          most={most}
          takesCards={data.takesCards}
          onStop={() => setTaking(false)}
        />
      ) : (
        <Row gap="1.5" mt="1">
          {mayTake && (
            <Press ref={opener} size="small" onClick={() => setTaking(true)}>
              <Trans>Take a deposit</Trans>
            </Press>
          )}
          {data.mayReturn && <GiveBack visitId={visitId} deposit={deposit} back={data.cancelledByBusiness} />}
        </Row>
      )}
      {movements.map((movement, i) => (
        <Box key={i} fontSize="small" color="quiet">
          {shortDate(dateIn(movement.at, zone))}, {clock(movement.at, zone)} · {movement.by}: {movement.text}
        </Box>
      ))}
    </Box>
  );
}
