import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { DeskSetup } from "../../api/staff";
import { SelectField } from "../../shared/Field";

type Props = {
  setup: DeskSetup;
  serviceId: string | undefined;
  value: string;
  onChange: (practitionerId: string) => void;
};

/** Whoever may do the service, or no preference. */
export function PractitionerField({ setup, serviceId, value, onChange }: Props) {
  const service = setup.services.find((other) => other.id === serviceId);
  return (
    <SelectField label={t`Practitioner`} value={value} onChange={(e) => onChange(e.target.value)}>
      <option value="">
        <Trans>No preference</Trans>
      </option>
      {setup.practitioners
        .filter((practitioner) => (service ? service.practitionerIds.includes(practitioner.id) : !practitioner.hasLeft))
        .map((practitioner) => (
          <option key={practitioner.id} value={practitioner.id}>
            {practitioner.name}
          </option>
        ))}
    </SelectField>
  );
}
