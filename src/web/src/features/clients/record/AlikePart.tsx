import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { chakra, useSlotRecipe } from "@chakra-ui/react";
import { Link } from "react-router";
import type { components } from "../../../api/generated/schema";
import { staff } from "../../../api/staff";
import { longDate, shortDateWithYear } from "../../../shared/format";
import { Box, Row, Section } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { record } from "../../../theme/recipes/record";
import { Likely } from "../Likely";
import { useWriting } from "./useWriting";
import { visitAddress } from "./years";

const Anchor = chakra(Link, { base: { textDecoration: "underline", fontWeight: "600" } });

/** What looks wrong with a client: likely entered twice, likely booked twice; and what was put right. */
export function AlikePart({ file }: { file: components["schemas"]["ClientRecordAnswer"] }) {
  const styles = useSlotRecipe({ recipe: record })();
  const apart = useWriting((mergeId: string) =>
    answerOf(staff.POST("/api/v1/clients/merges/{mergeId}/undo", { params: { path: { mergeId } } })),
  );
  if (file.alike.length + file.bookedTwice.length + file.merges.length === 0) return null;
  return (
    <Section title={t`To look at`}>
      {file.alike.map((pair) => (
        <Box key={`${pair.kept.id} ${pair.gone.id}`} css={styles["entry"]}>
          <Likely pair={pair} id={file.client.id!} />
        </Box>
      ))}
      {file.bookedTwice.map((pair) => (
        <Box key={pair.visitId + pair.otherId} css={styles["entry"]}>
          {pair.reason === "atOnce"
            ? t`Two visits at once on ${longDate(pair.date)}.`
            : t`The same service twice within a day, on ${longDate(pair.date)}.`}{" "}
          <Anchor to={visitAddress(pair.locationId, pair.date, pair.visitId)}>
            <Trans>Open the first</Trans>
          </Anchor>
        </Box>
      ))}
      {file.merges.map((merge, i) => (
        <Box key={merge.id} css={styles["entry"]}>
          <Row justifyContent="space-between">
            <Box>
              <Trans>
                {merge.actor} made one of this and {merge.goneName} on {shortDateWithYear(merge.at.slice(0, 10))}.
              </Trans>
            </Box>
            {i === 0 && (
              <Press size="small" disabled={apart.isPending} onClick={() => apart.mutate(merge.id)}>
                <Trans>Take apart</Trans>
              </Press>
            )}
          </Row>
          {i === 0 && apart.error && (
            <Box role="alert" color="clay" fontSize="small">
              {apart.error.message}
            </Box>
          )}
        </Box>
      ))}
    </Section>
  );
}
