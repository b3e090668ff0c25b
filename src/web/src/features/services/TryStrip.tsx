import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import type { ReactNode } from "react";
import { minuteOf } from "../../shared/fields/clockText";
import { dayOfMonth, shortDate } from "../../shared/format";
import { Box, Row } from "../../shared/layout";
import { Problem } from "../../shared/problem";
import { ChoicePart } from "../../shared/sentence/Sentence";
import { tryIt } from "../../theme/recipes/tryIt";
import type { Tried } from "./useTried";

/** The real starts of the next seven days as the service stands on this page, before it is saved. */
export function TryStrip({ tried, children }: { tried: Tried; children: ReactNode }) {
  const styles = useSlotRecipe({ recipe: tryIt })();
  const { answer, places, locationId, setPlace } = tried;
  if (!locationId) return <Row>{children}</Row>;
  const problem = answer.error instanceof Problem ? answer.error : null;
  return (
    <Box aria-label={t`Try it`} role="region">
      <Row gap="2.5" mb="1.5" alignItems="center">
        <Box as="h2" css={styles["title"]}>
          <Trans>Try it</Trans>
        </Box>
        <Box css={styles["hint"]}>
          <Trans>
            what a client would find
            {places.length > 1 && (
              <>
                <Trans>
                  {" "}
                  at{" "}
                  <ChoicePart
                    label={t`Location to try`}
                    options={places.map((other) => ({ value: other.id!, label: other.name ?? "" }))}
                    value={locationId}
                    onChange={setPlace}
                  />
                </Trans>
              </>
            )}{" "}
            if you saved it so
          </Trans>
        </Box>
        <Row ms="auto" flexDirection="row-reverse" gap="2">
          {children}
        </Row>
      </Row>
      {problem ? (
        <Box role="alert" css={styles["problem"]}>
          {Object.values(problem.errors)[0] ?? problem.message}
        </Box>
      ) : (
        <Box css={styles["days"]} data-old={answer.isFetching} aria-live="polite">
          {answer.data?.days.map((day) => (
            <Box
              key={day.date}
              css={styles["day"]}
              data-none={day.starts.length === 0}
              role="group"
              aria-label={shortDate(day.date)}
            >
              <Box css={styles["head"]}>
                {dayOfMonth(day.date)} <b>{day.starts.length || t`none`}</b>
              </Box>
              <Box css={styles["strip"]} aria-hidden>
                {day.starts.map((start) => (
                  <Box key={start} css={styles["start"]} style={{ left: `${placeOf(start)}%` }} />
                ))}
              </Box>
              <Box css={styles["words"]}>
                {day.starts.length > 0 ? t`from ${day.starts[0] ?? ""}` : (day.reasons[0]?.text ?? "")}
              </Box>
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}

/** Between seven and ten in the evening, in per cent. */
const placeOf = (start: string) => Math.min(96, Math.max(0, ((minuteOf(`${start}:00`) - 7 * 60) / (15 * 60)) * 100));
