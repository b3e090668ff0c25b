import { useState, type KeyboardEvent, type ReactNode } from "react";
import { Box } from "../layout";
import { TextField } from "../Field";

export type FieldProps = {
  label: string;
  error?: string | undefined;
  hint?: string | undefined;
  disabled?: boolean | undefined;
};

type Props<T> = FieldProps & {
  value: T | null | undefined;
  /** How the value reads. */
  write: (value: T) => string;
  /** What was typed, or null when it cannot be read. */
  read: (text: string) => T | null;
  /** Said where what was typed cannot be read. */
  complaint: string;
  onChange: (value: T) => void;
  /** What was typed and cannot be read, for whoever has it refused where the whole is sent. */
  onUnread?: ((text: string) => void) | undefined;
  /** Emptying the field takes the value out; without it the field goes back to what it was. */
  onEmpty?: (() => void) | undefined;
  /** The value so many steps further, by the arrow keys; with Shift a larger one. */
  step?: ((value: T | null | undefined, by: 1 | -1, large: boolean) => T) | undefined;
  placeholder?: string | undefined;
  inputMode?: "text" | "numeric" | "decimal";
  /** What stands at the end of the field, such as a unit or a button. */
  end?: ReactNode;
};

/** A field into which something is typed in any way people write it; it is read on leaving it, and on Enter before a form is sent. */
export function TypedField<T>({
  value,
  write,
  read,
  complaint,
  onChange,
  onEmpty,
  onUnread,
  step,
  end,
  error,
  inputMode = "text",
  ...rest
}: Props<T>) {
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState(false);
  const settle = () => {
    if (typed === null) return;
    const found = read(typed);
    if (typed.trim() === "") onEmpty?.();
    else if (found !== null) onChange(found);
    else onUnread?.(typed);
    const readable = found !== null || typed.trim() === "";
    setWrong(!readable);
    if (readable) setTyped(null);
  };
  const press = (event: KeyboardEvent) => {
    if (event.key === "Enter") settle();
    const by = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
    if (!step || by === 0 || event.altKey) return;
    event.preventDefault();
    const from = typed === null ? value : (read(typed) ?? value);
    setTyped(null);
    setWrong(false);
    onChange(step(from, by, event.shiftKey));
  };
  return (
    <Box position="relative">
      <TextField
        {...rest}
        autoComplete="off"
        inputMode={inputMode}
        value={typed ?? (value == null ? "" : write(value))}
        error={wrong ? complaint : error}
        pr={end ? "10" : undefined}
        onFocus={(event) => event.currentTarget.select()}
        onChange={(event) => {
          setTyped(event.target.value);
          setWrong(false);
        }}
        onBlur={settle}
        onKeyDown={press}
      />
      {end}
    </Box>
  );
}
