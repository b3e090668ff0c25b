import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { keepers } from "../../api/keepers";
import { asks } from "../../api/queries";
import type { Promo } from "../../api/setup";
import { Outcome } from "../../shared/change";
import { SelectField, TextField } from "../../shared/Field";
import { DateField } from "../../shared/fields/DateField";
import { money, shortDateWithYear } from "../../shared/format";
import { CheckField } from "../../shared/fields/CheckField";
import { ChoiceField, MoneyField, NumberField } from "../../shared/inputs";
import { Entry } from "../../shared/Entry";
import { asForm, Box, Columns, Page, Panel, Row, Section, Split, Stack, Tabs } from "../../shared/layout";
import { useKept } from "../../shared/kept";
import { adding, openedOf, useOpened } from "../../shared/opened";
import { Press } from "../../shared/Press";
import { useDeskSetup } from "../../shared/today";
import { serviceTabs } from "../services/ServicesPage";
import { useServices } from "../team/ServicesTab";

const fresh: Promo = {
  id: null,
  code: "",
  kind: "percent",
  value: 10,
  serviceIds: [],
  from: null,
  until: null,
  bookBy: null,
  isEnded: false,
  version: 0,
};

/** Promo codes: what whoever names one pays less. */
export function PromosPage() {
  const promos = useQuery(asks.promos());
  const uses = useQuery(asks.promoUses());
  const setup = useDeskSetup();
  const opened = useOpened();
  const item = promos.data && (openedOf(promos.data, opened.id) ?? fresh);
  const used = (id: string | null) => uses.data?.find((use) => use.promoId === id)?.visits ?? 0;
  return (
    <Page
      title={t`Services`}
      actions={
        <Press look="primary" onClick={() => opened.open(adding)}>
          <Trans>Add a promo code</Trans>
        </Press>
      }
    >
      <Tabs label={t`Services`} items={serviceTabs} />
      <Split>
        <Panel aria-label={t`Promo codes`}>
          {promos.data?.length === 0 && (
            <Box color="quiet">
              <Trans>None yet. Whoever names a promo code on the booking page pays less.</Trans>
            </Box>
          )}
          {promos.data?.map((promo) => (
            <Entry
              key={promo.id}
              name={promo.code}
              isOpen={promo.id === item?.id}
              onOpen={() => opened.open(promo.id!)}
            >
              {[
                promo.kind === "percent"
                  ? t`${promo.value} % off`
                  : t`${money({ amount: promo.value, currency: setup.currency })} off`,
                promo.until && t`visits until ${shortDateWithYear(promo.until)}`,
                promo.bookBy && t`booked by ${shortDateWithYear(promo.bookBy)}`,
                promo.isEnded && t`ended`,
                plural(used(promo.id), { 0: "not used", one: "used for # visit", other: "used for # visits" }),
              ]
                .filter(Boolean)
                .join(" · ")}
            </Entry>
          ))}
        </Panel>
        {item && <PromoForm key={item.id ?? "new"} promo={item} onMade={opened.replace} />}
      </Split>
    </Page>
  );
}

function PromoForm({ promo, onMade }: { promo: Promo; onMade: (id: string) => void }) {
  const { draft, set, save, submit } = useKept(promo, keepers.promo, onMade);
  const services = useServices();
  const { currency } = useDeskSetup();
  const options = (services.data ?? [])
    .filter((other) => !other.isArchived)
    .map((other) => [other.id!, other.name ?? ""] as const);
  return (
    <Section
      title={promo.code || t`A new promo code`}
      hint={t`Clients name it on the booking page. What was booked with it keeps its price, whatever is changed here.`}
    >
      <Stack {...asForm} onSubmit={submit}>
        <Columns>
          <TextField
            label={t`Code`}
            value={draft.code ?? ""}
            autoFocus={!promo.id}
            hint={t`Letters, digits and hyphens; capitals do not matter.`}
            error={save.errors["code"]}
            onChange={(e) => set({ code: e.target.value })}
          />
          <SelectField
            label={t`It takes off`}
            value={draft.kind}
            onChange={(e) => {
              const kind = e.target.value as Promo["kind"];
              set({ kind, value: kind === "percent" ? 10 : 500 });
            }}
          >
            <option value="percent">{t`so many percent of each service and add-on`}</option>
            <option value="fixed">{t`a fixed sum of the whole visit`}</option>
          </SelectField>
          {draft.kind === "percent" ? (
            <NumberField
              label={t`Percent`}
              min={1}
              value={Number(draft.value)}
              error={save.errors["value"]}
              onChange={(value) => set({ value: value ?? 0 })}
            />
          ) : (
            <MoneyField
              label={t`Sum`}
              currency={currency}
              value={Number(draft.value)}
              error={save.errors["value"]}
              onChange={(value) => set({ value: value ?? 0 })}
            />
          )}
        </Columns>
        <ChoiceField
          label={t`Only for these services`}
          options={options}
          chosen={draft.serviceIds ?? []}
          hint={t`None chosen: for all.`}
          error={save.errors["serviceIds"]}
          onChange={(serviceIds) => set({ serviceIds })}
        />
        <Columns>
          <DateField
            label={t`For visits from`}
            value={draft.from}
            error={save.errors["from"]}
            hint={t`Empty for any date.`}
            onChange={(from) => set({ from })}
          />
          <DateField
            label={t`For visits until`}
            value={draft.until}
            error={save.errors["until"]}
            hint={t`Empty for any date.`}
            onChange={(until) => set({ until })}
          />
          <DateField
            label={t`To be booked by`}
            value={draft.bookBy}
            error={save.errors["bookBy"]}
            hint={t`The last day on which it can be used; empty for ever.`}
            onChange={(bookBy) => set({ bookBy })}
          />
        </Columns>
        {promo.id && (
          <CheckField
            label={t`It can no longer be used`}
            checked={draft.isEnded}
            onChange={(isEnded) => set({ isEnded })}
          />
        )}
        <Row>
          <Press type="submit" look="primary">
            {promo.id ? t`Save` : t`Add it`}
          </Press>
          <Outcome change={save} fields={["code", "value", "serviceIds", "from", "until", "bookBy"]} />
        </Row>
      </Stack>
    </Section>
  );
}
