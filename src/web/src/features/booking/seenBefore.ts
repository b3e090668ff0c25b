import type { Visit } from "../../api/staff";

/**
 * Visits as they were seen by whoever was refused because somebody else had changed them: the sheet that opens then shows both
 * versions, however quickly the new one has come.
 */
const seen = new Map<string, Visit>();

export const seenBefore = {
  keep: (visit: Visit) => void seen.set(visit.id, visit),
  of: (visit: Visit) => seen.get(visit.id) ?? visit,
  forget: (id: string) => void seen.delete(id),
};
