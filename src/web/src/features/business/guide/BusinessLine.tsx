import { t } from "@lingui/core/macro";
import { whole } from "../../../shared/whole";
import { Trans } from "@lingui/react/macro";
import {
  countries,
  countryName,
  currencies,
  currencyName,
  currencyOf,
  languageName,
  localesIn,
  zones,
  zoneIn,
} from "../../../shared/fields/named";
import { TextField } from "../../../shared/Field";
import { NumberField } from "../../../shared/inputs";
import { ChoicePart, Part } from "../../../shared/sentence/Sentence";

import type { GuideProps } from "./guideProps";
import { Panel } from "./Panel";
/** Who we are, and where. */
export function BusinessLine({ draft, errors, onChange }: GuideProps) {
  const region = draft.region ?? "IE";
  return (
    <>
      <Trans>
        We are{" "}
        {whole(
          <Part label={t`Name of the business`} words={draft.name || t`what is your business called?`}>
            {(close) => (
              <Panel close={close}>
                <TextField
                  label={t`Name clients read`}
                  value={draft.name ?? ""}
                  error={errors["name"]}
                  autoFocus
                  onChange={(event) => onChange({ name: event.target.value })}
                />
              </Panel>
            )}
          </Part>,
        )}{" "}
        at{" "}
        {whole(
          <Part label={t`Address`} words={draft.address || t`which address?`}>
            {(close) => (
              <Panel close={close}>
                <TextField
                  label={t`Address`}
                  value={draft.address ?? ""}
                  error={errors["address"]}
                  autoFocus
                  onChange={(event) => onChange({ address: event.target.value })}
                />
              </Panel>
            )}
          </Part>,
        )}{" "}
        in{" "}
        <ChoicePart
          label={t`Country`}
          words={countryName(region)}
          options={countries()}
          value={region}
          onChange={(country) =>
            onChange({
              region: country,
              locale: `${(draft.locale ?? "en").split("-")[0]}-${country}`,
              currency: currencyOf(country) ?? draft.currency,
              zone: zoneIn(country, draft.zone ?? ""),
            })
          }
        />
        , on the clock of{" "}
        <ChoicePart
          label={t`Time zone`}
          differs={false}
          options={zones(draft.zone ?? "")}
          value={draft.zone ?? ""}
          onChange={(zone) => onChange({ zone })}
        />
        . Prices are in{" "}
        <ChoicePart
          label={t`Currency`}
          words={currencyName(draft.currency ?? "EUR")}
          options={currencies()}
          value={draft.currency ?? ""}
          onChange={(currency) => onChange({ currency })}
        />{" "}
        and include{" "}
        {whole(
          <Part
            label={t`Tax`}
            differs={draft.taxBasisPoints != null}
            words={draft.taxBasisPoints == null ? t`no tax` : t`${draft.taxBasisPoints / 100} % tax`}
          >
            {(close) => (
              <Panel close={close}>
                <NumberField
                  label={t`Tax in prices (percent)`}
                  step={0.5}
                  value={draft.taxBasisPoints == null ? null : draft.taxBasisPoints / 100}
                  error={errors["taxBasisPoints"]}
                  hint={t`nothing where you add no tax`}
                  onChange={(percent) =>
                    onChange({ taxBasisPoints: percent === null ? null : Math.round(percent * 100) })
                  }
                />
              </Panel>
            )}
          </Part>,
        )}
        . Clients read{" "}
        <ChoicePart
          label={t`Language`}
          differs={false}
          words={languageName(draft.locale ?? "en-IE")}
          options={localesIn(region, draft.locale ?? "")}
          value={draft.locale ?? ""}
          onChange={(locale) => onChange({ locale })}
        />
        .
      </Trans>
    </>
  );
}
