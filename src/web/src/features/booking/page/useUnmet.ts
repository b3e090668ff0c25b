import { useEffect } from "react";
import { visitors, type Day } from "../../../api/public";
import type { StartsAsked, Unmet } from "../../../api/visitorQueries";
import type { Filter } from "./dayParts";

const weeks = { any: "any", week: "mondayToFriday", weekend: "weekend" } as const;
/** What was told from this page: in a frame of another site the server does not know the device again. */
const told = new Set<string>();

/** Notes for the owner what somebody looked for and did not find; nothing of it says who looked. */
export function useUnmet(search: StartsAsked, days: readonly Day[], { part, days: week }: Filter) {
  const asked = JSON.stringify({
    search: { ...search, from: days[0]?.date, days: days.length },
    part: part === "any" ? null : part,
    week: weeks[week],
  });
  useEffect(() => {
    if (told.has(asked)) return;
    told.add(asked);
    // Nobody waits for it, and where it fails nobody misses it.
    void visitors.POST("/api/public/v1/unmet", { body: JSON.parse(asked) as Unmet }).catch(() => null);
  }, [asked]);
}
