import { t } from "@lingui/core/macro";
import { useQuery } from "@tanstack/react-query";
import { quietHoursKeeper } from "../../api/keepers";
import { asks } from "../../api/queries";
import type { Quiet } from "../../api/setup";
import { Outcome } from "../../shared/change";
import { TimeField } from "../../shared/fields/TimeField";
import { Box, Row, Section, Stack, asForm } from "../../shared/layout";
import { useKept } from "../../shared/kept";
import { Press } from "../../shared/Press";

/** When nobody is disturbed by what does not have to be sent at once. */
export function QuietHours() {
  const quiet = useQuery(asks.quietHours());
  return quiet.data && <QuietForm quiet={quiet.data} />;
}

function QuietForm({ quiet }: { quiet: Quiet }) {
  const { draft, set, save, submit } = useKept(quiet, quietHoursKeeper);
  return (
    <Section
      title={t`Quiet hours`}
      hint={t`A reminder that would fall into them goes before; what follows a visit waits. The same time twice: none.`}
    >
      <Stack {...asForm} onSubmit={submit}>
        <Row alignItems="start">
          <Box w="25">
            <TimeField
              label={t`From`}
              value={draft.from}
              error={save.errors["from"]}
              onChange={(from) => set({ from })}
            />
          </Box>
          <Box w="25">
            <TimeField
              label={t`until`}
              value={draft.until}
              error={save.errors["until"]}
              onChange={(until) => set({ until })}
            />
          </Box>
        </Row>
        <Row>
          <Press type="submit">{t`Save the quiet hours`}</Press>
          <Outcome change={save} fields={["from", "until"]} />
        </Row>
      </Stack>
    </Section>
  );
}
