import { defineSlotRecipe } from "@chakra-ui/react";

/** Sheets of paper: on the screen one under the other, on the printer one on each page. */
export const sheets = defineSlotRecipe({
  slots: ["page", "sheet", "head", "table"],
  base: {
    page: {
      h: "100%",
      overflowY: "auto",
      px: "24px",
      py: "16px",
      _print: { h: "auto", overflow: "visible", p: "0" },
    },
    sheet: {
      bg: "sheet",
      borderWidth: "1px",
      borderColor: "line",
      borderRadius: "card",
      px: "20px",
      py: "16px",
      mb: "16px",
      maxW: "980px",
      _print: { borderWidth: "0", p: "0", m: "0", maxW: "none", breakAfter: "page", color: "#000", bg: "#fff" },
    },
    head: { display: "flex", justifyContent: "space-between", alignItems: "baseline", mb: "8px", fontSize: "title" },
    table: {
      w: "100%",
      borderCollapse: "collapse",
      "& th, & td": {
        textAlign: "left",
        verticalAlign: "top",
        py: "6px",
        pe: "12px",
        borderBottomWidth: "1px",
        borderColor: "line",
      },
      "& th": { fontSize: "small" },
      "& td:first-of-type": { whiteSpace: "nowrap", fontWeight: "600" },
      "& tr": { breakInside: "avoid" },
    },
  },
});
