import { t } from "@lingui/core/macro";
import type { QueryClient } from "@tanstack/react-query";
import { asks } from "../../../api/queries";
import { refreshBook } from "../../../api/refresh";
import { staff } from "../../../api/staff";
import { answerOf } from "../../../shared/problem";
import { say, sayProblem } from "../../../shared/toasts";

let isUndoing = false;

/** Waits for what is on its way to be saved: whoever undoes at once means that, not what came before it. */
const settled = (queries: QueryClient) =>
  new Promise<void>((resolve) => {
    if (queries.isMutating() === 0) return resolve();
    const stop = queries.getMutationCache().subscribe(() => {
      if (queries.isMutating() > 0) return;
      stop();
      resolve();
    });
  });

/** Undoes the last thing this person did in the book that has not been undone, and says what came of it. */
export async function undoLast(queries: QueryClient) {
  // A key held down undoes one thing after another, never one twice.
  if (isUndoing) return;
  isUndoing = true;
  try {
    await settled(queries);
    const steps = await queries.fetchQuery({ ...asks.steps(), staleTime: 0 });
    const last = steps.find((step) => !step.isUndone);
    if (!last) {
      say(t`There is nothing to undo.`);
      return;
    }
    const { visits } = await answerOf(staff.POST("/api/v1/undo/{stepId}", { params: { path: { stepId: last.id } } }));
    refreshBook(queries);
    for (const id of last.visitIds) queries.removeQueries({ queryKey: asks.visit(id).queryKey });
    for (const visit of visits) queries.setQueryData(asks.visit(visit.id).queryKey, visit);
    const [visit] = visits;
    say(
      visit
        ? t`Undone: ${visit.client.givenName} ${visit.client.familyName} is as before.`
        : t`Undone: the visit is taken out again.`,
    );
  } catch (problem) {
    if (problem instanceof Error) sayProblem(problem);
    refreshBook(queries);
  } finally {
    isUndoing = false;
  }
}
