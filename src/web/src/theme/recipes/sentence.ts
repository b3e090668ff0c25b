import { defineSlotRecipe } from "@chakra-ui/react";

/** Kept behind each part for the full stop or comma after it, which is drawn back into it, so that none begins a line. */
const room = "0.4em";

/** A sentence whose underlined parts open their choices. */
export const sentence = defineSlotRecipe({
  slots: ["words", "part", "after", "blank", "list", "option", "hint", "search"],
  base: {
    words: { fontSize: "title", lineHeight: "1.65" },
    part: {
      display: "inline",
      paddingInlineEnd: room,
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
    after: { marginInlineStart: `-${room}` },
    // A part of the booking page's sentence.
    blank: {
      paddingInlineEnd: room,
      fontWeight: "700",
      textAlign: "start",
      cursor: "pointer",
      lineHeight: "1.35",
      textDecorationLine: "underline",
      textDecorationColor: "kingcup",
      textDecorationThickness: "3px",
      textUnderlineOffset: "6px",
      _focusVisible: { outlineColor: "onWater" },
      _expanded: {
        paddingInlineStart: "8px",
        marginInlineStart: "-2px",
        bg: "kingcup",
        color: "onKingcup",
        borderRadius: "card",
        textDecorationLine: "none",
      },
    },
    // A long list scrolls in itself: what it is searched by stays, and nothing moves under the pointer.
    list: { display: "grid", outline: "none", minW: "200px", maxH: "min(350px, 64vh)", overflowY: "auto" },
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
