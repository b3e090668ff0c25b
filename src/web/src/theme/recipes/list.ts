import { defineSlotRecipe } from "@chakra-ui/react";

// Which they are, and how wide, is chosen by whoever looks.
const clientColumns = "var(--columns)";

/** A long table of which only the rows in sight are there. */
export const list = defineSlotRecipe({
  slots: ["frame", "table", "head", "body", "row", "cell", "chosen"],
  base: {
    frame: {
      overflow: "auto",
      bg: "sheet",
      borderWidth: "1px",
      borderColor: "line",
      borderRadius: "card",
      // A list uses the height there is and scrolls in itself, its heads in sight.
      h: "calc(100dvh - 250px)",
      minH: "260px",
    },
    table: { position: "relative", minW: "760px", fontVariantNumeric: "tabular-nums" },
    head: {
      position: "sticky",
      top: "0",
      zIndex: 1,
      display: "grid",
      bg: "sheet",
      borderBottomWidth: "1px",
      borderColor: "edge",
      fontWeight: "600",
      fontSize: "small",
    },
    body: { position: "relative" },
    row: {
      display: "grid",
      alignItems: "center",
      minH: "40px",
      borderBottomWidth: "1px",
      borderColor: "line",
      "&:hover": { bg: "paper" },
      "&[data-virtual]": { position: "absolute", left: "0", right: "0", top: "0" },
    },
    cell: {
      px: "10px",
      py: "6px",
      overflow: "hidden",
      textOverflow: "ellipsis",
      whiteSpace: "nowrap",
      "& a": { textDecoration: "underline", fontWeight: "600" },
    },
    chosen: { px: "10px", display: "grid", placeItems: "center" },
  },
  variants: {
    of: {
      clients: { head: { gridTemplateColumns: clientColumns }, row: { gridTemplateColumns: clientColumns } },
    },
  },
});
