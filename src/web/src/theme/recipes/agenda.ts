import { defineSlotRecipe } from "@chakra-ui/react";
import { narrow } from "../media";

const columns = "36px 124px minmax(0, 5fr) minmax(0, 5fr) minmax(0, 4fr) minmax(0, 3fr) 128px 84px";

/** Visits one after another: a table, and on a telephone a list. */
export const agenda = defineSlotRecipe({
  slots: ["frame", "body", "line", "group", "cell", "alert"],
  base: {
    frame: {
      flex: "1",
      minH: "240px",
      overflow: "auto",
      bg: "sheet",
      borderWidth: "1px",
      borderColor: "line",
      borderRadius: "card",
      fontVariantNumeric: "tabular-nums",
    },
    body: { position: "relative" },
    line: {
      display: "grid",
      gridTemplateColumns: columns,
      alignItems: "center",
      h: "40px",
      borderBottomWidth: "1px",
      borderColor: "line",
      "&[data-head]": { position: "sticky", top: "0", zIndex: 1, bg: "sheet", fontWeight: "600", fontSize: "small" },
      "&[data-placed]": { position: "absolute", left: "0", right: "0", top: "0" },
      "&[data-off]": { color: "quiet" },
      "&[data-marked]": { bg: "glow" },
      [narrow]: {
        gridTemplateColumns: "36px 124px minmax(0, 1fr)",
        gridAutoRows: "20px",
        h: "72px",
        alignContent: "center",
        "&[data-head]": { display: "none" },
      },
    },
    group: {
      display: "flex",
      alignItems: "end",
      h: "40px",
      px: "10px",
      pb: "4px",
      fontWeight: "700",
      bg: "paper",
      borderBottomWidth: "1px",
      borderColor: "line",
      position: "absolute",
      left: "0",
      right: "0",
      top: "0",
      [narrow]: { h: "72px" },
    },
    cell: {
      px: "10px",
      overflow: "hidden",
      textOverflow: "ellipsis",
      whiteSpace: "nowrap",
      "& a": { fontWeight: "600", textDecoration: "underline" },
      "&[data-mark]": { display: "grid", placeItems: "center", px: "0", [narrow]: { gridRow: "1 / span 3" } },
      [narrow]: {
        "&[data-what]": { gridColumn: "3" },
        "&[data-who]": { gridColumn: "3" },
        "&[data-where], &[data-price]": { display: "none" },
        "&[data-extra]": { gridColumn: "3", gridRow: "3", color: "quiet" },
        "&[data-state]": { gridColumn: "2", gridRow: "2" },
      },
    },
    alert: { color: "clay" },
  },
});
