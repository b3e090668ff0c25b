import { defineSlotRecipe } from "@chakra-ui/react";

/** A small month to take a date from. */
export const month = defineSlotRecipe({
  slots: ["head", "name", "turn", "table", "weekday", "day"],
  base: {
    head: { display: "flex", alignItems: "center", justifyContent: "space-between", gap: "8px", mb: "4px" },
    name: { fontWeight: "700" },
    turn: {
      minW: "32px",
      minH: "32px",
      borderRadius: "card",
      cursor: "pointer",
      _hover: { bg: "paper" },
      _disabled: { opacity: 0.4 },
    },
    table: { borderCollapse: "collapse" },
    weekday: { fontSize: "small", fontWeight: "400", color: "quiet", p: "4px" },
    day: {
      display: "grid",
      placeItems: "center",
      w: "36px",
      h: "32px",
      borderRadius: "card",
      cursor: "pointer",
      borderWidth: "2px",
      borderColor: "transparent",
      _hover: { bg: "paper" },
      "&[data-today]": { fontWeight: "700", textDecoration: "underline" },
      "&[data-outside-range]": { color: "quiet" },
      "&[data-selected]": { bg: "glow", borderColor: "focus" },
      "&[data-disabled]": { opacity: 0.4, cursor: "not-allowed" },
    },
  },
});
