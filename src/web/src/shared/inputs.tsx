import { t } from "@lingui/core/macro";
import { decimalsOf } from "./format";
import { chakra } from "@chakra-ui/react";
import { useState } from "react";
import { type Weekday } from "../api/setup";
import { TextField } from "./Field";
import { Box, Row } from "./layout";
import { Plain } from "./Plain";

const Fieldset = chakra("fieldset");
const Legend = chakra("legend");

/** A whole number, or nothing. */
export function NumberField({
  label,
  value,
  onChange,
  error,
  hint,
  placeholder,
  step = 1,
  min = 0,
}: {
  label: string;
  value: number | null | undefined;
  onChange: (value: number | null) => void;
  error?: string | undefined;
  hint?: string | undefined;
  placeholder?: string;
  step?: number;
  min?: number;
}) {
  // What is typed stands as it is typed, an empty field too, until the field is left.
  const [text, setText] = useState<string | null>(null);
  return (
    <TextField
      label={label}
      type="number"
      inputMode="numeric"
      step={step}
      min={min}
      value={text ?? value ?? ""}
      placeholder={placeholder}
      error={error}
      hint={hint}
      onChange={(e) => {
        setText(e.target.value);
        onChange(e.target.value === "" ? null : Number(e.target.value));
      }}
      onBlur={() => setText(null)}
    />
  );
}

/** Money as people write it; kept in minor units. */
export function MoneyField({
  label,
  value,
  currency,
  onChange,
  error,
  hint,
  placeholder,
  autoFocus,
}: {
  label: string;
  value: number | null | undefined;
  currency: string;
  onChange: (value: number | null) => void;
  error?: string | undefined;
  hint?: string;
  placeholder?: string;
  autoFocus?: boolean;
}) {
  const digits = decimalsOf(currency);
  const write = (minor: number | null | undefined) => (minor == null ? "" : (minor / 10 ** digits).toFixed(digits));
  const [text, setText] = useState<string | null>(null);
  return (
    <TextField
      label={`${label} (${currency})`}
      inputMode="decimal"
      autoFocus={autoFocus}
      value={text ?? write(value)}
      placeholder={placeholder}
      error={error}
      hint={hint}
      onChange={(e) => {
        setText(e.target.value);
        const number = Number(e.target.value.replace(",", "."));
        if (e.target.value.trim() === "") onChange(null);
        else if (Number.isFinite(number)) onChange(Math.round(number * 10 ** digits));
      }}
      onBlur={() => setText(null)}
    />
  );
}

export const weekdays: [Weekday, string][] = [
  ["monday", t`Mon`],
  ["tuesday", t`Tue`],
  ["wednesday", t`Wed`],
  ["thursday", t`Thu`],
  ["friday", t`Fri`],
  ["saturday", t`Sat`],
  ["sunday", t`Sun`],
];

/** One or several of a few. */
export function ChoiceField<T extends string>({
  label,
  options,
  chosen,
  onChange,
  error,
  hint,
}: {
  label: string;
  options: readonly (readonly [T, string])[];
  chosen: readonly T[];
  onChange: (chosen: T[]) => void;
  error?: string | undefined;
  hint?: string;
}) {
  return (
    <Fieldset border="none" p="0">
      <Legend fontWeight="600" fontSize="small" mb="0.5">
        {label}
      </Legend>
      <Row gap="1.5">
        {options.map(([key, name]) => {
          const on = chosen.includes(key);
          return (
            <Plain
              key={key}
              aria-pressed={on}
              cursor="pointer"
              px="2.5"
              minH="8"
              borderWidth="line"
              borderRadius="card"
              borderColor={on ? "water" : "edge"}
              bg={on ? "water" : "sheet"}
              color={on ? "onWater" : "ink"}
              onClick={() => onChange(on ? chosen.filter((t) => t !== key) : [...chosen, key])}
            >
              {name}
            </Plain>
          );
        })}
      </Row>
      {(error ?? hint) && (
        <Box fontSize="small" mt="0.5" color={error ? "clay" : "quiet"} role={error ? "alert" : undefined}>
          {error ?? hint}
        </Box>
      )}
    </Fieldset>
  );
}
