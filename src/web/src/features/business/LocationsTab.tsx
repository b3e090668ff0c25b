import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { keepers } from "../../api/keepers";
import { useState } from "react";
import { type Location } from "../../api/setup";
import { Outcome } from "../../shared/change";
import { ChosenField } from "../../shared/fields/ChosenField";
import { zones } from "../../shared/fields/named";
import { SelectField, TextField } from "../../shared/Field";
import { CheckField } from "../../shared/fields/CheckField";
import { NumberField, weekdays } from "../../shared/inputs";
import { Columns, Row, Section, Stack } from "../../shared/layout";
import { adding, openedOf, useOpened } from "../../shared/opened";
import { useKept } from "../../shared/kept";
import { Press } from "../../shared/Press";
import { useLocations } from "../team/team";
import { Closures } from "../calendar/Closures";
import { OpeningHours } from "./OpeningHours";
import { RulesForm } from "./RulesForm";
import { Travel } from "./Travel";

const fresh = (): Location => ({
  id: null,
  name: "",
  zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  address: "",
  phone: "",
  opening: weekdays.slice(0, 5).map(([weekday]) => ({ weekday, from: "09:00:00", until: "17:00:00" })),
  bookableOnline: true,
  acceptsNewClients: true,
  longestWaitMinutes: 0,
  noShowLimit: null,
  online: {},
  closures: [],
  stops: [],
  travel: [],
  version: 0,
});

/** Where clients come: address, hours, closures, rules. */
export function LocationsTab() {
  const locations = useLocations();
  const opened = useOpened();
  if (!locations.data) return null;
  const item = openedOf(locations.data, opened.id) ?? null;
  return (
    <Stack pb="7">
      {locations.data.length > 0 && (
        <Row>
          {locations.data.map((other) => (
            <Press
              key={other.id}
              look={other.id === item?.id ? "primary" : "plain"}
              aria-pressed={other.id === item?.id}
              onClick={() => opened.open(other.id!)}
            >
              {other.name}
            </Press>
          ))}
          <Press look="quiet" onClick={() => opened.open(adding)}>
            <Trans>Add a location</Trans>
          </Press>
        </Row>
      )}
      {item && <Closures key={`closures-${item.id}`} location={item} all={locations.data} />}
      <LocationForm
        key={item?.id ?? "new"}
        location={item}
        others={locations.data.filter((other) => other.id !== item?.id)}
        onMade={opened.replace}
      />
    </Stack>
  );
}

function LocationForm({
  location,
  others,
  onMade,
}: {
  location: Location | null;
  others: Location[];
  onMade: (id: string) => void;
}) {
  const [blank] = useState(fresh);
  const { draft, set, save, errors } = useKept(location ?? blank, keepers.location, onMade);
  const hours = draft.opening ?? [];
  return (
    <>
      <Section title={location?.name ?? t`Where clients come`}>
        <Columns least={230}>
          <TextField
            label={t`Name of the place`}
            value={draft.name ?? ""}
            autoFocus={!location}
            error={errors["name"]}
            onChange={(e) => set({ name: e.target.value })}
          />
          <TextField
            label={t`Address`}
            value={draft.address ?? ""}
            error={errors["address"]}
            onChange={(e) => set({ address: e.target.value })}
          />
          <TextField
            label={t`Telephone`}
            value={draft.phone ?? ""}
            error={errors["phone"]}
            onChange={(e) => set({ phone: e.target.value })}
          />
          <ChosenField
            label={t`Time zone`}
            value={draft.zone ?? ""}
            options={zones(draft.zone ?? "")}
            error={errors["zone"]}
            onChange={(zone) => set({ zone })}
          />
        </Columns>
      </Section>
      <OpeningHours hours={hours} errors={errors} onChange={(opening) => set({ opening })} />
      <Section
        title={t`Online booking here`}
        hint={t`These hold for every service, unless its category or the service itself says otherwise.`}
      >
        <Stack>
          <CheckField
            label={t`Clients can book this location online`}
            checked={draft.bookableOnline}
            onChange={(bookableOnline) => set({ bookableOnline })}
          />
          <CheckField
            label={t`New clients can book here online`}
            checked={draft.acceptsNewClients}
            onChange={(acceptsNewClients) => set({ acceptsNewClients })}
          />
          <RulesForm
            place="location"
            rules={draft.online ?? {}}
            locations={[]}
            errors={errors}
            onChange={(online) => set({ online })}
          />
          <Columns>
            <NumberField
              label={t`Longest wait between two services (min)`}
              step={5}
              value={draft.longestWaitMinutes}
              error={errors["longestWaitMinutes"]}
              onChange={(minutes) => set({ longestWaitMinutes: minutes ?? 0 })}
            />
            <SelectField
              label={t`Clients who did not come`}
              value={draft.noShowLimit?.action ?? ""}
              onChange={(e) =>
                set({
                  noShowLimit: e.target.value
                    ? {
                        times: draft.noShowLimit?.times ?? 2,
                        months: draft.noShowLimit?.months ?? 6,
                        action: e.target.value as "refuse" | "approve",
                      }
                    : null,
                })
              }
            >
              <option value="">
                <Trans>may book as everyone</Trans>
              </option>
              <option value="approve">
                <Trans>wait for approval</Trans>
              </option>
              <option value="refuse">
                <Trans>cannot book online</Trans>
              </option>
            </SelectField>
            {draft.noShowLimit && (
              <>
                <NumberField
                  label={t`after so many times`}
                  min={1}
                  value={draft.noShowLimit.times}
                  error={errors["noShowLimit.times"]}
                  onChange={(times) => set({ noShowLimit: { ...draft.noShowLimit!, times: times ?? 1 } })}
                />
                <NumberField
                  label={t`in so many months`}
                  min={1}
                  value={draft.noShowLimit.months}
                  error={errors["noShowLimit.months"]}
                  onChange={(months) => set({ noShowLimit: { ...draft.noShowLimit!, months: months ?? 1 } })}
                />
              </>
            )}
          </Columns>
        </Stack>
      </Section>
      <Row>
        <Press look="primary" disabled={save.pending} onClick={() => save.run(draft)}>
          {location ? t`Save` : t`Add the location`}
        </Press>
        <Outcome
          change={save}
          fields={[
            "name",
            "address",
            "phone",
            "zone",
            "longestWaitMinutes",
            ...hours.flatMap((_, i) => [`opening[${i}].from`, `opening[${i}].until`]),
          ]}
        />
      </Row>
      {location && others.length > 0 && <Travel location={location} others={others} />}
    </>
  );
}
