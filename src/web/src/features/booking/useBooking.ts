import { plural, t } from "@lingui/core/macro";
import { asks } from "../../api/queries";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { components } from "../../api/generated/schema";
import { staff, type Visit } from "../../api/staff";
import { refreshBook, refreshFits } from "../../api/refresh";
import { useFirstFault } from "../../shared/firstFault";
import { answerOf, Problem } from "../../shared/problem";
import { acceptHeader, type Chosen } from "./fits";
import { putInto, requestOf } from "./lines/lineDrafts";
import { say } from "../../shared/toasts";
import { undoLast } from "./undo/undoing";
import type { VisitDraft } from "./visitDrafts";

type Row = components["schemas"]["OccurrenceRequest"][];
type Booking = {
  draft: VisitDraft;
  start: Chosen;
  /** All visits of a row, where it repeats. */
  row?: Row | undefined;
};

/** Books what is drafted at a start. A start the server takes only over something is asked for again once that was read. */
export function useBooking(onBooked: (visit: Visit) => void) {
  const queries = useQueryClient();
  const [over, setOver] = useState<Chosen | null>(null);
  // One key for one booking: pressing twice, or a repeat after a lost connection, books once.
  const [key, setKey] = useState(() => crypto.randomUUID());
  const bookRow = async (draft: VisitDraft, start: Chosen, occurrences: Row) => {
    const { visits } = await answerOf(
      staff.POST("/api/v1/visits/repeat", {
        params: { header: { "Idempotency-Key": key } },
        body: {
          locationId: draft.locationId,
          occurrences,
          lines: putInto(requestOf(draft.lines), start),
          clientId: draft.fresh ? null : (draft.client?.id ?? null),
          newClient: draft.fresh,
          note: draft.note,
        },
      }),
    );
    say(plural(visits.length, { one: "# visit is booked.", other: "# visits are booked." }), {
      label: t`Undo (u)`,
      onClick: () => void undoLast(queries),
    });
    refreshBook(queries);
    return visits[0]!;
  };
  const book = useMutation({
    mutationFn: ({ draft, start, row }: Booking) =>
      row
        ? bookRow(draft, start, row)
        : answerOf(
            staff.POST("/api/v1/visits", {
              params: { header: { "Idempotency-Key": key } },
              headers: acceptHeader(start),
              body: {
                locationId: draft.locationId,
                start: start.start,
                lines: putInto(requestOf(draft.lines), start),
                people: draft.people.map((name) => ({ name })),
                clientId: draft.fresh ? null : (draft.client?.id ?? null),
                newClient: draft.fresh,
                note: draft.note,
              },
            }),
          ),
    onSuccess: (visit) => {
      refreshBook(queries, visit.locationId, visit.date);
      queries.setQueryData(asks.visit(visit.id).queryKey, visit);
      onBooked(visit);
    },
    onError: (error, { start }) => {
      // The request was answered, so the next one is another booking; a lost connection keeps its key.
      if (error instanceof Problem && error.status > 0) setKey(crypto.randomUUID());
      // What was read before is no longer how it stands.
      if (error instanceof Problem && error.code === "would-go-over")
        setOver(typeof error.body["accept"] === "string" ? { ...start, accept: error.body["accept"] } : null);
      refreshFits(queries);
    },
  });
  useFirstFault(book.error);
  const problem = book.error instanceof Problem ? book.error : null;
  return {
    run: book.mutate,
    pending: book.isPending,
    /** What is being booked or was booked last: the sheet shows it until it makes way for the visit. */
    taken: book.isPending || book.isSuccess ? book.variables.draft : null,
    problem,
    errors: problem?.errors ?? {},
    over: problem?.code === "would-go-over" ? over : null,
  };
}
