import { defineSlotRecipe } from "@chakra-ui/react";

/** What cancelling costs, from booking to the start and beyond. */
export const costLine = defineSlotRecipe({
  slots: ["line", "step", "moment", "bar", "cost", "from"],
  base: {
    line: {
      display: "grid",
      gap: "4px",
      gridTemplateColumns: "1fr",
      "@media (min-width: 720px)": {
        gridAutoFlow: "column",
        gridAutoColumns: "minmax(0, 1fr)",
        gridTemplateColumns: "none",
      },
    },
    step: { display: "grid", gridTemplateRows: "auto 1fr", minW: 0 },
    moment: {
      fontSize: "small",
      fontWeight: "600",
      minH: "24px",
      ps: "8px",
      borderInlineStartWidth: "1px",
      borderColor: "ink",
    },
    bar: {
      borderInlineStartWidth: "1px",
      borderColor: "ink",
      borderEndRadius: "card",
      px: "10px",
      py: "8px",
      minH: "64px",
      "&[data-cost=none]": { bg: "tint0" },
      "&[data-cost=part]": { bg: "glow" },
      "&[data-cost=all]": { bg: "costAll" },
    },
    cost: { fontWeight: "700" },
    from: { fontSize: "small" },
  },
});
