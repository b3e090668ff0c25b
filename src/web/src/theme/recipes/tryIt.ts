import { defineSlotRecipe } from "@chakra-ui/react";

/** A week of starts, each day with its ribbon. */
export const tryIt = defineSlotRecipe({
  slots: ["title", "hint", "problem", "days", "day", "head", "strip", "start", "words"],
  base: {
    title: { fontSize: "text" },
    hint: { color: "quiet", fontSize: "small" },
    problem: { color: "clay", fontSize: "small" },
    days: {
      display: "grid",
      gap: "6px",
      gridTemplateColumns: "repeat(auto-fill, minmax(90px, 1fr))",
      "@media (min-width: 900px)": { gridTemplateColumns: "repeat(7, minmax(0, 1fr))" },
      "&[data-old=true]": { opacity: 0.6 },
    },
    day: { bg: "glow", borderRadius: "card", p: "5px 7px", fontSize: "small", "&[data-none=true]": { bg: "woven" } },
    head: { display: "flex", justifyContent: "space-between", gap: "6px", whiteSpace: "nowrap" },
    strip: { position: "relative", h: "10px", bg: "sheet", borderRadius: "3px", my: "4px", overflow: "hidden" },
    start: {
      position: "absolute",
      top: 0,
      bottom: 0,
      w: "4%",
      bg: "kingcup",
      borderInlineWidth: "1px",
      borderColor: "onKingcup",
    },
    words: { color: "quiet", lineHeight: "1.25", overflowWrap: "anywhere" },
  },
});
