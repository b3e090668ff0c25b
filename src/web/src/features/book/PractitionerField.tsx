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
  const service = setup.services.find((one) => one.id === serviceId);
  return (
    <SelectField label="Practitioner" value={value} onChange={(e) => onChange(e.target.value)}>
      <option value="">No preference</option>
      {setup.practitioners
        .filter((one) => (service ? service.practitionerIds.includes(one.id) : !one.hasLeft))
        .map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
    </SelectField>
  );
}
