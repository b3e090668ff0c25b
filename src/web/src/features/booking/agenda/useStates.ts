import { plural } from "@lingui/core/macro";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { refreshBook } from "../../../api/refresh";
import { staff, type VisitState } from "../../../api/staff";
import { answerOf } from "../../../shared/problem";
import { say, sayProblem } from "../../../shared/toasts";
import type { AgendaRow } from "./agenda";

/** Says of several visits where they stand, and what became of each. */
export function useStates() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: ({ rows, state }: { rows: readonly AgendaRow[]; state: VisitState }) =>
      answerOf(
        staff.POST("/api/v1/agenda/state", {
          body: { visits: rows.map(({ id, version }) => ({ id, version })), state },
        }),
      ),
    onSuccess: (answers, { rows }) => {
      const done = answers.filter((answer) => answer.isDone).length;
      say(plural(done, { 0: "None was changed.", one: "# visit changed.", other: "# visits changed." }));
      for (const { id, why } of answers.filter((answer) => !answer.isDone)) {
        const client = rows.find((row) => row.id === id)?.client;
        sayProblem(new Error(`${client?.givenName ?? ""} ${client?.familyName ?? ""}: ${why ?? ""}`));
      }
    },
    onError: sayProblem,
    onSettled: () => refreshBook(queries),
  });
}
