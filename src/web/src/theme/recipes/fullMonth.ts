import { defineSlotRecipe } from "@chakra-ui/react";
import { hatched } from "../book";
import { narrow } from "../media";

const seven = "repeat(7, minmax(0, 1fr))";

/** Six weeks as a map of fullness: a strip for each part of the day. */
export const fullMonth = defineSlotRecipe({
  slots: ["page", "week", "days", "cell", "day", "head", "free", "strip", "held"],
  base: {
    page: { h: "100%", overflowY: "auto", px: "24px", py: "12px", display: "flex", flexDirection: "column" },
    week: { display: "grid", gridTemplateColumns: seven, gap: "8px", mb: "4px", [narrow]: { display: "none" } },
    days: {
      flex: "1",
      display: "grid",
      gridTemplateColumns: seven,
      gridAutoRows: "minmax(88px, 1fr)",
      gap: "8px",
      listStyleType: "none",
      [narrow]: { gridTemplateColumns: "minmax(0, 1fr)" },
    },
    cell: { display: "grid", gridTemplateColumns: "minmax(0, 1fr)" },
    day: {
      display: "flex",
      flexDirection: "column",
      gap: "4px",
      overflow: "hidden",
      px: "8px",
      py: "4px",
      bg: "sheet",
      borderWidth: "1px",
      borderColor: "line",
      borderRadius: "card",
      _hover: { borderColor: "edge" },
      "&[data-closed]": hatched,
      "&[data-other]": { bg: "paper" },
      "&[aria-current]": { borderColor: "focus", borderWidth: "2px" },
    },
    head: { display: "flex", justifyContent: "space-between", gap: "8px", whiteSpace: "nowrap" },
    free: { fontSize: "small", color: "quiet", overflow: "hidden", textOverflow: "ellipsis" },
    strip: { flex: "1", minH: "12px", maxH: "22px", bg: "woven", borderRadius: "mark", overflow: "hidden" },
    held: {
      height: "100%",
      bg: "tint0",
      borderRadius: "mark",
      "&[data-full]": { bg: "full" },
    },
  },
});
