import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { asks } from "../../../api/queries";
import type { DeskSetup } from "../../../api/staff";
import { SelectField } from "../../../shared/Field";
import { MinutesField } from "../../../shared/fields/MinutesField";
import { money } from "../../../shared/format";
import { ChoiceField } from "../../../shared/inputs";
import { Stack } from "../../../shared/layout";
import { lengthWords } from "../../../shared/lengthWords";
import { Press } from "../../../shared/Press";
import { PractitionerField } from "../PractitionerField";
import type { LineDraft } from "./lineDrafts";

type Props = {
  setup: DeskSetup;
  locationId: string;
  date: string;
  by: string | null;
  line: LineDraft;
  /** Whom it may be for, the client first. */
  people: string[];
  errors: Record<string, string>;
  /** Which of the lines that are asked about it is, -1 for none of them. */
  place: number;
  onChange: (change: Partial<LineDraft>) => void;
};

/** One line: what, with what, by whom; and where and how long where somebody wants to say so. */
export function LineForm({ setup, locationId, date, by, line, people, errors, place, onChange }: Props) {
  const [isOpen, setOpen] = useState(line.roomId !== "" || line.minutes !== null);
  const services = useMemo(
    () =>
      setup.services.filter(
        (service) =>
          service.locationIds.includes(locationId) &&
          (!by || service.id === line.serviceId || service.practitionerIds.includes(by)),
      ),
    [setup, locationId, by, line.serviceId],
  );
  const service = services.find((other) => other.id === line.serviceId);
  const extras = service?.addOns ?? [];
  const extraMinutes = line.addOnIds.reduce(
    (sum, id) => sum + (extras.find((extra) => extra.id === id)?.minutes ?? 0),
    0,
  );
  return (
    <Stack gap="2">
      <SelectField
        label={t`Service`}
        value={line.serviceId}
        error={errors[`lines[${place}].serviceId`]}
        onChange={(event) => onChange({ serviceId: event.target.value, addOnIds: [], minutes: null, roomId: "" })}
      >
        <option value="">
          <Trans>Choose a service</Trans>
        </option>
        {setup.categories.map((category) => {
          const within = services.filter((other) => other.categoryId === category.id);
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
          chosen={line.addOnIds}
          onChange={(chosen) => onChange({ addOnIds: chosen })}
        />
      )}
      <PractitionerField
        setup={setup}
        serviceId={line.serviceId || undefined}
        value={line.practitionerId}
        onChange={(next) => onChange({ practitionerId: next, asked: true })}
      />
      {people.length > 1 && (
        <SelectField
          label={t`For whom`}
          value={String(line.person)}
          onChange={(event) => onChange({ person: Number(event.target.value) })}
        >
          {people.map((name, person) => (
            <option key={person} value={person}>
              {name}
            </option>
          ))}
        </SelectField>
      )}
      {service && !isOpen && (
        <Press size="small" look="quiet" justifySelf="start" onClick={() => setOpen(true)}>
          <Trans>Choose room and length</Trans>
        </Press>
      )}
      {service && isOpen && (
        <>
          <RoomField
            locationId={locationId}
            date={date}
            value={line.roomId}
            error={errors[`lines[${place}].roomId`]}
            onChange={(roomId) => onChange({ roomId })}
          />
          <MinutesField
            label={t`Length in minutes`}
            value={line.minutes}
            least={5}
            placeholder={t`as the service says`}
            error={errors[`lines[${place}].minutes`]}
            hint={
              line.minutes === null
                ? t`The service says it: usually ${lengthWords(service.minutes + extraMinutes)}.`
                : t`Set by hand: it counts instead of what the service says.`
            }
            onChange={(minutes) => onChange({ minutes })}
          />
        </>
      )}
    </Stack>
  );
}

type RoomProps = {
  locationId: string;
  date: string;
  value: string;
  error: string | undefined;
  onChange: (roomId: string) => void;
};

function RoomField({ locationId, date, value, error, onChange }: RoomProps) {
  const day = useQuery(asks.day(locationId, date));
  return (
    <SelectField label={t`Room`} value={value} error={error} onChange={(event) => onChange(event.target.value)}>
      <option value="">
        <Trans>Whichever fits</Trans>
      </option>
      {day.data?.lanes
        .filter((lane) => lane.kind === "room")
        .map((room) => (
          <option key={room.id} value={room.id}>
            {room.name}
          </option>
        ))}
    </SelectField>
  );
}
