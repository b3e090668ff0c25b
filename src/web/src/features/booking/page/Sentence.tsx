import { type ReactNode } from "react";
import { joined } from "../../../shared/joined";
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
    <>
      <Plain
        aria-expanded={open}
        disabled={disabled}
        onClick={onClick}
        fontWeight="700"
        textAlign="left"
        cursor="pointer"
        borderBottomWidth="mark"
        borderColor="kingcup"
        bg={open ? "kingcup" : "transparent"}
        color={open ? "onKingcup" : "inherit"}
        borderRadius={open ? "card" : undefined}
        px={open ? "2" : "0"}
        lineHeight="1.35"
        _focusVisible={{ outlineColor: "onWater" }}
      >
        {children}
      </Plain>
      {joined}
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
