import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { clockRange } from "../../shared/format";
import { lengthWords } from "../../shared/lengthWords";
import { Box, Row } from "../../shared/layout";
import { Press } from "../../shared/Press";
import { minutesFrom } from "./carry/drawing";
import type { LineDraft } from "./lines/lineDrafts";

type Props = {
  from: string;
  until: string;
  zone: string;
  /** The line that begins where it was drawn. */
  line: LineDraft | undefined;
  onLength: (minutes: number | null) => void;
  /** Blocks the stretch instead; missing where this person may not. */
  onBlock: (() => void) | null;
};

/** A stretch that was drawn: it says where the visit begins, and how long it takes where that is wanted; or it is blocked. */
export function DrawnPart({ from, until, zone, line, onLength, onBlock }: Props) {
  const minutes = minutesFrom(from, until);
  const isAsDrawn = line?.minutes === minutes;
  return (
    <Box as="section" aria-label={t`Drawn`} bg="paper" borderRadius="card" p="2.5">
      <Box fontWeight="600" mb="1">
        <Trans>
          Drawn: {clockRange(from, until, zone)}, {lengthWords(minutes)}
        </Trans>
      </Box>
      <Row gap="1" flexWrap="wrap">
        {line && line.serviceId !== "" && (
          <>
            <Press size="small" aria-pressed={line.minutes === null} onClick={() => onLength(null)}>
              <Trans>As long as the service takes</Trans>
            </Press>
            <Press size="small" aria-pressed={isAsDrawn} onClick={() => onLength(minutes)}>
              <Trans>As long as drawn</Trans>
            </Press>
          </>
        )}
        {onBlock && (
          <Press size="small" look="quiet" onClick={onBlock}>
            <Trans>Block this time instead</Trans>
          </Press>
        )}
      </Row>
    </Box>
  );
}
