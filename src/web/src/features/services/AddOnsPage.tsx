import { plural, t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { keepers } from "../../api/keepers";
import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { type AddOn } from "../../api/setup";

import { Outcome } from "../../shared/change";
import { TextField } from "../../shared/Field";
import { money } from "../../shared/format";
import { CheckField } from "../../shared/fields/CheckField";
import { ChoiceField, MoneyField, NumberField } from "../../shared/inputs";
import { Entry } from "../../shared/Entry";
import { Box, Columns, Page, Panel, Row, Section, Split, Stack, Tabs, asForm } from "../../shared/layout";
import { adding, openedOf, useOpened } from "../../shared/opened";
import { useKept } from "../../shared/kept";
import { Press } from "../../shared/Press";
import { useDeskSetup } from "../../shared/today";
import { useServices } from "../team/ServicesTab";
import { serviceTabs } from "./ServicesPage";

const fresh: AddOn = {
  id: null,
  name: "",
  minutes: 0,
  price: 0,
  most: 1,
  services: [],
  words: "",
  isArchived: false,
  version: 0,
};

/** Extras to services. */
export function AddOnsPage() {
  const addOns = useQuery(asks.addOns());
  const setup = useDeskSetup();
  const opened = useOpened();
  const item = addOns.data && (openedOf(addOns.data, opened.id) ?? fresh);
  return (
    <Page
      title={t`Services`}
      actions={
        <Press look="primary" onClick={() => opened.open(adding)}>
          <Trans>Add an add-on</Trans>
        </Press>
      }
    >
      <Tabs label={t`Services`} items={serviceTabs} />
      <Split>
        <Panel aria-label={t`Add-ons`}>
          {addOns.data?.length === 0 && (
            <Box color="quiet">
              <Trans>None yet. An add-on is an extra to a service, with its own minutes and price.</Trans>
            </Box>
          )}
          {addOns.data?.map((other) => (
            <Entry
              key={other.id}
              name={other.name}
              isOpen={other.id === item?.id}
              onOpen={() => opened.open(other.id!)}
            >
              <Trans>
                +{other.minutes} min · {money({ amount: other.price, currency: setup.currency })} · with{" "}
                {plural((other.services ?? []).length, { one: "# service", other: "# services" })}
                {other.isArchived && ` · ${t`archived`}`}
              </Trans>
            </Entry>
          ))}
        </Panel>
        {item && <AddOnForm key={item.id ?? "new"} addOn={item} onMade={opened.replace} />}
      </Split>
    </Page>
  );
}

function AddOnForm({ addOn, onMade }: { addOn: AddOn; onMade: (id: string) => void }) {
  const { draft, set, save, submit } = useKept(addOn, keepers.addOn, onMade);
  const services = useServices();
  const setup = useDeskSetup();
  const options = (services.data ?? [])
    .filter((other) => !other.isArchived)
    .map((other) => [other.id!, other.name ?? ""] as const);
  const withServices = draft.services ?? [];
  return (
    <Section title={addOn.name || t`A new add-on`}>
      <Stack {...asForm} onSubmit={submit}>
        <Columns>
          <TextField
            label={t`Name`}
            value={draft.name ?? ""}
            autoFocus={!addOn.id}
            error={save.errors["name"]}
            onChange={(e) => set({ name: e.target.value })}
          />
          <NumberField
            label={t`Minutes it adds`}
            step={5}
            value={draft.minutes}
            error={save.errors["minutes"]}
            onChange={(minutes) => set({ minutes: minutes ?? 0 })}
          />
          <MoneyField
            label={t`Price`}
            currency={setup.currency}
            value={draft.price}
            error={save.errors["price"]}
            onChange={(price) => set({ price: price ?? 0 })}
          />
          <NumberField
            label={t`At most of it`}
            min={1}
            value={draft.most}
            error={save.errors["most"]}
            onChange={(most) => set({ most: most ?? 1 })}
          />
        </Columns>
        <TextField
          label={t`A line for clients`}
          value={draft.words ?? ""}
          hint={t`Why it is worth it. Where there is one, clients are asked before they choose a time.`}
          error={save.errors["words"]}
          onChange={(e) => set({ words: e.target.value })}
        />
        <ChoiceField
          label={t`Goes with`}
          options={options}
          chosen={withServices.map((other) => other.serviceId)}
          error={Object.entries(save.errors).find(([field]) => field.startsWith("services"))?.[1]}
          onChange={(ids) =>
            set({
              services: ids.map(
                (serviceId) =>
                  withServices.find((other) => other.serviceId === serviceId) ?? { serviceId, suggested: false },
              ),
            })
          }
        />
        {withServices.length > 0 && (
          <ChoiceField
            label={t`Suggested with`}
            options={options.filter(([id]) => withServices.some((other) => other.serviceId === id))}
            chosen={withServices.filter((other) => other.suggested).map((other) => other.serviceId)}
            onChange={(ids) =>
              set({ services: withServices.map((other) => ({ ...other, suggested: ids.includes(other.serviceId) })) })
            }
          />
        )}
        {addOn.id && (
          <CheckField
            label={t`No longer sold`}
            checked={draft.isArchived}
            onChange={(isArchived) => set({ isArchived })}
          />
        )}
        <Row>
          <Press type="submit" look="primary">
            {addOn.id ? t`Save` : t`Add it`}
          </Press>
          <Outcome change={save} fields={["name", "minutes", "price", "most", "words"]} />
        </Row>
      </Stack>
    </Section>
  );
}
