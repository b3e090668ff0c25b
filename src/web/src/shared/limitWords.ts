import { t } from "@lingui/core/macro";
import type { z } from "zod";

/** Says of a value that is beyond what the server takes what to do about it, as the server would. */
export function limitWords(issue: z.core.$ZodRawIssue): string {
  if (issue.code === "too_big") {
    const most = Number(issue.maximum);
    return issue.origin === "string" ? t`${most} characters at the most.` : t`${most} at the most.`;
  }
  if (issue.code === "too_small") return t`${Number(issue.minimum)} at the least.`;
  return issue.input === null || issue.input === undefined
    ? t`This is needed and is missing.`
    : t`This cannot be taken as it is. Choose or enter it anew.`;
}
