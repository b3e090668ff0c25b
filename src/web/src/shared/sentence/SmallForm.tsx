import { Trans } from "@lingui/react/macro";
import type { FormEvent, ReactNode } from "react";
import { Box, Stack, asForm } from "../layout";
import { Press } from "../Press";

/** A few fields that a part of a sentence opens; Enter is done too. */
export function SmallForm({ onDone, children }: { onDone: () => void; children: ReactNode }) {
  const submit = (event: FormEvent) => {
    event.preventDefault();
    // What opens inside a form is not a part of that form.
    event.stopPropagation();
    onDone();
  };
  return (
    <Stack {...asForm} gap="2" p="1.5" w="55" onSubmit={submit}>
      {children}
      <Box>
        <Press size="small" look="primary" type="submit">
          <Trans>Done</Trans>
        </Press>
      </Box>
    </Stack>
  );
}
