import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { ifMatch, read, send, type Business, type Qualification, type Service } from "../../api/setup";
import { Outcome, useChange } from "../../shared/change";
import { useDraft } from "../../shared/draft";
import { AreaField, SelectField, TextField } from "../../shared/Field";
import {
  CheckField,
  ChoiceField,
  MoneyField,
  NumberField,
  PictureField,
  TimeField,
  weekdays,
  WordsField,
} from "../../shared/inputs";
import { Box, Columns, Row, Section, Stack } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { useDeskSetup } from "../../shared/today";
import { useEquipment, useFeatures } from "../rooms/RoomsPage";
import { RulesForm } from "../setup/RulesForm";
import { useLocations, usePractitioners, useReadiness } from "../team/team";
import { useServices } from "../team/ServicesTab";
import { PhaseStrip } from "./PhaseStrip";
import { useCategories } from "./ServicesPage";
import { TryStrip } from "./TryStrip";
import { clientKinds, priceForms, visibilities } from "./words";

type Props = { service: Service; isNew: boolean; onMade: (id: string) => void };

/** Everything about one service, with its real starts under it while it is being changed. */
export function ServiceEditor({ service, isNew, onMade }: Props) {
  const { draft, base, dirty, set, undo, keep } = useDraft(service);
  const [phase, setPhase] = useState(0);
  const setup = useDeskSetup();
  const categories = useCategories();
  const locations = useLocations();
  const pools = useEquipment();
  const readiness = useReadiness();
  const business = useQuery({ queryKey: ["business"], queryFn: () => read<Business>("/setup/business") });
  const save = useChange(
    (wanted: Service, headers) =>
      isNew
        ? send<Service>("POST", "/setup/services", wanted, headers)
        : send<Service>("PUT", `/setup/services/${service.id}`, wanted, { ...headers, ...ifMatch(base.version) }),
    (made) => {
      keep(made);
      onMade(made.id!);
    },
  );
  const copy = useChange(
    (_: null, headers) => send<Service>("POST", `/setup/services/${service.id}/copy`, {}, headers),
    (made) => onMade(made.id!),
  );
  const { errors } = save;
  const issues = isNew ? [] : (readiness.data?.issues.filter((one) => one.serviceId === service.id) ?? []);
  return (
    <Box minW="0">
      <Stack gap="12px" pb="12px">
        <Section
          title={isNew ? "A new service" : (service.name ?? "")}
          actions={
            !isNew && (
              <Row gap="6px">
                <Link to={`/why-not?service=${service.id}`}>
                  <Box as="span" textDecoration="underline">
                    Why not?
                  </Box>
                </Link>
                <Press size="small" onClick={() => copy.run(null)}>
                  Make another like it
                </Press>
                <Press size="small" onClick={() => save.run({ ...draft, isArchived: !draft.isArchived })}>
                  {draft.isArchived ? "Do it again" : "Archive"}
                </Press>
              </Row>
            )
          }
        >
          {issues.map((issue) => (
            <Box key={issue.text} bg="glow" borderRadius="card" p="8px 10px" mb="8px">
              <b>{issue.stops ? "Cannot be booked." : "Soon not bookable."}</b> {issue.text}
            </Box>
          ))}
          <Columns least={200}>
            <TextField
              label="Name"
              value={draft.name ?? ""}
              autoFocus={isNew}
              error={errors["name"]}
              onChange={(e) => set({ name: e.target.value })}
            />
            <SelectField
              label="Category"
              value={draft.categoryId}
              error={errors["categoryId"]}
              onChange={(e) => set({ categoryId: e.target.value })}
            >
              {categories.data?.map((one) => (
                <option key={one.id} value={one.id!}>
                  {one.name}
                </option>
              ))}
            </SelectField>
            <SelectField
              label="For"
              value={draft.kind}
              onChange={(e) => set({ kind: e.target.value as Service["kind"] })}
            >
              <option value="oneToOne">one client at a time</option>
              <option value="group">a group with seats</option>
            </SelectField>
            {draft.kind === "group" && (
              <NumberField
                label="Seats"
                min={1}
                value={draft.seats}
                error={errors["seats"]}
                onChange={(seats) => set({ seats: seats ?? 1 })}
              />
            )}
            {(locations.data?.length ?? 0) > 1 && (
              <ChoiceField
                label="Where (none chosen: everywhere)"
                options={locations.data!.map((one) => [one.id!, one.name ?? ""] as const)}
                chosen={draft.locationIds ?? []}
                onChange={(locationIds) => set({ locationIds })}
              />
            )}
          </Columns>
        </Section>
        <Section title="Length, in phases">
          <PhaseStrip
            service={draft}
            pools={pools.data ?? []}
            errors={errors}
            chosen={phase}
            onChoose={setPhase}
            onChange={(phases) => set({ phases })}
          />
          <Row mt="10px" alignItems="end">
            <Box w="140px">
              <NumberField
                label="Buffer before (min)"
                step={5}
                value={draft.bufferBeforeMinutes}
                error={errors["bufferBeforeMinutes"]}
                onChange={(minutes) => set({ bufferBeforeMinutes: minutes ?? 0 })}
              />
            </Box>
            <Box w="140px">
              <NumberField
                label="Buffer after (min)"
                step={5}
                value={draft.bufferAfterMinutes}
                error={errors["bufferAfterMinutes"]}
                onChange={(minutes) => set({ bufferAfterMinutes: minutes ?? 0 })}
              />
            </Box>
            <CheckField
              label="Keep buffers between two services of one visit too"
              checked={draft.bufferAlways}
              onChange={(bufferAlways) => set({ bufferAlways })}
            />
          </Row>
        </Section>
        <WhoAndWhere draft={draft} set={set} errors={errors} />
        <Section title="Price">
          <Columns>
            <SelectField
              label="Form"
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
                label={
                  draft.priceForm === "hourly"
                    ? "Price of an hour"
                    : draft.priceForm === "from"
                      ? "Price from"
                      : "Price"
                }
                currency={setup.currency}
                value={draft.price}
                error={errors["price"]}
                onChange={(price) => set({ price: price ?? 0 })}
              />
            )}
            {(business.data?.taxRates?.length ?? 0) > 0 && (
              <SelectField
                label="Tax rate"
                value={draft.taxRateId ?? ""}
                error={errors["taxRateId"]}
                onChange={(e) => set({ taxRateId: e.target.value || null })}
              >
                <option value="">none</option>
                {business.data!.taxRates!.map((one) => (
                  <option key={one.id} value={one.id!}>
                    {one.name}
                  </option>
                ))}
              </SelectField>
            )}
          </Columns>
          <Box fontSize="14px" color="quiet" mt="8px">
            Own prices and lengths are set with each practitioner, under Services.
          </Box>
        </Section>
        <Online draft={draft} set={set} errors={errors} isNew={isNew} />
      </Stack>
      <Box
        position="sticky"
        bottom="-18px"
        bg="paper"
        pt="6px"
        pb="22px"
        mb="-18px"
        borderTopWidth="2px"
        borderColor="line"
        zIndex={5}
      >
        <TryStrip service={draft} />
        <Row mt="6px">
          <Press look="primary" disabled={save.pending || (!dirty && !isNew)} onClick={() => save.run(draft)}>
            {isNew ? "Add the service" : "Save"}
          </Press>
          {dirty && !isNew && <Press onClick={undo}>Undo my changes</Press>}
          <Outcome
            change={save}
            fields={[
              "name",
              "categoryId",
              "seats",
              "phases",
              "price",
              "taxRateId",
              "bufferBeforeMinutes",
              "bufferAfterMinutes",
            ]}
          />
          <Outcome change={copy} saved="" />
        </Row>
      </Box>
    </Box>
  );
}

type Part = { draft: Service; set: (change: Partial<Service>) => void; errors: Record<string, string> };

function WhoAndWhere({ draft, set, errors }: Part) {
  const qualifications = useQuery({
    queryKey: ["qualifications"],
    queryFn: () => read<Qualification[]>("/setup/qualifications"),
  });
  const people = usePractitioners();
  const features = useFeatures();
  const roles = draft.roles ?? [];
  const setRole = (i: number, change: Partial<(typeof roles)[number]>) =>
    set({ roles: roles.map((one, j) => (j === i ? { ...one, ...change } : one)) });
  const names = (people.data ?? []).filter((one) => !one.retired).map((one) => [one.id!, one.name ?? ""] as const);
  return (
    <Section title="Who and where">
      <Stack>
        {roles.map((role, i) => (
          <Stack key={i} gap="8px" borderLeftWidth="3px" borderColor="line" pl="12px">
            {roles.length > 1 && (
              <Row alignItems="end">
                <Box w="220px">
                  <TextField
                    label={`Role ${i + 1}`}
                    value={role.name ?? ""}
                    error={errors[`roles[${i}].name`]}
                    onChange={(e) => setRole(i, { name: e.target.value })}
                  />
                </Box>
                <Press
                  size="small"
                  look="quiet"
                  onClick={() =>
                    set({
                      roles: roles.filter((_, j) => j !== i),
                      phases: (draft.phases ?? []).map((one) => ({
                        ...one,
                        attendedBy: (one.attendedBy ?? [])
                          .filter((other) => other !== i)
                          .map((other) => (other > i ? other - 1 : other)),
                      })),
                    })
                  }
                >
                  Remove this role
                </Press>
              </Row>
            )}
            <ChoiceField
              label="Whoever holds all of"
              options={(qualifications.data ?? []).map((one) => [one.id!, one.name ?? ""] as const)}
              chosen={role.qualifications ?? []}
              error={errors[`roles[${i}].qualifications`]}
              onChange={(chosen) => setRole(i, { qualifications: chosen })}
            />
            <ChoiceField
              label="Added by hand"
              options={names}
              chosen={role.added ?? []}
              error={errors[`roles[${i}].added`]}
              onChange={(added) =>
                setRole(i, { added, excluded: (role.excluded ?? []).filter((id) => !added.includes(id)) })
              }
            />
            {(role.qualifications ?? []).length > 0 && (
              <ChoiceField
                label="Excluded by hand"
                options={names}
                chosen={role.excluded ?? []}
                onChange={(excluded) =>
                  setRole(i, { excluded, added: (role.added ?? []).filter((id) => !excluded.includes(id)) })
                }
              />
            )}
          </Stack>
        ))}
        <Row>
          {roles.length < 4 && (
            <Press
              size="small"
              onClick={() =>
                set({
                  roles: [
                    ...roles.map((one, i) =>
                      roles.length === 1 && i === 0 && one.name === "Practitioner" ? { ...one, name: "First" } : one,
                    ),
                    { name: "Second", qualifications: [], added: [], excluded: [] },
                  ],
                  phases: (draft.phases ?? []).map((one) =>
                    (one.attendedBy ?? []).length > 0
                      ? { ...one, attendedBy: [...one.attendedBy!, roles.length] }
                      : one,
                  ),
                })
              }
            >
              It takes another person
            </Press>
          )}
        </Row>
        <CheckField
          label="It needs a room"
          checked={draft.room !== null && draft.room !== undefined}
          onChange={(on) => set({ room: on ? { features: [], units: 1 } : null })}
          hint="A video or home visit needs none."
        />
        {draft.room && (
          <Row alignItems="start">
            <Box flex="1" minW="260px">
              <WordsField
                label="A room with all of"
                words={draft.room.features ?? []}
                offered={features.data ?? []}
                error={errors["room.features"]}
                onChange={(words) => set({ room: { ...draft.room!, features: words } })}
              />
            </Box>
            <Box w="170px">
              <NumberField
                label="Units of the room"
                min={1}
                value={draft.room.units}
                error={errors["room.units"]}
                hint="2 for a duo suite"
                onChange={(units) => set({ room: { ...draft.room!, units: units ?? 1 } })}
              />
            </Box>
          </Row>
        )}
      </Stack>
    </Section>
  );
}

function Online({ draft, set, errors, isNew }: Part & { isNew: boolean }) {
  const services = useServices();
  const people = usePractitioners();
  const locations = useLocations();
  const before = draft.prerequisite;
  const link = `${window.location.origin}/book?with=${draft.link}`;
  const times = draft.setTimes ?? [];
  return (
    <Section title="Online">
      <Stack>
        <Columns>
          <SelectField
            label="Who sees it"
            value={draft.visibility}
            onChange={(e) => set({ visibility: e.target.value as Service["visibility"] })}
          >
            {Object.entries(visibilities).map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </SelectField>
          <SelectField
            label="Who may book it"
            value={draft.for}
            onChange={(e) => set({ for: e.target.value as Service["for"] })}
          >
            {Object.entries(clientKinds).map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </SelectField>
          <TextField
            label="Name clients read"
            placeholder={draft.name ?? ""}
            value={draft.onlineName ?? ""}
            error={errors["onlineName"]}
            onChange={(e) => set({ onlineName: e.target.value || null })}
          />
          <NumberField
            label="Minutes clients read"
            placeholder="as it is"
            value={draft.onlineMinutes}
            error={errors["onlineMinutes"]}
            onChange={(onlineMinutes) => set({ onlineMinutes })}
          />
          <NumberField
            label="Come back after (days)"
            placeholder="no advice"
            value={draft.returnDays}
            error={errors["returnDays"]}
            onChange={(returnDays) => set({ returnDays })}
          />
          <PictureField label="Picture" id={draft.pictureId} onChange={(pictureId) => set({ pictureId })} />
        </Columns>
        {!isNew && draft.visibility !== "hidden" && (
          <Box fontSize="14px">
            Direct link:{" "}
            <a
              href={link}
              target="_blank"
              rel="noreferrer"
              style={{ textDecoration: "underline", overflowWrap: "anywhere" }}
            >
              {link}
            </a>
          </Box>
        )}
        <AreaField
          label="Text for clients (Markdown)"
          rows={3}
          value={draft.description ?? ""}
          error={errors["description"]}
          onChange={(e) => set({ description: e.target.value })}
        />
        <ChoiceField
          label="Weekdays (none chosen: every day)"
          options={weekdays}
          chosen={draft.weekdays ?? []}
          onChange={(chosen) => set({ weekdays: chosen })}
        />
        <Row alignItems="end">
          <Box w="180px">
            <TextField
              label="Season from (MM-DD)"
              placeholder="all year"
              value={draft.season?.from ?? ""}
              error={errors["season.from"]}
              onChange={(e) =>
                set({
                  season:
                    e.target.value || draft.season?.until
                      ? { from: e.target.value, until: draft.season?.until ?? "" }
                      : null,
                })
              }
            />
          </Box>
          <Box w="180px">
            <TextField
              label="until (MM-DD)"
              value={draft.season?.until ?? ""}
              onChange={(e) =>
                set({
                  season:
                    e.target.value || draft.season?.from
                      ? { from: draft.season?.from ?? "", until: e.target.value }
                      : null,
                })
              }
            />
          </Box>
        </Row>
        <Row alignItems="end">
          <Box w="260px">
            <SelectField
              label="What has to come before"
              value={before?.serviceId ?? ""}
              error={errors["prerequisite.serviceId"]}
              onChange={(e) =>
                set({
                  prerequisite: e.target.value
                    ? {
                        serviceId: e.target.value,
                        atLeastHours: before?.atLeastHours ?? 48,
                        atMostDays: before?.atMostDays ?? 180,
                      }
                    : null,
                })
              }
            >
              <option value="">nothing</option>
              {services.data
                ?.filter((one) => one.id !== draft.id && !one.isArchived)
                .map((one) => (
                  <option key={one.id} value={one.id!}>
                    {one.name}
                  </option>
                ))}
            </SelectField>
          </Box>
          {before && (
            <>
              <Box w="150px">
                <NumberField
                  label="At least hours"
                  value={before.atLeastHours}
                  error={errors["prerequisite.atLeastHours"]}
                  onChange={(hours) => set({ prerequisite: { ...before, atLeastHours: hours ?? 0 } })}
                />
              </Box>
              <Box w="150px">
                <NumberField
                  label="At most days"
                  value={before.atMostDays}
                  error={errors["prerequisite.atMostDays"]}
                  onChange={(days) => set({ prerequisite: { ...before, atMostDays: days ?? 0 } })}
                />
              </Box>
            </>
          )}
        </Row>
        <Box as="h3" fontSize="15px">
          Rules of online booking
        </Box>
        <RulesForm
          place="service"
          rules={draft.online ?? {}}
          locationId={(draft.locationIds ?? [])[0] ?? locations.data?.[0]?.id ?? null}
          categoryId={draft.categoryId}
          serviceId={isNew ? null : draft.id!}
          errors={errors}
          onChange={(online) => set({ online })}
        />
        {draft.online?.grid === "setTimes" && (
          <Stack gap="8px">
            {times.map((time, i) => (
              <Row key={i} alignItems="end">
                <Box w="130px">
                  <SelectField
                    label="Day"
                    value={time.weekday}
                    onChange={(e) =>
                      set({
                        setTimes: times.map((one, j) =>
                          j === i ? { ...one, weekday: e.target.value as typeof time.weekday } : one,
                        ),
                      })
                    }
                  >
                    {weekdays.map(([day, name]) => (
                      <option key={day} value={day}>
                        {name}
                      </option>
                    ))}
                  </SelectField>
                </Box>
                <Box w="132px">
                  <TimeField
                    label="At"
                    value={time.at}
                    error={errors[`setTimes[${i}].at`]}
                    onChange={(at) => set({ setTimes: times.map((one, j) => (j === i ? { ...one, at } : one)) })}
                  />
                </Box>
                <Box w="190px">
                  <SelectField
                    label="With"
                    value={time.practitionerId ?? ""}
                    onChange={(e) =>
                      set({
                        setTimes: times.map((one, j) =>
                          j === i ? { ...one, practitionerId: e.target.value || null } : one,
                        ),
                      })
                    }
                  >
                    <option value="">everyone</option>
                    {people.data?.map((one) => (
                      <option key={one.id} value={one.id!}>
                        {one.name}
                      </option>
                    ))}
                  </SelectField>
                </Box>
                <Press
                  size="small"
                  look="quiet"
                  mb="5px"
                  onClick={() => set({ setTimes: times.filter((_, j) => j !== i) })}
                >
                  Remove
                </Press>
              </Row>
            ))}
            <Row>
              <Press
                size="small"
                onClick={() =>
                  set({ setTimes: [...times, { practitionerId: null, weekday: "monday", at: "10:00:00" }] })
                }
              >
                Add a set time
              </Press>
            </Row>
          </Stack>
        )}
      </Stack>
    </Section>
  );
}
