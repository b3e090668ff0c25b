import { defineSlotRecipe } from "@chakra-ui/react";

/** A sentence whose underlined parts open their choices. */
export const sentence = defineSlotRecipe({
  slots: ["words", "part", "list", "option", "hint", "search"],
  base: {
    words: { fontSize: "title", lineHeight: "1.65" },
    part: {
      display: "inline",
      fontWeight: "700",
      textAlign: "start",
      cursor: "pointer",
      minH: "24px",
      textDecorationLine: "underline",
      textDecorationColor: "kingcupLine",
      textDecorationThickness: "3px",
      textUnderlineOffset: "4px",
      _hover: { bg: "glow" },
      _expanded: { bg: "glow" },
      _disabled: { cursor: "default", textDecorationColor: "line", _hover: { bg: "transparent" } },
      "&[data-differs=false]": { fontWeight: "400" },
    },
    list: { display: "grid", outline: "none", minW: "200px" },
    option: {
      px: "10px",
      py: "6px",
      minH: "32px",
      borderRadius: "card",
      cursor: "pointer",
      "&[data-highlighted]": { bg: "paper" },
      "&[data-state=checked]": { bg: "glow", fontWeight: "700" },
    },
    hint: { display: "block", fontSize: "small", fontWeight: "400", color: "quiet" },
    search: {
      w: "100%",
      minH: "36px",
      px: "10px",
      mb: "6px",
      bg: "sheet",
      borderWidth: "1px",
      borderColor: "edge",
      borderRadius: "card",
    },
  },
  variants: {
    size: {
      lead: { words: { fontSize: "title" } },
      text: { words: { fontSize: "text", lineHeight: "1.6" } },
    },
  },
  defaultVariants: { size: "lead" },
});
