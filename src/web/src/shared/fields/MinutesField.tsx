import { t } from "@lingui/core/macro";
import { readMinutes } from "./clockText";
import { TypedField, type FieldProps } from "./TypedField";

type Props = FieldProps & {
  value: number | null | undefined;
  onChange: (value: number | null) => void;
  least?: number;
  /** By how much the arrows move it. */
  by?: number;
  placeholder?: string;
};

/** A length in minutes, typed as "90" or "1:30"; arrows move it. */
export const MinutesField = ({ value, onChange, least = 0, by = 5, ...rest }: Props) => (
  <TypedField
    {...rest}
    value={value}
    write={String}
    read={readMinutes}
    complaint={t`Write minutes, like 90 or 1:30.`}
    onChange={onChange}
    onEmpty={() => onChange(null)}
    step={(minutes, way, large) => Math.max(least, (minutes ?? least) + way * by * (large ? 3 : 1))}
  />
);
