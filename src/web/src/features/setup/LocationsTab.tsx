import { useState } from "react";
import { ifMatch, send, type Location } from "../../api/setup";
import { Outcome, useChange } from "../../shared/change";
import { useDraft } from "../../shared/draft";
import { SelectField, TextField } from "../../shared/Field";
import { longDate } from "../../shared/format";
import { CheckField, DateField, NumberField, TimeField, weekdays } from "../../shared/inputs";
import { Box, Columns, Row, Section, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { useDeskSetup, useToday } from "../../shared/today";
import { useLocations } from "../team/team";
import { Holidays } from "./Holidays";
import { RulesForm } from "./RulesForm";

const zones = (): string[] => Intl.supportedValuesOf("timeZone");
const fresh = (): Location => ({
  id: null,
  name: "",
  zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  address: "",
  phone: "",
  opening: weekdays.slice(0, 5).map(([weekday]) => ({ weekday, from: "09:00:00", until: "17:00:00" })),
  bookableOnline: true,
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
  const [chosen, setChosen] = useState<string | null>(null);
  if (!locations.data) return null;
  const one =
    chosen === "new" || locations.data.length === 0
      ? null
      : (locations.data.find((other) => other.id === chosen) ?? locations.data[0]!);
  return (
    <Stack maxW="960px" pb="30px">
      {locations.data.length > 0 && (
        <Row>
          {locations.data.map((other) => (
            <Press
              key={other.id}
              look={other.id === one?.id ? "primary" : "plain"}
              aria-pressed={other.id === one?.id}
              onClick={() => setChosen(other.id!)}
            >
              {other.name}
            </Press>
          ))}
          <Press look="quiet" onClick={() => setChosen("new")}>
            Add a location
          </Press>
        </Row>
      )}
      <LocationForm
        key={one?.id ?? "new"}
        location={one}
        others={locations.data.filter((other) => other.id !== one?.id)}
        onMade={setChosen}
      />
      {one && <Closures key={`closures-${one.id}`} location={one} all={locations.data} />}
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
  const { draft, base, set, keep } = useDraft(location ?? blank);
  const save = useChange(
    (wanted: Location, headers) =>
      location
        ? send<Location>("PUT", `/setup/locations/${location.id}`, wanted, { ...headers, ...ifMatch(base.version) })
        : send<Location>("POST", "/setup/locations", wanted, headers),
    (made) => {
      keep(made);
      onMade(made.id!);
    },
  );
  const travel = useChange((minutes: { locationId: string; minutes: number }[], headers) =>
    send<Location>("PUT", `/setup/locations/${location?.id}/travel`, minutes, headers),
  );
  const { errors } = save;
  const hours = draft.opening ?? [];
  return (
    <>
      <Section title={location?.name ?? "Where clients come"}>
        <Columns least={230}>
          <TextField
            label="Name of the place"
            value={draft.name ?? ""}
            autoFocus={!location}
            error={errors["name"]}
            onChange={(e) => set({ name: e.target.value })}
          />
          <TextField
            label="Address"
            value={draft.address ?? ""}
            error={errors["address"]}
            onChange={(e) => set({ address: e.target.value })}
          />
          <TextField
            label="Telephone"
            value={draft.phone ?? ""}
            error={errors["phone"]}
            onChange={(e) => set({ phone: e.target.value })}
          />
          <SelectField
            label="Time zone"
            value={draft.zone ?? ""}
            error={errors["zone"]}
            onChange={(e) => set({ zone: e.target.value })}
          >
            {[...new Set([draft.zone ?? "", ...zones()])].map((zone) => (
              <option key={zone}>{zone}</option>
            ))}
          </SelectField>
        </Columns>
      </Section>
      <Section
        title="Opening hours"
        hint="When clients may be there. They bound what clients book, never when people work."
      >
        {weekdays.map(([weekday, name]) => {
          const own = hours.map((one, index) => ({ ...one, index })).filter((one) => one.weekday === weekday);
          const change = (index: number, value: object) =>
            set({ opening: hours.map((one, i) => (i === index ? { ...one, ...value } : one)) });
          return (
            <Row
              key={weekday}
              alignItems="end"
              borderTopWidth="1px"
              borderColor="line"
              py="6px"
              role="group"
              aria-label={name}
            >
              <Box w="48px" fontWeight="700" pb="8px">
                {name}
              </Box>
              {own.map((one) => (
                <Row key={one.index} alignItems="end" gap="6px">
                  <Box w="132px">
                    <TimeField
                      label="Opens"
                      value={one.from}
                      error={errors[`opening[${one.index}].from`]}
                      onChange={(from) => change(one.index, { from })}
                    />
                  </Box>
                  <Box w="132px">
                    <TimeField
                      label="Closes"
                      value={one.until}
                      error={errors[`opening[${one.index}].until`]}
                      onChange={(until) => change(one.index, { until })}
                    />
                  </Box>
                  <Press
                    size="small"
                    look="quiet"
                    mb="5px"
                    aria-label={`Take out ${name} ${one.from.slice(0, 5)}`}
                    onClick={() => set({ opening: hours.filter((_, i) => i !== one.index) })}
                  >
                    ✕
                  </Press>
                </Row>
              ))}
              {own.length === 0 && (
                <Box color="quiet" pb="8px">
                  closed
                </Box>
              )}
              <Press
                size="small"
                look="quiet"
                mb="5px"
                aria-label={`More hours on ${name}`}
                onClick={() =>
                  set({
                    opening: [
                      ...hours,
                      own.length === 0
                        ? { weekday, from: "09:00:00", until: "17:00:00" }
                        : { weekday, from: "18:00:00", until: "20:00:00" },
                    ],
                  })
                }
              >
                + Hours
              </Press>
            </Row>
          );
        })}
      </Section>
      <Section
        title="Online booking here"
        hint="These hold for every service, unless its category or the service itself says otherwise."
      >
        <Stack>
          <CheckField
            label="Clients can book this location online"
            checked={draft.bookableOnline}
            onChange={(bookableOnline) => set({ bookableOnline })}
          />
          <RulesForm
            place="location"
            rules={draft.online ?? {}}
            locationId={location?.id ?? null}
            errors={errors}
            onChange={(online) => set({ online })}
          />
          <Columns>
            <NumberField
              label="Longest wait between two services (min)"
              step={5}
              value={draft.longestWaitMinutes}
              error={errors["longestWaitMinutes"]}
              onChange={(minutes) => set({ longestWaitMinutes: minutes ?? 0 })}
            />
            <SelectField
              label="Clients who did not come"
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
              <option value="">may book as everyone</option>
              <option value="approve">wait for approval</option>
              <option value="refuse">cannot book online</option>
            </SelectField>
            {draft.noShowLimit && (
              <>
                <NumberField
                  label="after so many times"
                  min={1}
                  value={draft.noShowLimit.times}
                  error={errors["noShowLimit.times"]}
                  onChange={(times) => set({ noShowLimit: { ...draft.noShowLimit!, times: times ?? 1 } })}
                />
                <NumberField
                  label="in so many months"
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
          {location ? "Save" : "Add the location"}
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
      {location && others.length > 0 && (
        <Section
          title="On the way"
          hint="Minutes between locations. Who works at both on one day is kept free for them."
        >
          <Row>
            {others.map((other) => (
              <Box key={other.id} w="220px">
                <NumberField
                  label={`to ${other.name} (min)`}
                  step={5}
                  value={location.travel?.find((one) => one.locationId === other.id)?.minutes ?? 0}
                  error={travel.errors["[0].minutes"]}
                  onChange={(minutes) =>
                    minutes !== null && minutes % 5 === 0 && travel.run([{ locationId: other.id!, minutes }])
                  }
                />
              </Box>
            ))}
          </Row>
          <Outcome change={travel} fields={["[0].minutes"]} />
        </Section>
      )}
    </>
  );
}

function Closures({ location, all }: { location: Location; all: Location[] }) {
  const today = useToday();
  const setup = useDeskSetup();
  const [date, setDate] = useState<string | null>(null);
  const [reason, setReason] = useState("");
  const [kind, setKind] = useState("once");
  const [everywhere, setEverywhere] = useState(false);
  const save = useChange(
    async (wanted: { date: string; reason: string; kind: string }, headers) => {
      for (const one of everywhere ? all : [location])
        await (wanted.kind === "stop"
          ? send(
              "PUT",
              `/setup/locations/${one.id}/stops/${wanted.date}`,
              { date: wanted.date, reason: wanted.reason },
              headers,
            )
          : send(
              "PUT",
              `/setup/locations/${one.id}/closures/${wanted.date}`,
              { date: wanted.date, yearly: wanted.kind === "yearly", reason: wanted.reason },
              headers,
            ));
    },
    () => {
      setDate(null);
      setReason("");
    },
  );
  const remove = useChange((path: string, headers) =>
    send("DELETE", `/setup/locations/${location.id}/${path}`, undefined, headers),
  );
  const ahead = [
    ...(location.closures ?? [])
      .filter((one) => one.yearly || one.date >= today)
      .map((one) => ({
        ...one,
        path: `closures/${one.date}`,
        words: one.yearly ? `every year on ${longDate(one.date).split(" ").slice(1).join(" ")}` : longDate(one.date),
        stop: false,
      })),
    ...(location.stops ?? [])
      .filter((one) => one.date >= today)
      .map((one) => ({ ...one, yearly: false, path: `stops/${one.date}`, words: longDate(one.date), stop: true })),
  ].sort((a, b) => a.date.slice(a.yearly ? 5 : 0).localeCompare(b.date.slice(b.yearly ? 5 : 0)));
  return (
    <Section title="Closed, and stopped for online booking">
      <Row alignItems="end">
        <Box w="190px">
          <SelectField label="What" value={kind} onChange={(e) => setKind(e.target.value)}>
            <option value="once">closed on one day</option>
            <option value="yearly">closed every year</option>
            <option value="stop">no more online that day</option>
          </SelectField>
        </Box>
        <Box w="165px">
          <DateField label="Date" value={date} error={save.errors["date"]} onChange={setDate} />
        </Box>
        <Box w="220px">
          <TextField
            label="Why"
            value={reason}
            error={save.errors["reason"]}
            onChange={(e) => setReason(e.target.value)}
          />
        </Box>
        <Press disabled={!date || save.pending} onClick={() => save.run({ date: date!, reason, kind })}>
          {kind === "stop" ? "Stop it" : "Close"}
        </Press>
        {all.length > 1 && <CheckField label="everywhere" checked={everywhere} onChange={setEverywhere} />}
      </Row>
      <Outcome change={save} fields={["date", "reason"]} />
      <Outcome change={remove} saved="Taken back." />
      <Box mt="10px">
        {ahead.map((one) => (
          <Row key={one.path} borderTopWidth="1px" borderColor="line" py="4px" justifyContent="space-between">
            <Box>
              <b>{one.words}</b> {one.stop ? "no more online" : "closed"}: {one.reason}
            </Box>
            <Press
              size="small"
              look="quiet"
              aria-label={`Take back ${one.reason}`}
              onClick={() => remove.run(one.path)}
            >
              Take back
            </Press>
          </Row>
        ))}
        {ahead.length === 0 && <Box color="quiet">Nothing ahead.</Box>}
      </Box>
      <Holidays key={setup.locale} location={location} all={all} />
    </Section>
  );
}
