import { t } from "@lingui/core/macro";
import { chakra } from "@chakra-ui/react";
import { Floating } from "../Floating";
import { addDays, locale, shortDate, shortDateWithYear } from "../format";
import { readDate } from "./dateText";
import { Month } from "./Month";
import { TypedField, type FieldProps } from "./TypedField";

const Button = chakra("button", {
  base: {
    position: "absolute",
    insetInlineEnd: "0.5",
    top: "6",
    minW: "8",
    minH: "8",
    borderRadius: "card",
    cursor: "pointer",
    color: "quiet",
  },
});

export type DateProps = FieldProps & {
  value: string | null | undefined;
  onChange: (value: string | null) => void;
  min?: string;
  max?: string;
  /** What was typed and is no date; without it nothing is said of it but at the field. */
  onUnread?: (text: string) => void;
};

/** A date beside today's, typed in the way of the place or taken from a small month; arrows move it by a day, with Shift by a week. */
export function DateEntry({ today, value, onChange, min, max, ...rest }: DateProps & { today: string }) {
  const write = (date: string) => (date.slice(0, 4) === today.slice(0, 4) ? shortDate(date) : shortDateWithYear(date));
  return (
    <TypedField
      {...rest}
      value={value}
      write={write}
      read={(text) => readDate(text, today, locale())}
      complaint={t`Write a date, like 14 Sep or 14/9.`}
      onChange={onChange}
      onEmpty={() => onChange(null)}
      step={(date, by, large) => addDays(date ?? today, by * (large ? 7 : 1))}
      end={
        <Floating
          label={t`${rest.label}: a month`}
          trigger={
            <Button type="button" aria-label={t`${rest.label}: from a month`} disabled={rest.disabled}>
              ▾
            </Button>
          }
        >
          {(close) => (
            <Month
              value={value}
              {...(min ? { min } : {})}
              {...(max ? { max } : {})}
              onChange={(date) => {
                onChange(date);
                close();
              }}
            />
          )}
        </Floating>
      }
    />
  );
}
