import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { asks } from "../../api/queries";
import { staff } from "../../api/staff";
import { Box } from "../../shared/layout";
import { answerOf } from "../../shared/problem";
import { NoteForm, NoteList } from "../clients/NoteForm";

/** What was written down about whoever comes, and a new note about them. */
export function VisitNotes({ visitId }: { visitId: string }) {
  const notes = useQuery(asks.visitNotes(visitId));
  return (
    <Box mb="3">
      {notes.error && <Box role="alert">{notes.error.message}</Box>}
      {notes.data?.length === 0 && (
        <Box color="quiet">
          <Trans>Nothing has been written down yet.</Trans>
        </Box>
      )}
      <NoteList notes={notes.data ?? []} />
      <Box h="2" />
      <NoteForm
        keep={(words, key) =>
          answerOf(
            staff.POST("/api/v1/visits/{id}/notes", {
              params: { path: { id: visitId } },
              headers: { "Idempotency-Key": key },
              body: { words },
            }),
          )
        }
      />
    </Box>
  );
}
