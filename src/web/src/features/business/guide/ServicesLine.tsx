import { t } from "@lingui/core/macro";
import { whole } from "../../../shared/whole";
import { Trans } from "@lingui/react/macro";
import { MinutesField } from "../../../shared/fields/MinutesField";
import { TextField } from "../../../shared/Field";
import { money } from "../../../shared/format";
import { MoneyField } from "../../../shared/inputs";
import { Box } from "../../../shared/layout";
import { Part } from "../../../shared/sentence/Sentence";
import { replaced, type BeginService } from "./beginning";

import type { GuideProps } from "./guideProps";
import { Add, joined, Panel } from "./Panel";
/** What is offered, and for how much. */
export function ServicesLine({ draft, errors, onChange }: GuideProps) {
  const services = draft.services ?? [];
  const currency = draft.currency ?? "EUR";
  const set = (i: number, service: BeginService | null) => onChange({ services: replaced(services, i, service) });
  const panel = (i: number, close: () => void) => {
    const service = services[i];
    if (!service) return null;
    return (
      <Panel close={close} {...(services.length > 1 && { onRemove: () => set(i, null) })}>
        <TextField
          label={t`Name`}
          value={service.name ?? ""}
          error={errors[`services[${i}].name`]}
          autoFocus
          onChange={(event) => set(i, { ...service, name: event.target.value })}
        />
        <Box display="grid" gridTemplateColumns="1fr 1fr" gap="2">
          <MinutesField
            label={t`Length`}
            value={service.minutes}
            error={errors[`services[${i}].phases[0].minutes`]}
            onChange={(minutes) => set(i, { ...service, minutes: minutes ?? 0 })}
          />
          <MinutesField
            label={t`Kept after it`}
            value={service.bufferMinutes}
            error={errors[`services[${i}].bufferAfterMinutes`]}
            onChange={(minutes) => set(i, { ...service, bufferMinutes: minutes ?? 0 })}
          />
        </Box>
        <MoneyField
          label={t`Price`}
          currency={currency}
          value={service.price}
          error={errors[`services[${i}].price`]}
          onChange={(price) => set(i, { ...service, price: price ?? 0 })}
        />
        <TextField
          label={t`Category`}
          value={service.category ?? ""}
          error={errors[`services[${i}].category`]}
          onChange={(event) => set(i, { ...service, category: event.target.value })}
        />
      </Panel>
    );
  };
  return (
    <>
      <Trans>
        We offer{" "}
        {joined(
          services.map((service, i) => (
            <Part
              key={i}
              label={t`Service ${i + 1}`}
              words={t`${service.name || t`what?`} for ${money({ amount: service.price, currency })}`}
            >
              {(close) => panel(i, close)}
            </Part>
          )),
          t`, and `,
        )}
        {whole(
          <Add
            label={t`Another service`}
            words={t`more?`}
            onAdd={() =>
              set(services.length, {
                name: "",
                category: services.at(-1)?.category ?? "Services",
                minutes: 60,
                bufferMinutes: 10,
                price: 0,
                feature: services.at(-1)?.feature ?? null,
                qualification: null,
              })
            }
          >
            {(close) => panel(services.length - 1, close)}
          </Add>,
        )}
      </Trans>
    </>
  );
}
