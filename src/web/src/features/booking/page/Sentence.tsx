import { type ReactNode } from "react";
import { Plain } from "../../../shared/Plain";

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
  return (
    <Plain
      aria-expanded={open}
      disabled={disabled}
      onClick={onClick}
      fontWeight="700"
      textAlign="left"
      cursor="pointer"
      borderBottomWidth="3px"
      borderColor="kingcup"
      bg={open ? "kingcup" : "transparent"}
      color={open ? "onKingcup" : "inherit"}
      borderRadius={open ? "card" : undefined}
      px={open ? "7px" : "0"}
      lineHeight="1.35"
      _focusVisible={{ outline: "3px solid #FFFFFF", outlineOffset: "2px" }}
    >
      {children}
    </Plain>
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
      gap="2px"
      textAlign="left"
      w="100%"
      px="14px"
      py="10px"
      bg={on ? "glow" : "sheet"}
      borderWidth="1px"
      borderColor={on ? "focus" : "line"}
      borderRadius="card"
      cursor={disabled ? "default" : "pointer"}
      _hover={disabled ? undefined : { borderColor: "water" }}
    >
      {children}
    </Plain>
  );
}
