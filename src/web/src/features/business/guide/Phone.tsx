import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import { addDays, money, shortDate, timeWords } from "../../../shared/format";
import { Box } from "../../../shared/layout";
import { guide } from "../../../theme/recipes/guide";
import type { Begin, Begun } from "./beginning";

/** The booking page as clients would find it, and what cannot be booked yet, with why. */
export function Phone({ draft, begun, isOld }: { draft: Begin; begun: Begun | null; isOld: boolean }) {
  const styles = useSlotRecipe({ recipe: guide })();
  const when = (date: string) =>
    date === begun!.today ? t`today` : date === addDays(begun!.today, 1) ? t`tomorrow` : shortDate(date);
  return (
    <Box as="aside" css={styles["phone"]} aria-label={t`The booking page as clients would find it`} aria-busy={isOld}>
      <Box css={styles["screen"]}>
        <Box>
          <b>{draft.name || t`Your business`}</b>
          <Box color="quiet" fontSize="small">
            {draft.address}
          </Box>
        </Box>
        <Box css={styles["card"]} aria-hidden>
          <Trans>
            I would like <b>what?</b> by <b>whoever is free</b> <b>when?</b>
          </Trans>
        </Box>
        {begun?.services.map((service, i) => (
          <Box key={`${service.name} ${i}`} css={styles["item"]}>
            <b>{service.name}</b>
            <span>{money(service.price)}</span>
            {service.date ? (
              <Box css={styles["soon"]}>
                {when(service.date)} {service.clock && timeWords(service.clock)}
              </Box>
            ) : (
              <Box css={styles["not"]}>
                <Trans>Not yet. {service.reasons[0]?.text}</Trans>
              </Box>
            )}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
