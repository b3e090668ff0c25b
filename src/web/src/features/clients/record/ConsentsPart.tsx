import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import { useState } from "react";
import type { components } from "../../../api/generated/schema";
import { staff } from "../../../api/staff";
import { TextField } from "../../../shared/Field";
import { shortDateWithYear } from "../../../shared/format";
import { Box, Row, Section } from "../../../shared/layout";
import { Press } from "../../../shared/Press";
import { answerOf } from "../../../shared/problem";
import { record } from "../../../theme/recipes/record";
import { consents } from "../likes";
import { useWriting } from "./useWriting";

type Schemas = components["schemas"];
const kinds = Object.keys(consents) as Schemas["ConsentKind"][];

/** What a client agreed to and took back, with the words they were asked in. */
export function ConsentsPart({ file }: { file: Schemas["ClientRecordAnswer"] }) {
  const styles = useSlotRecipe({ recipe: record })();
  const [asked, setAsked] = useState<Schemas["ConsentKind"] | null>(null);
  const [words, setWords] = useState("");
  const holds = (kind: Schemas["ConsentKind"]) => file.consents.find((consent) => consent.kind === kind);
  const say = useWriting(
    ({ kind, given }: { kind: Schemas["ConsentKind"]; given: boolean }) =>
      answerOf(
        staff.POST("/api/v1/clients/{id}/consents", {
          params: { path: { id: file.client.id! } },
          headers: { "Idempotency-Key": crypto.randomUUID() },
          body: { kind, given, words },
        }),
      ),
    () => {
      setAsked(null);
      setWords("");
    },
  );
  return (
    <Section title={t`Consents`}>
      {kinds.map((kind) => {
        const last = holds(kind);
        const given = last?.given ?? false;
        return (
          <Box key={kind} css={styles["entry"]}>
            <Row justifyContent="space-between">
              <Box>
                <Box fontWeight="600">
                  {consents[kind]}: {last ? (given ? t`yes` : t`no`) : t`never asked`}
                </Box>
                {last && (
                  <Box fontSize="small" color="quiet">
                    {shortDateWithYear(last.at.slice(0, 10))}, {last.author}: “{last.words}”
                  </Box>
                )}
              </Box>
              {asked !== kind && !file.client.mergedInto && (
                <Press
                  size="small"
                  aria-label={given ? t`${consents[kind]}: take back` : t`${consents[kind]}: agree`}
                  onClick={() => {
                    setAsked(kind);
                    setWords("");
                  }}
                >
                  {given ? t`Take back` : t`Agree`}
                </Press>
              )}
            </Row>
            {asked === kind && (
              <Box mt="2" display="grid" gap="2">
                <TextField
                  label={given ? t`How did they say so?` : t`In which words were they asked?`}
                  value={words}
                  autoFocus
                  maxLength={1000}
                  error={say.error?.message}
                  onChange={(event) => setWords(event.target.value)}
                />
                <Row>
                  <Press
                    size="small"
                    look="primary"
                    disabled={say.isPending}
                    onClick={() => say.mutate({ kind, given: !given })}
                  >
                    {given ? t`Write down that they took it back` : t`Write down that they agreed`}
                  </Press>
                  <Press size="small" onClick={() => setAsked(null)}>
                    <Trans>Leave it</Trans>
                  </Press>
                </Row>
              </Box>
            )}
          </Box>
        );
      })}
    </Section>
  );
}
