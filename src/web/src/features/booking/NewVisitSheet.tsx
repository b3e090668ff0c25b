import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useCallback, useId, useMemo, useState, type FormEvent } from "react";
import type { DeskSetup } from "../../api/staff";
import { AreaField, SelectField } from "../../shared/Field";
import { money } from "../../shared/format";
import { ChoiceField } from "../../shared/inputs";
import { Box } from "../../shared/layout";
import { BookFoot } from "./BookFoot";
import { ClientPart } from "./ClientPart";
import type { Chosen, Fit } from "./fits";
import { PractitionerField } from "./PractitionerField";
import { Sheet } from "./Sheet";
import { StartList } from "./StartList";
import { useBooking } from "./useBooking";
import { blankDraft, useVisitDrafts, visitDrafts, type VisitDraft } from "./visitDrafts";

const Form = chakra("form");

type Props = {
  /** Which of the half-written visits this is. */
  id: string;
  setup: DeskSetup;
  location: DeskSetup["locations"][number];
  date: string;
  at: string | null;
  by: string | null;
  onFits: (fits: Fit[] | null) => void;
  onDay: (date: string) => void;
  onDone: (visitId: string) => void;
  onClient: (clientId: string) => void;
  onClose: () => void;
};

/** Books a visit: who, what, with whom, and one of the starts that really fit. What is written stays when the sheet is closed. */
export function NewVisitSheet(props: Props) {
  const { id, setup, location, date, at, by, onFits, onDay, onDone, onClient, onClose } = props;
  const draft = useVisitDrafts().find((other) => other.id === id) ?? blankDraft(id, location.id);
  const { serviceId, practitionerId, addOnIds } = draft;
  // A start belongs to what was asked and pointed at when it was chosen: where any of it changes, it is void in the same moment.
  const here = [at, by, location.id, serviceId, practitionerId, ...addOnIds].join(" ");
  const [picked, setPicked] = useState<{ here: string; start: Chosen | null }>({ here, start: null });
  const start = picked.here === here ? picked.start : null;
  const setStart = useCallback((next: Chosen | null) => setPicked({ here, start: next }), [here]);
  const set = (change: Partial<VisitDraft>) => visitDrafts.set(id, location.id, { locationId: location.id, ...change });
  const booking = useBooking((visit) => {
    visitDrafts.drop(id);
    onDone(visit.id);
  });
  const { errors, over } = booking;
  const services = useMemo(
    () =>
      setup.services.filter(
        (service) =>
          service.locationIds.includes(location.id) &&
          (!by || service.id === serviceId || service.practitionerIds.includes(by)),
      ),
    [setup, location, by, serviceId],
  );
  const extras = services.find((service) => service.id === serviceId)?.addOns ?? [];
  const question = useMemo(
    () =>
      serviceId
        ? { locationId: location.id, serviceIds: [serviceId], practitionerId: practitionerId || null, addOnIds }
        : null,
    [location, serviceId, practitionerId, addOnIds],
  );
  // What would be gone over has changed: it is read again before it is taken.
  const stands = start !== null && (over === null || start.start !== over.start || start.accept === over.accept);
  const formId = useId();
  const hasClient = draft.client !== null || draft.fresh !== null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!booking.pending && stands && hasClient) booking.run({ draft: { ...draft, locationId: location.id }, start });
  };
  return (
    <Sheet
      title={t`New visit`}
      foot={
        <BookFoot
          form={formId}
          booking={booking}
          start={start}
          canBook={stands && hasClient}
          lacksClient={!hasClient}
          onTake={setStart}
          draft={draft}
          onClose={onClose}
        />
      }
      onClose={onClose}
    >
      <Form id={formId} onSubmit={submit} noValidate display="grid" gap="3">
        <ClientPart draft={draft} errors={errors} onChange={set} onDetails={onClient} />
        <SelectField
          label={t`Service`}
          value={serviceId}
          onChange={(event) => set({ serviceId: event.target.value, addOnIds: [] })}
        >
          <option value="">
            <Trans>Choose a service</Trans>
          </option>
          {setup.categories.map((category) => {
            const within = services.filter((service) => service.categoryId === category.id);
            return (
              within.length > 0 && (
                <optgroup key={category.id} label={category.name}>
                  {within.map((item) => (
                    <option key={item.id} value={item.id}>
                      {item.name} · {money(item.price)}
                    </option>
                  ))}
                </optgroup>
              )
            );
          })}
        </SelectField>
        {extras.length > 0 && (
          <ChoiceField
            label={t`With`}
            options={extras.map((extra) => [extra.id, `${extra.name} · ${money(extra.price)}`] as const)}
            chosen={addOnIds}
            onChange={(chosen) => set({ addOnIds: chosen })}
          />
        )}
        <PractitionerField
          setup={setup}
          serviceId={serviceId}
          value={practitionerId}
          onChange={(next) => set({ practitionerId: next })}
        />
        {question ? (
          <StartList
            question={question}
            date={date}
            zone={location.zone}
            near={at}
            chosen={start}
            onChoose={setStart}
            onFits={onFits}
            onDay={onDay}
          />
        ) : (
          <Box color="quiet">
            <Trans>Choose a service, and the times that fit light up in the book.</Trans>
          </Box>
        )}
        <AreaField
          label={t`Note`}
          value={draft.note}
          maxLength={2000}
          onChange={(event) => set({ note: event.target.value })}
        />
      </Form>
    </Sheet>
  );
}
