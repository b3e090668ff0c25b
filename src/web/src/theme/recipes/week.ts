import { defineSlotRecipe } from "@chakra-ui/react";
import { headPixels } from "../book";

/** A lane for each day of a week, sharing the height there is. */
export const week = defineSlotRecipe({
  slots: ["frame", "hours", "hour", "lanes", "group"],
  base: {
    frame: { flex: "1", minH: "0", overflow: "auto", borderWidth: "1px", borderColor: "line", bg: "sheet" },
    hours: {
      position: "sticky",
      top: "0",
      zIndex: 12,
      h: "24px",
      ms: `${headPixels}px`,
      minW: "640px",
      bg: "paper",
      borderBottomWidth: "1px",
      borderColor: "line",
    },
    hour: { position: "absolute", top: "4px", ps: "2px", fontSize: "small", color: "quiet", whiteSpace: "nowrap" },
    lanes: {
      minW: `${headPixels + 640}px`,
      "& .kc-track": { flex: "1", w: "auto" },
      "& .kc-lane": { h: "var(--practitioner) !important" },
      "--practitioner": "clamp(40px, calc((100dvh - 132px) / 7), 120px)",
      "--room": "var(--practitioner)",
      "--equipment": "var(--practitioner)",
    },
    group: { display: "block" },
  },
});
