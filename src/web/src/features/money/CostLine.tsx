import { t } from "@lingui/core/macro";
import { useSlotRecipe } from "@chakra-ui/react";
import type { Fee, GuaranteeTried } from "../../api/setup";
import { money, shortDate, timeWords } from "../../shared/format";
import { Box } from "../../shared/layout";
import { feeWords } from "./feeWords";
import { costLine } from "../../theme/recipes/costLine";

const momentWords = (local: string) => `${shortDate(local.slice(0, 10))}, ${timeWords(local.slice(11, 16))}`;

/** What cancelling the sample costs, from booking to the start, and not coming. */
export function CostLine({ tried }: { tried: GuaranteeTried }) {
  const styles = useSlotRecipe({ recipe: costLine })();
  const part = (key: string, moment: string, fee: Fee, note?: string) => (
    <Box as="li" key={key} css={styles["step"]}>
      <Box css={styles["moment"]}>{moment}</Box>
      <Box
        css={styles["bar"]}
        data-cost={fee.fee.amount === 0 ? "none" : fee.fee.amount >= tried.price.amount ? "all" : "part"}
      >
        <Box css={styles["cost"]}>
          {note && `${note}: `}
          {fee.fee.amount === 0 ? t`costs nothing` : t`costs ${money(fee.fee)}`}
        </Box>
        <Box css={styles["from"]}>{feeWords(fee)}</Box>
      </Box>
    </Box>
  );
  return (
    <Box as="ol" listStyleType="none" css={styles["line"]} aria-label={t`What cancelling costs when`}>
      {tried.steps.map((step, i) =>
        part(String(i), step.from ? t`after ${momentWords(step.from)}` : t`from booking on`, step.fee),
      )}
      {part("missed", t`from the start on`, tried.noShow, t`not coming`)}
    </Box>
  );
}
