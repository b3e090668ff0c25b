import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { staff } from "../../api/staff";
import { SelectField } from "../../shared/Field";
import { useFirstFault } from "../../shared/firstFault";
import { money } from "../../shared/format";
import { MoneyField } from "../../shared/inputs";
import { asForm, Box, Row, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { answerOf, Problem } from "../../shared/problem";
import { say } from "../../shared/toasts";
import { useMoney, type Deposit, type Money } from "./useMoney";

type Props = {
  visitId: string;
  /** What is offered to be taken: what the rules ask for, or what is left to pay. */
  usual: Money;
  most: Money;
  takesCards: boolean;
  onStop: () => void;
};

/** Takes a deposit: how much, and how it comes. */
export function TakeDeposit({ visitId, usual, most, takesCards, onStop }: Props) {
  const [amount, setAmount] = useState<number | null>(Number(usual.amount));
  const [way, setWay] = useState<"cash" | "terminal" | "link">(takesCards ? "terminal" : "cash");
  // One for each thing that is wanted: pressed twice, or sent again, it is taken once.
  const [key, setKey] = useState(() => crypto.randomUUID());
  const take = useMoney(
    visitId,
    () =>
      answerOf(
        staff.POST("/api/v1/visits/{id}/deposits", {
          params: { path: { id: visitId }, header: { "Idempotency-Key": key } },
          body: { way, amount: amount ?? 0 },
        }),
      ),
    (taken: Deposit) => {
      if (taken.state === "taken") say(t`${money(taken.amount)} taken in cash.`);
      onStop();
    },
  );
  useFirstFault(take.error);
  const problem = take.error instanceof Problem ? take.error : null;
  const change =
    <T,>(set: (value: T) => void) =>
    (value: T) => {
      set(value);
      setKey(crypto.randomUUID());
      take.reset();
    };
  const sum = money({ ...most, amount: amount ?? 0 });
  return (
    <Stack
      {...asForm}
      gap="2"
      mt="1"
      onSubmit={(event) => {
        event.preventDefault();
        if (!take.isPending) take.mutate(undefined);
      }}
    >
      <MoneyField
        label={t`How much?`}
        autoFocus
        value={amount}
        currency={most.currency}
        hint={t`${money(most)} at the most: what is left to pay.`}
        error={problem?.errors["amount"]}
        onChange={change(setAmount)}
      />
      <SelectField
        label={t`How is it paid?`}
        value={way}
        error={problem?.errors["way"]}
        onChange={(event) => change(setWay)(event.target.value as typeof way)}
      >
        {takesCards && <option value="terminal">{t`by card, at the terminal`}</option>}
        {takesCards && <option value="link">{t`by card, by a link the client is sent`}</option>}
        <option value="cash">{t`in cash`}</option>
      </SelectField>
      {take.error && !problem?.field && (
        <Box role="alert" color="clay">
          {take.error.message}
        </Box>
      )}
      <Row gap="2">
        <Press type="submit" look="primary" size="small" disabled={take.isPending || !amount}>
          {way === "cash"
            ? t`I have taken ${sum}`
            : way === "link"
              ? t`Send a link for ${sum}`
              : t`Ask for ${sum} at the terminal`}
        </Press>
        <Press size="small" onClick={onStop}>
          <Trans>Not now</Trans>
        </Press>
      </Row>
    </Stack>
  );
}
