import { chakra } from "@chakra-ui/react";
import { useId, type ReactNode } from "react";

const Box = chakra("div");
const Check = chakra("input", { base: { flexShrink: 0, accentColor: "water" } });
const Label = chakra("label");

type Props = {
  label: ReactNode;
  checked: boolean;
  onChange: (on: boolean) => void;
  hint?: string | undefined;
  error?: string | undefined;
  disabled?: boolean;
  /** For a finger. */
  big?: boolean;
};

/** A switch with what it means beside it. */
export function CheckField({ label, checked, onChange, hint, error, disabled, big }: Props) {
  const id = useId();
  const notes = [hint && `${id}-hint`, error && `${id}-error`].filter(Boolean).join(" ");
  return (
    <Box>
      <Box display="flex" alignItems="center" gap={big ? "2.5" : "2"} minH="7">
        <Check
          id={id}
          type="checkbox"
          checked={checked}
          disabled={disabled}
          aria-invalid={error !== undefined}
          aria-describedby={notes || undefined}
          onChange={(event) => onChange(event.target.checked)}
          w={big ? "5" : "4"}
          h={big ? "5" : "4"}
        />
        <Label htmlFor={id}>{label}</Label>
      </Box>
      {hint && (
        <Box id={`${id}-hint`} fontSize="small" color="quiet" pl={big ? "7" : "6"}>
          {hint}
        </Box>
      )}
      {error && (
        <Box id={`${id}-error`} role="alert" fontSize="small" color="clay" pl={big ? "7" : "6"}>
          {error}
        </Box>
      )}
    </Box>
  );
}
