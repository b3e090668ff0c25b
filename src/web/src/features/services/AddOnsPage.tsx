import { keepers } from "../../api/keepers";
import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { type AddOn } from "../../api/setup";

import { Outcome } from "../../shared/change";
import { TextField } from "../../shared/Field";
import { counted, money } from "../../shared/format";
import { CheckField, ChoiceField, MoneyField, NumberField } from "../../shared/inputs";
import { Box, Columns, Page, Panel, Row, Section, Split, Stack, Tabs } from "../../shared/layout";
import { adding, openedOf, useOpened } from "../../shared/opened";
import { useKept } from "../../shared/kept";
import { Plain } from "../../shared/Plain";
import { Press } from "../../shared/Press";
import { useDeskSetup } from "../../shared/today";
import { useServices } from "../team/ServicesTab";
import { serviceTabs } from "./ServicesPage";

const fresh: AddOn = { id: null, name: "", minutes: 0, price: 0, most: 1, services: [], isArchived: false, version: 0 };

/** Extras to services. */
export function AddOnsPage() {
  const addOns = useQuery(asks.addOns());
  const setup = useDeskSetup();
  const opened = useOpened();
  const item = addOns.data && (openedOf(addOns.data, opened.id) ?? fresh);
  return (
    <Page
      title="Services"
      actions={
        <Press look="primary" onClick={() => opened.open(adding)}>
          Add an add-on
        </Press>
      }
    >
      <Tabs label="Services" items={serviceTabs} />
      <Split>
        <Panel aria-label="Add-ons">
          {addOns.data?.length === 0 && (
            <Box color="quiet">None yet. An add-on is an extra to a service, with its own minutes and price.</Box>
          )}
          {addOns.data?.map((other) => (
            <Plain
              key={other.id}
              display="block"
              w="100%"
              textAlign="left"
              p="6px 8px"
              cursor="pointer"
              borderRadius="4px"
              bg={other.id === item?.id ? "glow" : "transparent"}
              aria-pressed={other.id === item?.id}
              onClick={() => opened.open(other.id!)}
            >
              <Box fontWeight="700">{other.name}</Box>
              <Box fontSize="14px" color="quiet">
                +{other.minutes} min · {money({ amount: other.price, currency: setup.currency })} · with{" "}
                {counted((other.services ?? []).length, "service")}
                {other.isArchived && " · archived"}
              </Box>
            </Plain>
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
    <Section title={addOn.name || "A new add-on"}>
      <Stack as="form" onSubmit={submit}>
        <Columns>
          <TextField
            label="Name"
            value={draft.name ?? ""}
            autoFocus={!addOn.id}
            error={save.errors["name"]}
            onChange={(e) => set({ name: e.target.value })}
          />
          <NumberField
            label="Minutes it adds"
            step={5}
            value={draft.minutes}
            error={save.errors["minutes"]}
            onChange={(minutes) => set({ minutes: minutes ?? 0 })}
          />
          <MoneyField
            label="Price"
            currency={setup.currency}
            value={draft.price}
            error={save.errors["price"]}
            onChange={(price) => set({ price: price ?? 0 })}
          />
          <NumberField
            label="At most of it"
            min={1}
            value={draft.most}
            error={save.errors["most"]}
            onChange={(most) => set({ most: most ?? 1 })}
          />
        </Columns>
        <ChoiceField
          label="Goes with"
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
            label="Suggested with"
            options={options.filter(([id]) => withServices.some((other) => other.serviceId === id))}
            chosen={withServices.filter((other) => other.suggested).map((other) => other.serviceId)}
            onChange={(ids) =>
              set({ services: withServices.map((other) => ({ ...other, suggested: ids.includes(other.serviceId) })) })
            }
          />
        )}
        {addOn.id && (
          <CheckField
            label="No longer sold"
            checked={draft.isArchived}
            onChange={(isArchived) => set({ isArchived })}
          />
        )}
        <Row>
          <Press type="submit" look="primary">
            {addOn.id ? "Save" : "Add it"}
          </Press>
          <Outcome change={save} fields={["name", "minutes", "price", "most"]} />
        </Row>
      </Stack>
    </Section>
  );
}
