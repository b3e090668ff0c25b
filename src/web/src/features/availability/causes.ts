import type { Issue } from "../../api/setup";

/** What stops, for one cause: the same sentence, mended at the same place. */
export type Cause = { text: string; stops: boolean; from: string | null; issues: Issue[] };

/** Issues by their cause, in the order in which they were found; what stops already first. */
export function causesOf(issues: readonly Issue[]): Cause[] {
  const found = new Map<string, Cause>();
  for (const issue of issues) {
    const key = JSON.stringify([issue.stops, issue.mend, issue.mendId, issue.cause]);
    const cause = found.get(key) ?? { text: issue.cause, stops: issue.stops, from: issue.from, issues: [] };
    cause.issues.push(issue);
    if (issue.from && (!cause.from || issue.from < cause.from)) cause.from = issue.from;
    found.set(key, cause);
  }
  return [...found.values()].sort((a, b) => Number(b.stops) - Number(a.stops));
}

const remedies: Record<string, string> = {
  locations: "Say where clients come",
  hours: "Set the opening hours",
  rules: "Look at the location's rules",
  location: "Look at the location",
  business: "Look at the booking page",
  practitioners: "Add somebody",
  rota: "Give them a rota",
  practitioner: "Look at their calendar",
  qualifications: "Look at who holds what",
  room: "Look at the rooms",
  equipment: "Look at the equipment",
  services: "Describe a service",
  service: "Look at the service",
};

/** What is done about it, as a verb. */
export const remedyOf = (issue: Issue) => remedies[issue.mend] ?? "Mend it";
