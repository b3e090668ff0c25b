import { Plain } from "./Plain";
import { useRecipe } from "@chakra-ui/react";
import { useState, type ComponentProps } from "react";

type Look = "primary" | "plain" | "quiet" | "danger";
type Size = "small" | "normal" | "big";

/**
 * A button in one of Kingcup's four looks. One that has the focus keeps it when it can no longer be pressed: whoever works
 * from the keyboard goes on from there.
 */
export function Press({
  look,
  size,
  disabled = false,
  onClick,
  onFocus,
  onBlur,
  ...rest
}: ComponentProps<typeof Plain> & { look?: Look; size?: Size }) {
  const recipe = useRecipe({ key: "button" });
  const styles = recipe({ ...(look && { look }), ...(size && { size }) } as object);
  const [isHeld, setHeld] = useState(false);
  return (
    <Plain
      type="button"
      css={styles}
      {...rest}
      disabled={disabled && !isHeld}
      aria-disabled={disabled || undefined}
      onFocus={(event) => {
        setHeld(true);
        onFocus?.(event);
      }}
      onBlur={(event) => {
        setHeld(false);
        onBlur?.(event);
      }}
      onClick={(event) => {
        if (disabled) event.preventDefault();
        else onClick?.(event);
      }}
    />
  );
}
