import { t } from "@lingui/core/macro";
import { timeWords } from "../format";
import { minuteOf, readTime, timeAt } from "./clockText";
import { TypedField, type FieldProps } from "./TypedField";

type Props = FieldProps & { value: string; onChange: (value: string) => void; onEmpty?: () => void };

/** A time of the wall clock, typed as "815" or "8:15"; arrows move it by five minutes, with Shift by an hour. */
export const TimeField = ({ value, onChange, ...rest }: Props) => (
  <TypedField
    {...rest}
    inputMode="numeric"
    value={value || null}
    write={timeWords}
    read={readTime}
    complaint={t`Write a time, like 8:15.`}
    onChange={onChange}
    step={(time, by, large) => timeAt(minuteOf(time ?? "00:00:00") + by * (large ? 60 : 5))}
  />
);
