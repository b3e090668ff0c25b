import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra } from "@chakra-ui/react";
import { Link } from "react-router";
import { Box, Panel, Row } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { gatesInOrder, type Start } from "./dayRows";
import { gateWords, ownerPath } from "./words";
import { timeWords } from "../../../shared/format";

const Anchor = chakra(Link, { base: { textDecoration: "underline", minH: "6" } });

type Props = { start: Start; mayEdit: boolean; bookPath: string; onStep: (by: 1 | -1) => void };

/** Why one start is not offered: every reason in everyday words, with links to the very setting or visit. */
export function ReasonList({ start, mayEdit, bookPath, onStep }: Props) {
  return (
    <Panel as="section" aria-label={t`Why not ${timeWords(start.clock)}`} aria-live="polite" mt="4">
      <Row justifyContent="space-between" mb="1">
        <Box as="h2" fontSize="title">
          <Trans>
            {timeWords(start.clock)} is {start.offered ? t`offered` : t`not offered`}
          </Trans>
        </Box>
        <Row gap="1">
          <Press size="small" aria-label={t`Earlier start`} onClick={() => onStep(-1)}>
            ‹
          </Press>
          <Press size="small" aria-label={t`Later start`} onClick={() => onStep(1)}>
            ›
          </Press>
        </Row>
      </Row>
      {start.offered && (
        <Box>
          <Trans>Nothing stands in its way.</Trans>
        </Box>
      )}
      {gatesInOrder
        .filter((gate) => start.reasons.some((reason) => reason.gate === gate))
        .map((gate) => (
          <Box key={gate} borderTopWidth="line" borderColor="line" py="2">
            <Box fontWeight="700">{gateWords[gate]}</Box>
            {start.reasons
              .filter((reason) => reason.gate === gate)
              .map((reason) => (
                <Row key={reason.text} justifyContent="space-between" rowGap="0.5" columnGap="4">
                  <Box>{reason.text}</Box>
                  <Row gap="3.5">
                    {reason.appointmentId && (
                      <Anchor to={`${bookPath}?appointment=${reason.appointmentId}`}>
                        <Trans>Open that visit</Trans>
                      </Anchor>
                    )}
                    {mayEdit && !reason.appointmentId && ownerPath(reason) && (
                      <Anchor to={ownerPath(reason)!}>
                        <Trans>Change it</Trans>
                      </Anchor>
                    )}
                  </Row>
                </Row>
              ))}
          </Box>
        ))}
    </Panel>
  );
}
