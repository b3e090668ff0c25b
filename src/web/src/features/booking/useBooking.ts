import { asks } from "../../api/queries";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { staff, type Visit } from "../../api/staff";
import { refreshBook, refreshFits } from "../../api/refresh";
import { useFirstFault } from "../../shared/firstFault";
import { answerOf, Problem } from "../../shared/problem";
import { acceptHeader, type Chosen } from "./fits";
import type { VisitDraft } from "./visitDrafts";

/** Books what is drafted at a start. A start the server takes only over something is asked for again once that was read. */
export function useBooking(onBooked: (visit: Visit) => void) {
  const queries = useQueryClient();
  const [over, setOver] = useState<Chosen | null>(null);
  // One key for one booking: pressing twice, or a repeat after a lost connection, books once.
  const [key, setKey] = useState(() => crypto.randomUUID());
  const book = useMutation({
    mutationFn: ({ draft, start }: { draft: VisitDraft; start: Chosen }) =>
      answerOf(
        staff.POST("/api/v1/visits", {
          params: { header: { "Idempotency-Key": key } },
          headers: acceptHeader(start),
          body: {
            locationId: draft.locationId,
            start: start.start,
            lines: [
              {
                serviceId: draft.serviceId,
                practitionerId: draft.practitionerId || null,
                addOns: draft.addOnIds.map((addOnId) => ({ addOnId, count: 1 })),
              },
            ],
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
    problem,
    errors: problem?.errors ?? {},
    over: problem?.code === "would-go-over" ? over : null,
  };
}
