import { defineSlotRecipe } from "@chakra-ui/react";

/** A short word at the foot of the window on something that was done elsewhere, or could not be. */
export const toast = defineSlotRecipe({
  className: "toast",
  slots: ["root", "title", "description", "indicator", "closeTrigger", "actionTrigger"],
  base: {
    root: {
      display: "flex",
      alignItems: "center",
      gap: "12px",
      w: "max-content",
      maxW: "min(520px, 92vw)",
      px: "14px",
      py: "10px",
      bg: "ink",
      color: "paper",
      borderRadius: "card",
      boxShadow: "floating",
      // Where it lies among the others is counted by the toaster.
      translate: "var(--x) var(--y)",
      scale: "var(--scale)",
      zIndex: "var(--z-index)",
      height: "var(--height)",
      opacity: "var(--opacity)",
      willChange: "translate, opacity, scale",
      transition: "translate 200ms, scale 200ms, opacity 200ms, height 200ms",
    },
    title: { flex: "1", fontWeight: "600" },
    actionTrigger: { cursor: "pointer", fontWeight: "700", textDecoration: "underline", minH: "28px", px: "6px" },
    closeTrigger: { cursor: "pointer", minW: "28px", minH: "28px", display: "grid", placeItems: "center" },
  },
});
