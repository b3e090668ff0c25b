import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { components } from "../../api/generated/schema";
import { refreshClient } from "../../api/refresh";
import { AreaField } from "../../shared/Field";
import { shortDateWithYear } from "../../shared/format";
import { Box } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { useUnsaved } from "../../shared/unsaved";

const Form = chakra("form");

type Note = components["schemas"]["NoteAnswer"];

/** Writes something down about a client; `keep` sends it, once for each key. */
export function NoteForm({ keep }: { keep: (words: string, key: string) => Promise<unknown> }) {
  const queries = useQueryClient();
  const [words, setWords] = useState("");
  const settled = useUnsaved(words.trim() !== "");
  const [key, setKey] = useState(() => crypto.randomUUID());
  const add = useMutation({
    mutationFn: () => keep(words, key),
    onSuccess: () => {
      refreshClient(queries);
      setWords("");
      setKey(crypto.randomUUID());
      settled();
    },
  });
  return (
    <Form
      noValidate
      display="grid"
      gap="2"
      mb="2"
      onSubmit={(event) => {
        event.preventDefault();
        add.mutate();
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
  );
}

/** What was written down, the newest first; nothing of it is ever changed. */
export const NoteList = ({ notes }: { notes: readonly Note[] }) =>
  notes.map((note) => (
    <Box key={note.id} py="2" borderTopWidth="line" borderColor="line">
      <Box fontSize="small" color="quiet">
        {note.author}, {shortDateWithYear(note.at.slice(0, 10))}
      </Box>
      <Box whiteSpace="pre-line">{note.words}</Box>
    </Box>
  ));
