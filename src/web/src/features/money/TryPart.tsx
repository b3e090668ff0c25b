import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import type { GuaranteeTried } from "../../api/setup";
import { TimeField } from "../../shared/fields/TimeField";
import { Month } from "../../shared/fields/Month";
import { money, shortDate, timeWords } from "../../shared/format";
import { Box, Panel } from "../../shared/layout";
import { ChoicePart, Part, Sentence } from "../../shared/sentence/Sentence";
import { SmallForm } from "../../shared/sentence/SmallForm";
import { useDeskSetup } from "../../shared/today";
import { whole } from "../../shared/whole";
import type { Sample } from "./sample";

const Terms = chakra("dl");
const Line = chakra("div", {
  base: {
    display: "flex",
    justifyContent: "space-between",
    gap: "3",
    py: "1.5",
    borderTopWidth: "line",
    borderColor: "line",
  },
});
const Value = chakra("dd", { base: { fontWeight: "700" } });

const whom = () => [
  { value: "new", label: t`A new client` },
  { value: "returning", label: t`A client who has been here` },
  { value: "missed1", label: t`A client who missed one visit` },
  { value: "missed2", label: t`A client who missed two visits` },
  { value: "missed3", label: t`A client who missed three visits` },
];

type Props = { sample: Sample; set: (patch: Partial<Sample>) => void; tried: GuaranteeTried | undefined };

/** A made-up client and visit, and what the rules ask of them. */
export function TryPart({ sample, set, tried }: Props) {
  const setup = useDeskSetup();
  return (
    <Panel aria-label={t`Try it`}>
      <Box as="h2" fontSize="title" mb="1">
        <Trans>Try it</Trans>
      </Box>
      <Sentence size="text">
        <Trans>
          {whole(<ChoicePart label={t`Who`} value={sample.who} options={whom()} onChange={(who) => set({ who })} />)}{" "}
          books{" "}
          {whole(
            <ChoicePart
              label={t`Service`}
              value={sample.serviceId}
              options={setup.services.map(({ id, name }) => ({ value: id, label: name }))}
              onChange={(serviceId) => set({ serviceId })}
            />,
          )}{" "}
          at{" "}
          {whole(
            <ChoicePart
              label={t`Location`}
              value={sample.locationId}
              options={setup.locations.map(({ id, name }) => ({ value: id, label: name }))}
              onChange={(locationId) => set({ locationId })}
            />,
          )}{" "}
          for{" "}
          {whole(
            <Part label={t`Day`} words={shortDate(sample.date)}>
              {(close) => (
                <Month
                  value={sample.date}
                  onChange={(date) => {
                    set({ date });
                    close();
                  }}
                />
              )}
            </Part>,
          )}
          ,{" "}
          {whole(
            <Part label={t`Time`} words={timeWords(sample.time)}>
              {(close) => (
                <SmallForm onDone={close}>
                  <TimeField label={t`Time`} value={sample.time} onChange={(time) => set({ time })} />
                </SmallForm>
              )}
            </Part>,
          )}
          .
        </Trans>
      </Sentence>
      {tried && (
        <Box aria-live="polite">
          <Terms mt="2">
            <Line>
              <dt>
                <Trans>Price</Trans>
              </dt>
              <Value>{money(tried.price)}</Value>
            </Line>
            <Line>
              <dt>{tried.needsCard && tried.deposit.amount === 0 ? t`Card on file` : t`Deposit now`}</dt>
              <Value>
                {tried.needsCard && tried.deposit.amount === 0 ? t`asked for, nothing taken` : money(tried.deposit)}
              </Value>
            </Line>
            <Line>
              <dt>
                <Trans>Left to pay at the visit</Trans>
              </dt>
              <Value>{money(tried.rest)}</Value>
            </Line>
          </Terms>
          <Box fontSize="small" color="quiet" pt="2" borderTopWidth="line" borderColor="line">
            {tried.because.join(" ")}
          </Box>
        </Box>
      )}
    </Panel>
  );
}
