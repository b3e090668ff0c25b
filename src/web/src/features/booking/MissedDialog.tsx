import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Fee } from "../../api/setup";
import { Dialog } from "../../shared/Dialog";
import { Row, Stack, asForm } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { FeePart } from "../money/FeePart";

type Props = { fee: Fee; free: Fee; mayWaive: boolean; onMissed: (waive: string | null) => void; onStop: () => void };

/** What it costs a client not to come, before it is said that they did not. */
export function MissedDialog({ fee, free, mayWaive, onMissed, onStop }: Props) {
  const [waive, setWaive] = useState<string | null>(null);
  return (
    <Dialog name={t`The client did not come`} title={t`The client did not come?`} maxW="115" onClose={onStop}>
      <Stack
        {...asForm}
        gap="3"
        onSubmit={(event) => {
          event.preventDefault();
          onMissed(waive);
        }}
      >
        <FeePart fee={fee} free={free} mayWaive={mayWaive} waive={waive} error={undefined} onWaive={setWaive} />
        <Row>
          <Press type="submit" look="danger" disabled={waive?.trim() === ""}>
            <Trans>They did not come</Trans>
          </Press>
          <Press autoFocus onClick={onStop}>
            <Trans>Not yet</Trans>
          </Press>
        </Row>
      </Stack>
    </Dialog>
  );
}
