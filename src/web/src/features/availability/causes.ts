import { t } from "@lingui/core/macro";
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
  locations: t`Say where clients come`,
  hours: t`Set the opening hours`,
  rules: t`Look at the location's rules`,
  location: t`Look at the location`,
  business: t`Look at the booking page`,
  practitioners: t`Add somebody`,
  rota: t`Give them a rota`,
  practitioner: t`Look at their calendar`,
  qualifications: t`Look at who holds what`,
  room: t`Look at the rooms`,
  equipment: t`Look at the equipment`,
  services: t`Describe a service`,
  service: t`Look at the service`,
};

/** What is done about it, as a verb. */
export const remedyOf = (issue: Issue) => remedies[issue.mend] ?? t`Mend it`;
