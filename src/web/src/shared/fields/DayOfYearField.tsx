import { t } from "@lingui/core/macro";
import { locale } from "../format";
import { useToday } from "../today";
import { readDate } from "./dateText";
import { TypedField, type FieldProps } from "./TypedField";

type Props = FieldProps & { value: string | null; onChange: (value: string | null) => void };

/** A day that comes every year, kept as "09-14" and typed as "14 Sep". */
export function DayOfYearField({ value, onChange, ...rest }: Props) {
  const today = useToday();
  const write = (day: string) =>
    new Intl.DateTimeFormat(locale(), { day: "numeric", month: "long", timeZone: "UTC" }).format(
      new Date(`2000-${day}T12:00:00Z`),
    );
  return (
    <TypedField
      {...rest}
      value={value || null}
      write={write}
      read={(text) => readDate(text, today, locale())?.slice(5) ?? null}
      complaint={t`Write a day and a month, like 14 Sep.`}
      onChange={onChange}
      onEmpty={() => onChange(null)}
    />
  );
}
