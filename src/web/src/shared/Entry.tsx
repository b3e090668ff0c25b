import type { ReactNode } from "react";
import { Box } from "./layout";
import { Plain } from "./Plain";

/** An entry of a list beside the form that shows the one that is open. */
export function Entry({
  name,
  isOpen,
  onOpen,
  children,
}: {
  name: ReactNode;
  isOpen: boolean;
  onOpen: () => void;
  /** What is said of it, quietly. */
  children: ReactNode;
}) {
  return (
    <Plain
      display="block"
      w="100%"
      textAlign="left"
      py="1.5"
      px="2"
      cursor="pointer"
      borderRadius="mark"
      bg={isOpen ? "glow" : "transparent"}
      aria-pressed={isOpen}
      onClick={onOpen}
    >
      <Box fontWeight="700">{name}</Box>
      <Box fontSize="small" color="quiet">
        {children}
      </Box>
    </Plain>
  );
}
