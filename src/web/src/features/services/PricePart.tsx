import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { asks } from "../../api/queries";
import type { Service } from "../../api/setup";
import { SelectField } from "../../shared/Field";
import { money } from "../../shared/format";
import { ChoiceField, MoneyField } from "../../shared/inputs";
import { Box, Columns, Stack } from "../../shared/layout";
import { useDeskSetup } from "../../shared/today";
import type { Tried } from "./useTried";
import { priceForms, type Part } from "./words";

const priceLabels: Partial<Record<Service["priceForm"], string>> = { hourly: t`Price of an hour`, from: t`Price from` };

/** What it costs, and the extras it can be had with; chosen ones are drawn where their minutes fall. */
export function PricePart({ draft, set, errors, tried, isNew }: Part & { tried: Tried; isNew: boolean }) {
  const setup = useDeskSetup();
  const business = useQuery(asks.business());
  const addOns = useQuery(asks.addOns());
  const extras = (addOns.data ?? []).filter(
    (addOn) => !addOn.isArchived && (addOn.services ?? []).some((other) => other.serviceId === draft.id),
  );
  return (
    <Stack>
      <Columns>
        <SelectField
          label={t`Form`}
          value={draft.priceForm}
          onChange={(e) => set({ priceForm: e.target.value as Service["priceForm"] })}
        >
          {Object.entries(priceForms).map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </SelectField>
        {draft.priceForm !== "free" && draft.priceForm !== "onRequest" && (
          <MoneyField
            label={priceLabels[draft.priceForm] ?? t`Price`}
            currency={setup.currency}
            value={draft.price}
            error={errors["price"]}
            onChange={(price) => set({ price: price ?? 0 })}
          />
        )}
        {(business.data?.taxRates?.length ?? 0) > 0 && (
          <SelectField
            label={t`Tax rate`}
            value={draft.taxRateId ?? ""}
            error={errors["taxRateId"]}
            onChange={(e) => set({ taxRateId: e.target.value || null })}
          >
            <option value="">
              <Trans>none</Trans>
            </option>
            {business.data!.taxRates!.map((taxRate) => (
              <option key={taxRate.id} value={taxRate.id!}>
                {taxRate.name}
              </option>
            ))}
          </SelectField>
        )}
      </Columns>
      {!isNew && extras.length > 0 && (
        <ChoiceField
          label={t`Draw it above and try it with`}
          options={extras.map((extra) => {
            const price = money({ amount: extra.price, currency: setup.currency });
            return [extra.id!, t`${extra.name ?? ""} · +${extra.minutes} min · ${price}`] as const;
          })}
          chosen={tried.addOnIds}
          onChange={tried.setAddOnIds}
        />
      )}
      <Box fontSize="small" color="quiet">
        <Trans>
          Own prices and lengths are set with each practitioner, under Services. Extras have a page of their own.
        </Trans>
      </Box>
    </Stack>
  );
}
