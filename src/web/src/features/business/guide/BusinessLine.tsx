import {
  countries,
  countryName,
  currencies,
  currencyName,
  currencyOf,
  languageName,
  localesIn,
  zones,
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
      We are{" "}
      <Part label="Name of the business" words={draft.name || "what is your business called?"}>
        {(close) => (
          <Panel close={close}>
            <TextField
              label="Name clients read"
              value={draft.name ?? ""}
              error={errors["name"]}
              autoFocus
              onChange={(event) => onChange({ name: event.target.value })}
            />
          </Panel>
        )}
      </Part>{" "}
      at{" "}
      <Part label="Address" words={draft.address || "which address?"}>
        {(close) => (
          <Panel close={close}>
            <TextField
              label="Address"
              value={draft.address ?? ""}
              error={errors["address"]}
              autoFocus
              onChange={(event) => onChange({ address: event.target.value })}
            />
          </Panel>
        )}
      </Part>{" "}
      in{" "}
      <ChoicePart
        label="Country"
        words={countryName(region)}
        options={countries()}
        value={region}
        onChange={(country) =>
          onChange({
            region: country,
            locale: `${(draft.locale ?? "en").split("-")[0]}-${country}`,
            currency: currencyOf(country) ?? draft.currency,
          })
        }
      />
      , on the clock of{" "}
      <ChoicePart
        label="Time zone"
        differs={false}
        options={zones(draft.zone ?? "")}
        value={draft.zone ?? ""}
        onChange={(zone) => onChange({ zone })}
      />
      . Prices are in{" "}
      <ChoicePart
        label="Currency"
        words={currencyName(draft.currency ?? "EUR")}
        options={currencies()}
        value={draft.currency ?? ""}
        onChange={(currency) => onChange({ currency })}
      />{" "}
      and include{" "}
      <Part
        label="Tax"
        differs={draft.taxBasisPoints != null}
        words={draft.taxBasisPoints == null ? "no tax" : `${draft.taxBasisPoints / 100} % tax`}
      >
        {(close) => (
          <Panel close={close}>
            <NumberField
              label="Tax in prices (percent)"
              step={0.5}
              value={draft.taxBasisPoints == null ? null : draft.taxBasisPoints / 100}
              error={errors["taxBasisPoints"]}
              hint="nothing where you add no tax"
              onChange={(percent) => onChange({ taxBasisPoints: percent === null ? null : Math.round(percent * 100) })}
            />
          </Panel>
        )}
      </Part>
      . Clients read{" "}
      <ChoicePart
        label="Language"
        differs={false}
        words={languageName(draft.locale ?? "en-IE")}
        options={localesIn(region, draft.locale ?? "")}
        value={draft.locale ?? ""}
        onChange={(locale) => onChange({ locale })}
      />
      .
    </>
  );
}
