import { t } from "@lingui/core/macro";
import type { components } from "../../../api/generated/schema";
import { staff } from "../../../api/staff";
import { Section } from "../../../shared/layout";
import { answerOf } from "../../../shared/problem";
import { NoteForm, NoteList } from "../NoteForm";

/** What was written down about a client. */
export function NotesPart({ file }: { file: components["schemas"]["ClientRecordAnswer"] }) {
  const id = file.client.id!;
  return (
    <Section title={t`Notes`}>
      {!file.client.mergedInto && (
        <NoteForm
          keep={(words, key) =>
            answerOf(
              staff.POST("/api/v1/clients/{id}/notes", {
                params: { path: { id } },
                headers: { "Idempotency-Key": key },
                body: { words },
              }),
            )
          }
        />
      )}
      <NoteList notes={file.notes} />
    </Section>
  );
}
