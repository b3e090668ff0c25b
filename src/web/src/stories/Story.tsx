import type { ReactNode } from "react";
import { Box, Panel, Stack } from "../shared/layout";

/** One shared part as it stands on the screens, with what it now holds. */
export function Story({ name, holds, children }: { name: string; holds?: unknown; children: ReactNode }) {
  return (
    <Panel as="section" aria-label={name}>
      <Stack gap="8px">
        <Box as="h2" fontSize="17px">
          {name}
        </Box>
        {children}
        {holds !== undefined && (
          <Box as="output" color="quiet" fontSize="14px">
            {JSON.stringify(holds)}
          </Box>
        )}
      </Stack>
    </Panel>
  );
}
