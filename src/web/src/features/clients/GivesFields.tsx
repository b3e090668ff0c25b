import { t } from "@lingui/core/macro";
import type { ClientFile } from "../../api/staff";
import { SelectField } from "../../shared/Field";
import { MoneyField, NumberField } from "../../shared/inputs";
import { useDeskSetup } from "../../shared/today";
import { demands } from "../money/ruleWords";

type Props = {
  draft: ClientFile;
  errors: Record<string, string>;
  set: (change: Partial<ClientFile>) => void;
};

/** What one client gives when they book, whatever the rules ask of others. */
export function GivesFields({ draft, errors, set }: Props) {
  const { currency } = useDeskSetup();
  const value = draft.givesValue ? Number(draft.givesValue) : null;
  const setValue = (given: number | null) => set({ givesValue: given ?? 0 });
  return (
    <>
      <SelectField
        label={t`Gives when booking`}
        value={draft.gives ?? ""}
        error={errors["gives"]}
        onChange={(e) => set({ gives: e.target.value || null, givesValue: 0 })}
      >
        <option value="">{t`as everyone`}</option>
        {demands.map(([kind, words]) => (
          <option key={kind} value={kind}>
            {words}
          </option>
        ))}
      </SelectField>
      {draft.gives === "percent" && (
        <NumberField
          label={t`Percent of the price`}
          min={1}
          value={value}
          error={errors["givesValue"]}
          onChange={setValue}
        />
      )}
      {draft.gives === "fixed" && (
        <MoneyField
          label={t`For each service`}
          currency={currency}
          value={value}
          error={errors["givesValue"]}
          onChange={setValue}
        />
      )}
    </>
  );
}
