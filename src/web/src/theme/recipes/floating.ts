import { defineRecipe } from "@chakra-ui/react";

/** What opens over a page for a moment: choices, a month. */
export const floating = defineRecipe({
  base: {
    bg: "sheet",
    color: "ink",
    borderWidth: "1px",
    borderColor: "edge",
    borderRadius: "card",
    boxShadow: "floating",
    p: "8px",
    zIndex: 60,
    maxH: "min(420px, 80vh)",
    maxW: "calc(100vw - 16px)",
    overflowY: "auto",
    outline: "none",
  },
});
