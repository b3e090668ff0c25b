import { t } from "@lingui/core/macro";
import { say } from "../../shared/toasts";
import { visitDrafts, type VisitDraft } from "./visitDrafts";

/** Drops a half-written visit; for a while it can be had back. */
export function dropDraft(draft: VisitDraft) {
  visitDrafts.drop(draft.id);
  say(t`The half-written visit is dropped.`, { label: t`Bring it back`, onClick: () => visitDrafts.restore(draft) });
}
