import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { useState } from "react";
import type { components } from "../../../api/generated/schema";
import { staff } from "../../../api/staff";
import { AreaField } from "../../../shared/Field";
import { shortDateWithYear } from "../../../shared/format";
import { Box, Section } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { useUnsaved } from "../../../shared/unsaved";
import { record } from "../../../theme/recipes/record";
import { useWriting } from "./useWriting";

const Form = chakra("form");

/** What was written down about a client, the newest first; nothing of it is ever changed. */
export function NotesPart({ file }: { file: components["schemas"]["ClientRecordAnswer"] }) {
  const styles = useSlotRecipe({ recipe: record })();
  const [words, setWords] = useState("");
  const settled = useUnsaved(words.trim() !== "");
  const [key, setKey] = useState(() => crypto.randomUUID());
  const add = useWriting(
    () =>
      answerOf(
        staff.POST("/api/v1/clients/{id}/notes", {
          params: { path: { id: file.client.id! } },
          headers: { "Idempotency-Key": key },
          body: { words },
        }),
      ),
    () => {
      setWords("");
      setKey(crypto.randomUUID());
      settled();
    },
  );
  return (
    <Section title={t`Notes`}>
      {!file.client.mergedInto && (
        <Form
          noValidate
          display="grid"
          gap="2"
          mb="2"
          onSubmit={(event) => {
            event.preventDefault();
            add.mutate(undefined);
          }}
        >
          <AreaField
            label={t`A new note`}
            value={words}
            maxLength={2000}
            error={add.error?.message}
            hint={t`Only the house reads it. It stays with your name.`}
            onChange={(event) => setWords(event.target.value)}
          />
          <Box>
            <Press type="submit" size="small" disabled={add.isPending || words.trim() === ""}>
              <Trans>Keep the note</Trans>
            </Press>
          </Box>
        </Form>
      )}
      {file.notes.map((note) => (
        <Box key={note.id} css={styles["entry"]}>
          <Box fontSize="small" color="quiet">
            {note.author}, {shortDateWithYear(note.at.slice(0, 10))}
          </Box>
          <Box whiteSpace="pre-line">{note.words}</Box>
        </Box>
      ))}
    </Section>
  );
}
