import { keepers } from "../../api/keepers";
import { asks } from "../../api/queries";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { type Service } from "../../api/setup";
import { staff } from "../../api/staff";
import { answerOf } from "../../shared/problem";

import { Outcome, useChange } from "../../shared/change";
import { SelectField, TextField } from "../../shared/Field";
import { CheckField, ChoiceField, MoneyField, NumberField } from "../../shared/inputs";
import { Box, Columns, Row, Section, Stack } from "../../shared/layout";
import { useKept } from "../../shared/kept";
import { Press } from "../../shared/Press";
import { useDeskSetup } from "../../shared/today";
import { useEquipment } from "../rooms/rooms";
import { useLocations, useReadiness } from "../team/team";
import { Online } from "./OnlinePart";
import { PhaseStrip } from "./PhaseStrip";
import { useCategories } from "./ServicesPage";
import { TryStrip } from "./TryStrip";
import { WhoAndWhere } from "./WhoAndWhere";
import { priceForms } from "./words";

type Props = { service: Service; isNew: boolean; onMade: (id: string) => void };

/** Everything about one service, with its real starts under it while it is being changed. */
export function ServiceEditor({ service, isNew, onMade }: Props) {
  const { draft, dirty, set, undo, save } = useKept(service, keepers.service, onMade);
  const [phase, setPhase] = useState(0);
  const setup = useDeskSetup();
  const categories = useCategories();
  const locations = useLocations();
  const pools = useEquipment();
  const readiness = useReadiness();
  const business = useQuery(asks.business());
  const copy = useChange(
    (_: null, headers) =>
      answerOf(staff.POST("/api/v1/setup/services/{id}/copy", { params: { path: { id: service.id! } }, headers })),
    (made) => onMade(made.id!),
  );
  const { errors } = save;
  const issues = isNew ? [] : (readiness.data?.issues.filter((issue) => issue.serviceId === service.id) ?? []);
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
              {categories.data?.map((category) => (
                <option key={category.id} value={category.id!}>
                  {category.name}
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
                options={locations.data!.map((location) => [location.id!, location.name ?? ""] as const)}
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
              label="Whoever does it may look after others meanwhile"
              checked={draft.besideOthers}
              onChange={(besideOthers) => set({ besideOthers })}
            />
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
                {business.data!.taxRates!.map((taxRate) => (
                  <option key={taxRate.id} value={taxRate.id!}>
                    {taxRate.name}
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
