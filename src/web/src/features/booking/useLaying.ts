import { t } from "@lingui/core/macro";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { asks } from "../../api/queries";
import { refreshBook, refreshFits } from "../../api/refresh";
import { staff, type Visit } from "../../api/staff";
import { askAnew } from "../../shared/askAnew";
import { timeWords } from "../../shared/format";
import { answerOf, Problem } from "../../shared/problem";
import { say, sayProblem } from "../../shared/toasts";
import { acceptHeader, type Chosen } from "./fits";
import { putInto, type LineRequest } from "./lines/lineDrafts";
import { seenBefore } from "./seenBefore";
import { undoLast } from "./undo/undoing";

type Laying = {
  visit: Visit;
  lines: LineRequest[];
  start: Pick<Chosen, "start" | "practitionerId" | "accept" | "room"> & { clock?: string };
};

/**
 * Puts a visit that stands elsewhere, or changes its lines. What is refused because somebody else has changed it meanwhile is handed
 * back, to be shown beside what they did.
 */
export function useLaying(onLaid?: (visit: Visit) => void, onStale?: (laying: Laying) => void) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ visit, lines, start }: Laying) =>
      answerOf(
        staff.POST("/api/v1/visits/{id}/lay", {
          params: { path: { id: visit.id }, header: { "If-Match": String(visit.version) } },
          headers: acceptHeader(start),
          body: { start: start.start, lines: putInto(lines, start) },
        }),
      ),
    onSuccess: (next, { visit, start }) => {
      refreshBook(queries);
      queries.setQueryData(asks.visit(next.id).queryKey, next);
      const name = `${next.client.givenName} ${next.client.familyName}`;
      const text =
        next.start === visit.start ? t`${name}: changed.` : t`${name}: moved to ${timeWords(start.clock ?? "")}.`;
      say(text, { label: t`Undo (u)`, onClick: () => void undoLast(queries) });
      onLaid?.(next);
    },
    // Stale or taken: show how it stands now beside the sentence that says so.
    onError: (error, laying) => {
      const { visit } = laying;
      sayProblem(error);
      if (error instanceof Problem && error.code === "stale") {
        seenBefore.keep(visit);
        onStale?.(laying);
      }
      void askAnew(queries, { queryKey: asks.visit(visit.id).queryKey });
      refreshFits(queries);
    },
  });
}
