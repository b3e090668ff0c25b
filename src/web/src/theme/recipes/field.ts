import { defineSlotRecipe } from "@chakra-ui/react";

/** What stands around a field, and a field that opens its choices. */
export const field = defineSlotRecipe({
  slots: ["label", "hint", "error", "chosen"],
  base: {
    label: { fontWeight: "600", fontSize: "small", mb: "3px" },
    hint: { mt: "3px", fontSize: "small", color: "quiet" },
    error: { mt: "3px", fontSize: "small", color: "clay" },
    chosen: {
      w: "100%",
      minH: "38px",
      px: "10px",
      py: "6px",
      textAlign: "start",
      bg: "sheet",
      borderWidth: "1px",
      borderColor: "edge",
      borderRadius: "card",
      cursor: "pointer",
      overflow: "hidden",
      textOverflow: "ellipsis",
      "&[aria-invalid=true]": { borderColor: "clay", borderWidth: "2px" },
      _after: { content: '" ▾"', color: "quiet" },
    },
  },
});
