import { useSlotRecipe } from "@chakra-ui/react";
import { type ReactNode } from "react";
import { Plain } from "../../../shared/Plain";
import { After } from "../../../shared/sentence/After";
import { sentence } from "../../../theme/recipes/sentence";

/** An underlined part of the sentence that opens its choices. */
export function Blank({
  open,
  disabled,
  onClick,
  children,
}: {
  open: boolean;
  disabled?: boolean;
  onClick: () => void;
  children: ReactNode;
}) {
  const styles = useSlotRecipe({ recipe: sentence })();
  return (
    <>
      <Plain aria-expanded={open} disabled={disabled} onClick={onClick} css={styles["blank"]}>
        {children}
      </Plain>
      {!open && <After />}
    </>
  );
}

/** One choice below the sentence. */
export function Choice({
  on,
  disabled,
  onClick,
  children,
}: {
  on: boolean;
  disabled?: boolean;
  onClick: () => void;
  children: ReactNode;
}) {
  return (
    <Plain
      aria-pressed={on}
      disabled={disabled}
      onClick={onClick}
      display="grid"
      gap="0.5"
      textAlign="left"
      w="100%"
      px="3.5"
      py="2.5"
      bg={on ? "glow" : "sheet"}
      borderWidth="line"
      borderColor={on ? "focus" : "line"}
      borderRadius="card"
      cursor={disabled ? "default" : "pointer"}
      _hover={disabled ? undefined : { borderColor: "water" }}
    >
      {children}
    </Plain>
  );
}
