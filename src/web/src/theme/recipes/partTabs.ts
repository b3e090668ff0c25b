import { defineSlotRecipe } from "@chakra-ui/react";

/** Named parts of one thing, under a line. */
export const partTabs = defineSlotRecipe({
  slots: ["list", "tab", "panel"],
  base: {
    list: { display: "flex", flexWrap: "wrap", gap: "4px", borderBottomWidth: "1px", borderColor: "line" },
    tab: {
      px: "12px",
      py: "7px",
      mb: "-1px",
      cursor: "pointer",
      borderBottomWidth: "3px",
      borderColor: "transparent",
      color: "quiet",
      "&[aria-selected=true]": { borderColor: "kingcup", color: "ink", fontWeight: "700" },
    },
    panel: { pt: "14px" },
  },
});
